import { expect } from 'chai';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { NO_CELL, outlinesOf, validateCells } from '../../../src/core/tiling/cells.ts';
import { layOpening } from '../../../src/core/tiling/openings/layOpening.ts';
import { bordersSchema, openingSchema } from '../../../src/core/tiling/openings/schema.ts';
import { trimCells } from '../../../src/core/tiling/openings/trim.ts';
import { tileFace } from '../../../src/core/tiling/tile.ts';
import type { Tiling } from '../../../src/core/tiling/schema.ts';
import { count } from '../divide.ts';
import { rectangle } from '../surfaces.ts';
import { ALL_TILINGS } from '../tile.ts';

/** A wall of 12 by 8 m, where nothing else is said in cells of a metre, with a box of 3 by 2 m whose lower side is so high, and how its edges run. */
function wall(across: number, up: number, tiling: Tiling = { kind: 'rectangular' }, columns = 12) {
	const surface = rectangle(12_000, 8000);
	const face = chartFace(surface);
	const grid = setOut(face, settingOutOf(count(columns), count(8)));
	const { nodes = grid.nodes, cells: whole } = tileFace(face, grid, tiling, []);
	const opening = openingSchema.parse({
		id: 'o',
		name: 'Hole',
		outline: { kind: 'rectangle', width: 3000, height: 2000 },
		place: { kind: 'face', across, up }
	});
	const made = trimCells(face, nodes, whole, [layOpening(face, opening, [])], bordersSchema.parse({}));
	const { position } = made.nodes;
	expect(validateCells(made.cells, position.length / 3)).deep.equal([]);
	const { edgeCount, edgeNodes, edgeCells } = made.cells;
	const edges = Array.from({ length: edgeCount }, (_, e) => {
		const [a, b] = [edgeNodes[e * 2]!, edgeNodes[e * 2 + 1]!].map((n) => [...position.subarray(n * 3, n * 3 + 3)]);
		return { a: a!, b: b!, border: edgeCells[e * 2 + 1] === NO_CELL };
	});
	/** Length of edges on the border of the opening, seen in a window about it. */
	const around = edges
		.filter(({ a, b, border }) => border && [a, b].every(([x, y]) => Math.abs(x!) < 5900 && Math.abs(y!) < 3900))
		.reduce((sum, { a, b }) => sum + Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!), 0);
	const area = measureCells(made.nodes, made.cells).columns.area.reduce((sum, a) => sum + a, 0);
	return { ...made, around, area, surface, whole };
}

describe('cells beside those that an opening cuts', () => {
	it('share every edge where its sides lie on lines of the grid: the border of the hole is as long as its line', () => {
		for (const [across, up] of [
			[4000, 2000],
			[4500, 2500],
			[4500, 2000],
			[4000, 2250]
		] as const) {
			const { around, area, surface } = wall(across, up);
			expect(around, `${across} ${up}`).closeTo(10_000, 0.01);
			expect(area).closeTo(surfaceArea(surface) - 6e6, 1);
		}
	});

	it('do so in every tiling', () => {
		for (const tiling of ALL_TILINGS) {
			if (['part', 'icosahedral', 'two-squares', 'fans'].includes(tiling.kind)) continue;
			expect(wall(4000, 2000, tiling).around, tiling.kind).closeTo(10_000, 0.05);
		}
	});

	it('stay whole, with as many corners as before', () => {
		const { cells, whole } = wall(4000, 2000);
		const { cornerStart } = outlinesOf(cells);
		const below = [...cells.row.keys()].filter((c) => cells.row[c] === 1);
		expect(below.length).equal([...whole.row].filter((r) => r === 1).length);
		for (const c of below) {
			expect(cells.trim!.cut[c]).equal(0);
			expect(cornerStart[c + 1]! - cornerStart[c]!).equal(4);
		}
	});

	it('are not cut by less than a millimetre, nor left as strips of less', () => {
		for (const off of [-0.9, -0.3, 0.3, 0.9]) {
			const exact = wall(4500, 2000).cells;
			const { cells, around } = wall(4500 + off, 2000 + off);
			expect(cells.count, `${off}`).equal(exact.count);
			expect([...cells.trim!.cut]).deep.equal([...exact.trim!.cut]);
			expect(around).closeTo(10_000, 0.01);
		}
		// Nor do their tips stay in it, however narrow these are: here 5 mm of cells of 50 by 1000.
		expect(wall(4500, 1995, { kind: 'triangles', diagonal: 'alternating' }, 240).around).closeTo(10_000, 0.05);
		// What is cut by more is cut.
		expect(wall(4500, 1998).cells.trim!.cut.reduce((a, b) => a + b, 0)).equal(6);
	});
});
