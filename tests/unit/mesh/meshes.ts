import type { TriangleMesh } from '../../../src/core/mesh/triangleMesh.ts';

type Place = (i: number, j: number) => readonly [number, number, number];

/** A grid of nu x nv fields as triangles; a closed one's last column is its first. */
export function gridMesh(nu: number, nv: number, at: Place, closed = false): TriangleMesh {
	const columns = closed ? nu : nu + 1;
	const positions: number[] = [];
	const triangles: number[] = [];
	for (let j = 0; j <= nv; j++) for (let i = 0; i < columns; i++) positions.push(...at(i, j));
	for (let j = 0; j < nv; j++)
		for (let i = 0; i < nu; i++) {
			const [a, b] = [j * columns + i, j * columns + ((i + 1) % columns)];
			triangles.push(a, b, b + columns, a, b + columns, a + columns);
		}
	return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** A ball with a vertex at each pole. */
export function ballMesh(radius: number, around: number, up: number): TriangleMesh {
	const positions = [0, 0, -radius];
	for (let j = 1; j < up; j++)
		for (let i = 0; i < around; i++) {
			const [latitude, longitude] = [-Math.PI / 2 + (Math.PI * j) / up, (2 * Math.PI * i) / around];
			const r = radius * Math.cos(latitude);
			positions.push(r * Math.cos(longitude), r * Math.sin(longitude), radius * Math.sin(latitude));
		}
	positions.push(0, 0, radius);
	const top = positions.length / 3 - 1;
	const at = (i: number, j: number) => 1 + (j - 1) * around + (i % around);
	const triangles: number[] = [];
	for (let i = 0; i < around; i++) {
		triangles.push(0, at(i + 1, 1), at(i, 1), at(i, up - 1), at(i + 1, up - 1), top);
		for (let j = 1; j + 1 < up; j++)
			triangles.push(at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j), at(i + 1, j + 1), at(i, j + 1));
	}
	return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** An axis-parallel box of six flat sides, every corner shared. */
export function boxMesh(x: number, y: number, z: number): TriangleMesh {
	const positions = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => [k & 1 ? x : 0, k & 2 ? y : 0, k & 4 ? z : 0]);
	const quads = [
		[0, 2, 3, 1],
		[4, 5, 7, 6],
		[0, 1, 5, 4],
		[2, 6, 7, 3],
		[0, 4, 6, 2],
		[1, 3, 7, 5]
	];
	return {
		positions: Float64Array.from(positions),
		triangles: Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]))
	};
}

/** The same triangles with three vertices each of their own, as STL files have them. */
export const unwelded = ({ positions, triangles }: TriangleMesh): TriangleMesh => ({
	positions: Float64Array.from([...triangles].flatMap((v) => [...positions.subarray(v * 3, v * 3 + 3)])),
	triangles: Uint32Array.from(triangles, (_, k) => k)
});
