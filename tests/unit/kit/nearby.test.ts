import { expect } from 'chai';
import { tilingSchema } from '../../../src/core/tiling/schema.ts';
import type { Placement } from '../../../src/core/placement/place.ts';
import { fullDemo, run } from '../demo.ts';

/** Every point of a placement's own shapes, with its row. */
function piecesOf(placement: Placement): { placement: Placement; rows: number[]; positions: number[] }[] {
	return placement.parts.map(({ geometry }) => {
		const rows: number[] = [];
		const positions: number[] = [];
		if (geometry.kind === 'pattern')
			placement.hosts.forEach((_, row) => {
				for (const point of new Set(geometry.triangles)) {
					rows.push(row);
					positions.push(
						...geometry.points.subarray(
							(row * geometry.pointsPerHost + point) * 3,
							(row * geometry.pointsPerHost + point) * 3 + 3
						)
					);
				}
			});
		if (geometry.kind === 'loose')
			geometry.rows.forEach((row, k) => {
				for (let o = geometry.positionStart[k]!; o < geometry.positionStart[k + 1]!; o++) {
					if (o % 3 === 0) rows.push(row);
					positions.push(geometry.positions[o]!);
				}
			});
		return { placement, rows, positions };
	});
}

describe('parts of cells with short sides', () => {
	it('stand where a side is shorter than the frame is wide: it vanishes', async () => {
		const project = fullDemo();
		project.masses[2]!.faces[0]!.tiling = tilingSchema.parse({ kind: 'voronoi' });
		const model = await run(project);
		const lantern = model.faces[2]!;
		const placed = lantern.placements.reduce((n, p) => n + p.hosts.length, 0);
		const failed = model.warnings.flatMap((w) => (w.face === lantern.key && w.cells ? [...w.cells] : []));
		expect(placed + failed.length).equal(lantern.cells.count);
		expect(failed.length).most(2);
		// Each cell once: its frame and its pane fill it, but for the recess and the warp.
		const area = lantern.placements
			.flatMap((p) => p.parts.filter((q) => q.name !== 'reveal').flatMap((q) => [...q.area]))
			.reduce((a, b) => a + b, 0);
		expect(area / lantern.readings.columns.area.reduce((a, b) => a + b, 0)).within(0.98, 1.01);
	});
});

describe('parts of cut cells', () => {
	it('stay by their cell, however wide the frame', async () => {
		for (const frameWidth of [300, 500, 700, 900]) {
			const project = fullDemo();
			for (const rule of project.rules) rule.values = { ...rule.values, frameWidth, recess: 50 };
			const model = await run(project);
			for (const { key, cells, nodes, placements } of model.faces)
				for (const { placement, rows, positions } of placements.flatMap(piecesOf))
					rows.forEach((row, k) => {
						const cell = placement.hosts[row]!;
						const corners = [...cells.corners.subarray(cells.cornerStart[cell], cells.cornerStart[cell + 1])];
						for (let o = k * 3; o < k * 3 + 3; o++) {
							const at = corners.map((n) => nodes.position[n * 3 + (o % 3)]!);
							expect(positions[o], `${key} cell ${cell} at ${frameWidth}`).within(
								Math.min(...at) - 400,
								Math.max(...at) + 400
							);
						}
					});
		}
	});
});
