import { cos, sin } from '../elementary/index.ts';
import { meshVolume, type Mesh } from './mesh.ts';

/** A box from 0 to 1 along each axis. */
export const UNIT_BOX: Mesh = {
	positions: Float64Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 0, 1, 1, 0, 1, 1, 1, 1, 0, 1, 1]),
	triangles: Uint32Array.from([
		0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7
	])
};

/** A ball of radius 1 around the origin, of so many pieces around its equator and half as many from pole to pole. */
export function unitBall(pieces: number): Mesh {
	const rings = Math.max(2, Math.round(pieces / 2));
	const positions = [0, 0, -1];
	for (let r = 1; r < rings; r++) {
		const up = -Math.PI / 2 + (Math.PI * r) / rings;
		for (let k = 0; k < pieces; k++)
			positions.push(cos(up) * cos((2 * Math.PI * k) / pieces), cos(up) * sin((2 * Math.PI * k) / pieces), sin(up));
	}
	positions.push(0, 0, 1);
	const top = positions.length / 3 - 1;
	const at = (r: number, k: number) => 1 + (r - 1) * pieces + (k % pieces);
	const triangles: number[] = [];
	for (let k = 0; k < pieces; k++) {
		triangles.push(0, at(1, k + 1), at(1, k), top, at(rings - 1, k), at(rings - 1, k + 1));
		for (let r = 1; r < rings - 1; r++)
			triangles.push(at(r, k), at(r, k + 1), at(r + 1, k + 1), at(r, k), at(r + 1, k + 1), at(r + 1, k));
	}
	return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** A cylinder of radius 1 from z 0 to 1. */
export function unitCylinder(pieces: number): Mesh {
	const positions: number[] = [0, 0, 0, 0, 0, 1];
	for (const z of [0, 1])
		for (let k = 0; k < pieces; k++)
			positions.push(cos((2 * Math.PI * k) / pieces), sin((2 * Math.PI * k) / pieces), z);
	const triangles: number[] = [];
	for (let k = 0; k < pieces; k++) {
		const [a, b] = [2 + k, 2 + ((k + 1) % pieces)];
		const [c, d] = [a + pieces, b + pieces];
		triangles.push(0, b, a, 1, c, d, a, b, d, a, d, c);
	}
	return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** Pieces around a round body that is measured by its mesh; a cut through one is right to some ten thousandths then. */
const FINE_PIECES = 96;

/** A ball of radius 1 in fine pieces, as large as the round one: some of it lies outside. */
export const FINE_BALL: Mesh = grown(unitBall(FINE_PIECES), (volume) => {
	const by = cubeRoot(((4 / 3) * Math.PI) / volume);
	return [by, by, by];
});

/** A cylinder of radius 1 and height 1 in fine pieces, as large as the round one. */
export const FINE_CYLINDER: Mesh = grown(unitCylinder(2 * FINE_PIECES), (volume) => {
	const by = Math.sqrt(Math.PI / volume);
	return [by, by, 1];
});

function grown(mesh: Mesh, scalesFor: (volume: number) => readonly [number, number, number]): Mesh {
	const scales = scalesFor(meshVolume(mesh));
	return { ...mesh, positions: mesh.positions.map((x, k) => x * scales[k % 3]!) };
}

/** Of a number near 1, by Newton's method. */
function cubeRoot(x: number): number {
	let root = 1;
	for (let step = 0; step < 6; step++) root -= (root * root * root - x) / (3 * root * root);
	return root;
}

/** A mesh put up by a 3 x 4 transform: columns x, y, z and origin. */
export function transformed({ positions, triangles }: Mesh, m: ArrayLike<number>, at = 0): Mesh {
	const out = new Float64Array(positions.length);
	for (let k = 0; k < positions.length; k += 3)
		for (let c = 0; c < 3; c++)
			out[k + c] =
				positions[k]! * m[at + c]! +
				positions[k + 1]! * m[at + 3 + c]! +
				positions[k + 2]! * m[at + 6 + c]! +
				m[at + 9 + c]!;
	return { positions: out, triangles };
}
