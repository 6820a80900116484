import { expect } from 'chai';
import fc from 'fast-check';
import { clipMesh } from '../../../src/core/kit/clipMesh.ts';
import type { Mesh } from '../../../src/core/kit/mesh.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import { starterProject } from '../../../src/core/project/starter.ts';
import { STARTER_MATERIALS } from '../../../src/core/project/starterMaterials.ts';
import { cutBar } from '../../../src/core/schedule/types/cutBars.ts';
import { cutBarSizes } from '../../../src/core/schedule/types/barSizes.ts';
import { cluster } from '../../../src/core/schedule/types/cluster.ts';
import { pieceTypes } from '../../../src/core/schedule/types/pieceTypes.ts';
import { addRule, run } from '../demo.ts';

type Ring = readonly (readonly [number, number])[];
const RECTANGLE: Ring = [
	[0, 0],
	[60, 0],
	[60, 40],
	[0, 40]
];
const TEE: Ring = [
	[0, 0],
	[80, 0],
	[80, 6],
	[43, 6],
	[43, 50],
	[37, 50],
	[37, 6],
	[0, 6]
];
type Point = readonly [number, number, number];

/** A bar of an outline from z = 0 up, closed at both ends; `fan` triangles at its ends, of a convex outline or by `ends`. */
function prism(ring: Ring, length: number, ends: readonly (readonly [number, number, number])[]): Mesh {
	const n = ring.length;
	const positions = Float64Array.from([0, length].flatMap((z) => ring.flatMap(([x, y]) => [x, y, z])));
	const sides = ring.flatMap((_, k) => {
		const [a, b] = [k, (k + 1) % n];
		return [a, b, b + n, a, b + n, a + n];
	});
	const caps = ends.flatMap(([a, b, c]) => [c, b, a, a + n, b + n, c + n]);
	return { positions, triangles: Uint32Array.from([...sides, ...caps]) };
}
const fan = (n: number) => Array.from({ length: n - 2 }, (_, k) => [0, k + 1, k + 2] as const);
const TEE_ENDS = [
	[0, 1, 2],
	[0, 2, 3],
	[0, 3, 6],
	[0, 6, 7],
	[3, 4, 5],
	[3, 5, 6]
] as const;

/** Turned about two axes and moved. */
function moved({ positions, triangles }: Mesh, a: number, b: number, by: number): Mesh {
	const out = positions.slice();
	for (let k = 0; k < out.length; k += 3) {
		const [x, y, z] = [positions[k]!, positions[k + 1]!, positions[k + 2]!];
		const [p, q] = [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a)];
		out.set([p * Math.cos(b) - z * Math.sin(b) + by, q - by, p * Math.sin(b) + z * Math.cos(b) + by / 3], k);
	}
	return { positions: out, triangles };
}
const mirrored = ({ positions, triangles }: Mesh): Mesh => ({
	positions: positions.map((x, k) => (k % 3 === 0 ? -x : x)),
	triangles: triangles.map((_, k) => triangles[k % 3 === 1 ? k + 1 : k % 3 === 2 ? k - 1 : k]!)
});
const cut = (mesh: Mesh, at: Point, normal: Point): Mesh => {
	const size = Math.hypot(...normal);
	return clipMesh(mesh, at, [normal[0] / size, normal[1] / size, normal[2] / size])!;
};

/** How many types bodies of one part are of. */
function typesOf(meshes: readonly Mesh[]): number {
	const starts = (of: (mesh: Mesh) => ArrayLike<number>) =>
		Uint32Array.from(meshes.reduce<number[]>((all, mesh) => [...all, all.at(-1)! + of(mesh).length], [0]));
	const made = cutBarSizes({
		kind: 'loose',
		positions: Float64Array.from(meshes.flatMap((m) => [...m.positions])),
		triangles: Uint32Array.from(meshes.flatMap((m) => [...m.triangles])),
		positionStart: starts((m) => m.positions),
		triangleStart: starts((m) => m.triangles),
		rows: Uint32Array.from(meshes, (_, k) => k)
	});
	expect(
		made.reduce((n, { list }) => n + list.length, 0),
		'all are told as bars'
	).equal(meshes.length);
	return made.reduce((n, { made: sizes }) => n + cluster({ ...sizes, tolerance: () => 0.3 }).counts.length, 0);
}

const angle = fc.double({ min: -3, max: 3, noNaN: true });
const slope = fc.double({ min: -0.8, max: 0.8, noNaN: true });

describe('bars whose ends are cut', () => {
	it('are told by the edges of their profile, wherever they lie (property)', () =>
		fc.assert(
			fc.property(angle, angle, slope, slope, (a, b, u, v) => {
				for (const [ring, ends] of [
					[RECTANGLE, fan(4)],
					[TEE, TEE_ENDS]
				] as const) {
					const whole = prism(ring, 1000, ends);
					const mesh = cut(cut(whole, [0, 0, 200], [u, v, 1]), [0, 0, 800], [u, -v, -1]);
					const bar = cutBar(moved(mesh, a, b, 12_345))!;
					expect(bar.loops).deep.equal([ring.length]);
					// By the planes: at (x, y) the first is at 200 - ux - vy, the second at 800 + ux - vy.
					const lengths = ring.map(([x]) => 600 + 2 * u * x).sort((p, q) => p - q);
					const n = ring.length;
					const is = Array.from({ length: n }, (_, k) =>
						Math.hypot(...[0, 1, 2].map((c) => bar.points[(n + k) * 3 + c]! - bar.points[k * 3 + c]!))
					).sort((p, q) => p - q);
					is.forEach((length, k) => expect(length).closeTo(lengths[k]!, 1e-3));
					const centre = ring === RECTANGLE ? 30 : 40;
					expect(bar.mean).closeTo(600 + 2 * u * centre, 1e-3);
				}
			}),
			{ numRuns: 60 }
		));

	it('are of one type wherever they lie and whichever way round, and of another where they are the mirror image', () => {
		const whole = prism(RECTANGLE, 1000, fan(4));
		const piece = cut(cut(whole, [0, 0, 200], [0.3, 0.5, 1]), [0, 0, 800], [0.1, -0.2, -1]);
		const other = cut(cut(whole, [0, 0, 200], [0.3, 0.5, 1]), [0, 0, 800], [0.12, -0.2, -1]);
		const around = [
			piece,
			moved(piece, 1, 2, 5000),
			moved(piece, Math.PI, Math.PI, -300),
			moved(piece, 0, Math.PI, 40)
		];
		expect(typesOf(around)).equal(1);
		expect(typesOf([...around, mirrored(piece), moved(mirrored(piece), 2, 1, 7)])).equal(2);
		expect(typesOf([...around, other])).equal(2);
	});

	it('are none where a body has no edges that run along it, or is not closed', () => {
		const ball = prism(
			Array.from({ length: 40 }, (_, k) => [Math.cos(k / 6.4) * 50, Math.sin(k / 6.4) * 50] as const),
			1,
			fan(40)
		);
		expect(cutBar({ ...ball, triangles: ball.triangles.slice(3) })).equal(undefined);
		const wedge = {
			positions: Float64Array.of(0, 0, 0, 9, 0, 0, 0, 8, 0, 0, 0, 7),
			triangles: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3)
		};
		expect(cutBar(wedge)).equal(undefined);
	});

	it('around a dome are of as many types as it has rows and rings, by its symmetry', async () => {
		const project = starterProject('Dome');
		project.materials = structuredClone([...STARTER_MATERIALS]);
		const mass = newMass(structuredClone(PRESETS.dome), project.levels, { id: 'mass', name: 'Dome', marks: [] });
		const [face] = mass.faces;
		Object.assign(face!.settingOut.across, { spacing: { kind: 'count', count: 24 } });
		Object.assign(face!.settingOut.up, { spacing: { kind: 'count', count: 6 } });
		project.masses = [mass];
		project.kits = structuredClone(STARTER_KITS.filter((k) => k.id === 'mitred-mullion'));
		project.rules = [];
		addRule(project, { id: 'all', face: `mass/${face!.id}`, kit: 'mitred-mullion', values: {} });
		const { types } = pieceTypes((await run(project)).faces);
		// Seven rings and six rows of uprights, 24 of each.
		expect(types.map((t) => t.count)).deep.equal(Array(13).fill(24));
	});
});
