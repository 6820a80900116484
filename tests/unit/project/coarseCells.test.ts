import { expect } from 'chai';
import fc from 'fast-check';
import type { CellMesh } from '../../../src/core/project/cellMesh.ts';
import { nearAndFar } from '../../../src/core/project/coarseCells.ts';
import type { FaceModel } from '../../../src/core/project/faceResult.ts';
import { demoProject, demoWith, ranDemo, run, setCount } from '../demo.ts';
import { ALL_TILINGS } from '../tile.ts';

const ORIGIN = [0, 0, 0] as const;

/** Corner of a triangle, mm. */
const corner = ({ positions }: CellMesh, t: number, k: number) =>
	[...positions.subarray(t * 9 + k * 3, t * 9 + k * 3 + 3)] as [number, number, number];

function areaOf(mesh: CellMesh): number {
	let area = 0;
	for (let t = 0; t < mesh.cellOf.length; t++) {
		const [a, b, c] = [0, 1, 2].map((k) => corner(mesh, t, k)) as unknown as [number[], number[], number[]];
		const [u, v] = [b, c].map((p) => p.map((x, i) => x - a[i]!)) as [number[], number[]];
		area +=
			Math.hypot(...[0, 1, 2].map((i) => u[(i + 1) % 3]! * v[(i + 2) % 3]! - u[(i + 2) % 3]! * v[(i + 1) % 3]!)) / 2;
	}
	return area;
}

/** How far the middle of a triangle is from a corner of its cell, mm. */
function farthestFromCell(mesh: CellMesh, { nodes: { position }, cells }: FaceModel): number {
	let far = 0;
	mesh.cellOf.forEach((cell, t) => {
		const corners = [0, 1, 2].map((k) => corner(mesh, t, k));
		const node = cells.corners[cells.cornerStart[cell]!]!;
		far = Math.max(
			far,
			Math.hypot(...[0, 1, 2].map((i) => corners.reduce((s, p) => s + p[i]! / 3, 0) - position[node * 3 + i]!))
		);
	});
	return far;
}

const sideOf = ({ cells, readings }: FaceModel) =>
	Math.sqrt(readings.columns.area.reduce((s, a) => s + a, 0) / cells.count);

describe('cells as they are seen from afar', () => {
	it('are far fewer triangles of about the same area, each near its cell, whatever the tiling', async () => {
		for (const tiling of ALL_TILINGS) {
			if (['part', 'icosahedral'].includes(tiling.kind)) continue;
			const project = demoProject();
			setCount(project, 0, 'across', 60);
			setCount(project, 0, 'up', 80);
			project.masses[0]!.faces[0]!.tiling = tiling;
			project.rules = [];
			const [face] = (await run(project)).faces as [FaceModel];
			const { far, ...near } = nearAndFar(face, ORIGIN);
			expect(far.cellOf.length / near.cellOf.length, tiling.kind).within(0.02, 0.15);
			expect(areaOf(far) / areaOf(near), tiling.kind).within(0.9, 1.05);
			// A box is four sides wide, and a triangle has corners in three that meet.
			expect(farthestFromCell(far, face) / sideOf(face), tiling.kind).below(4 * Math.sqrt(3) * 2);
			expect(far.cellOf.every((cell) => cell < face.cells.count)).equal(true);
		}
	});

	it('leave open what is wide, and never come to nothing (the demo, openings and trimmed borders)', async () => {
		const { model } = await ranDemo();
		for (const face of model.faces) {
			const { far, ...near } = nearAndFar(face, ORIGIN);
			expect(far.positions.every(Number.isFinite), face.key).equal(true);
			expect(far.cellOf.length, face.key).within(1, near.cellOf.length);
			if (face.cells.count > 200) expect(areaOf(far) / areaOf(near), face.key).within(0.75, 1.1);
		}
	});

	it('are so few of very many cells, too, that a picture of them is quick', async () => {
		const project = demoWith(300, 400);
		project.rules = [];
		const [face] = (await run(project)).faces as [FaceModel];
		const { far, ...near } = nearAndFar(face, ORIGIN);
		expect(far.cellOf.length).within(3000, 12_000);
		expect(areaOf(far) / areaOf(near)).within(0.9, 1.05);
	});

	it('keep a strip that is narrower than what is made one elsewhere', async () => {
		const project = demoWith(2, 600);
		project.rules = [];
		const [face] = (await run(project)).faces as [FaceModel];
		const { far, ...near } = nearAndFar(face, ORIGIN);
		expect(areaOf(far) / areaOf(near)).within(0.75, 1.05);
	});

	it('name a triangle once, with three corners that differ (property)', async () => {
		await fc.assert(
			fc.asyncProperty(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }), async (across, up) => {
				const project = demoWith(across, up);
				project.rules = [];
				const [face] = (await run(project)).faces as [FaceModel];
				const { far } = nearAndFar(face, ORIGIN);
				const keys = Array.from(far.cellOf, (_, t) => [0, 1, 2].map((k) => corner(far, t, k).join()).sort());
				expect(keys.every(([a, b, c]) => a !== b && b !== c)).equal(true);
				expect(new Set(keys.map((k) => k.join(' '))).size).equal(keys.length);
			}),
			{ numRuns: 25 }
		);
	});
});
