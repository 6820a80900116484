import { expect } from 'chai';
import fc from 'fast-check';
import type { CellTable } from '../../../src/core/tiling/cells.ts';
import {
	cellMark,
	DEFAULT_MARK,
	edgeMark,
	markSchema,
	nodeMark,
	printMark,
	type MarkSource
} from '../../../src/core/tiling/marks.ts';
import { noteMixedRows, orderCells, orderSchema, settleOrder, type CellOrder } from '../../../src/core/tiling/order.ts';
import type { TilingKind } from '../../../src/core/tiling/schema.ts';
import { ALL_TILINGS, charted, tile, type TilingInput } from '../tile.ts';
import { frustum, rectangle, sphereZone, wavy } from '../surfaces.ts';

type Surface = Parameters<typeof tile>[0];
const SAME_END = { across: false, up: false };

/** Cells of a surface with their order. */
function ordered(surface: Surface, tiling: TilingInput, order: Partial<CellOrder> = {}, fromEnd = SAME_END) {
	const { nodes, cells, all } = tile(surface, 20, 12, tiling);
	const settled = settleOrder(orderSchema.parse(order), tiling.kind, charted(surface).ends.closedAcross);
	const found = orderCells(nodes, cells, settled, fromEnd);
	return { nodes, all, cells: found ? { ...cells, order: found } : cells };
}
const sourceOf = (cells: CellTable, template = DEFAULT_MARK): MarkSource & CellTable => ({
	...cells,
	mark: 'F1',
	template
});
const marksOf = (cells: CellTable, template?: string) =>
	Array.from({ length: cells.count }, (_, c) => cellMark(sourceOf(cells, template), c));

describe('the order of cells', () => {
	it('gives every cell of every tiling a mark of its own, on open and closed faces', () => {
		for (const surface of [wavy(3, true), frustum(4000, 3000, 5000), sphereZone(4000, -0.3, Math.PI / 2)])
			for (const tiling of ALL_TILINGS) {
				if (tiling.kind === 'icosahedral' && surface.knotsU.length === 9) continue;
				for (const order of [{}, { rows: 'height', columns: 'angle' }, { backAndForth: true }] as const) {
					const { cells } = ordered(surface, tiling, order);
					expect(new Set(marksOf(cells)).size, tiling.kind).equal(cells.count);
				}
			}
	});

	it('numbers columns without gaps in every row', () => {
		for (const kind of ['voronoi', 'icosahedral', 'random'] satisfies TilingKind[]) {
			const { cells } = ordered(
				sphereZone(4000, -0.3, Math.PI / 2),
				{ kind },
				{ rows: 'height', columns: 'angle', tolerance: 400 }
			);
			const rows = new Map<number, number[]>();
			cells.order!.row.forEach((r, c) => rows.set(r, [...(rows.get(r) ?? []), cells.order!.column[c]!]));
			expect([...rows.keys()].sort((a, b) => a - b)).deep.equal([...rows.keys()].map((_, k) => k));
			for (const columns of rows.values()) expect(columns.sort((a, b) => a - b)).deep.equal(columns.map((_, k) => k));
		}
	});

	it('bands heights: no cell of a row is higher above its lowest one than the tolerance, rows go up', () => {
		const { cells, all } = ordered(sphereZone(4000, -0.3, Math.PI / 2), { kind: 'voronoi' }, { tolerance: 700 });
		const z = all.column('cell.z');
		const rows = new Map<number, number[]>();
		cells.order!.row.forEach((r, c) => rows.set(r, [...(rows.get(r) ?? []), z[c]!]));
		let last = -Infinity;
		for (const [, heights] of [...rows].sort((a, b) => a[0] - b[0])) {
			expect(Math.max(...heights) - Math.min(...heights)).most(700);
			expect(Math.min(...heights)).above(last);
			last = Math.max(...heights);
		}
	});

	it('tells of rows by height that are nearer than the tolerance, with one that parts them', () => {
		const order = (tolerance: number) => orderSchema.parse({ rows: 'height', tolerance });
		const told = (surface: Surface, tiling: TilingInput, tolerance: number) => {
			const { nodes, cells } = tile(surface, 24, 8, tiling);
			return noteMixedRows(nodes, cells, order(tolerance));
		};
		const tower = frustum(4000, 3000, 8000);
		expect(told(tower, { kind: 'rectangular' }, 500)).equal(undefined);
		const note = told(tower, { kind: 'rectangular' }, 1200)!;
		expect(note).match(
			/^Rows by height take 2 rows into one, 48 cells in the longest, since they are only 1.000 mm apart and the tolerance is 1.200 mm\. Right would be a tolerance of about 500 mm\.$/
		);
		expect(told(tower, { kind: 'rectangular' }, 500)).equal(undefined);
		expect(told(tower, { kind: 'rectangular' }, 2500)).match(/take 3 rows into one, 72 cells/);
		// Heights of an irregular tiling go on without a gap: its rows are whatever the tolerance makes them.
		expect(told(tower, { kind: 'voronoi' }, 1200)).equal(undefined);
	});

	it('goes around from a bearing in the sense asked for', () => {
		const heading = (order: Partial<CellOrder>) => {
			const { cells, all } = ordered(
				frustum(4000, 4000, 5000),
				{ kind: 'rectangular' },
				{ columns: 'angle', ...order }
			);
			const [x, y] = [all.column('cell.x'), all.column('cell.y')];
			const firstRow = Array.from({ length: cells.count }, (_, c) => c).filter((c) => cells.order!.row[c] === 0);
			firstRow.sort((a, b) => cells.order!.column[a]! - cells.order!.column[b]!);
			return firstRow.map((c) => ((Math.atan2(x[c]!, y[c]!) * 180) / Math.PI + 360) % 360);
		};
		// Middles of 20 fields are 18 degrees apart, the first at 9 degrees.
		expect(heading({}).slice(0, 3).map(Math.round)).deep.equal([9, 27, 45]);
		expect(
			heading({ bearing: Math.PI / 2 })
				.slice(0, 2)
				.map(Math.round)
		).deep.equal([99, 117]);
		expect(heading({ clockwise: false }).slice(0, 2).map(Math.round)).deep.equal([351, 333]);
	});

	it('goes back and forth, and from the end edges', () => {
		const { cells } = ordered(rectangle(8000, 6000), { kind: 'rectangular' }, { backAndForth: true });
		expect([...cells.order!.column.slice(0, 2), ...cells.order!.column.slice(20, 22)]).deep.equal([0, 1, 19, 18]);
		const end = ordered(rectangle(8000, 6000), { kind: 'triangles' }, {}, { across: true, up: true });
		expect(end.cells.order!.row[0]).equal(11);
		expect(end.cells.order!.column[0]).equal(39);
	});

	it('leaves the tiling’s own count alone, and never touches keys', () => {
		expect(ordered(rectangle(8000, 6000), { kind: 'diamonds' }).cells.order).equal(undefined);
		const [a, b] = [{}, { rows: 'height', backAndForth: true }].map(
			(o) => ordered(wavy(3, true), { kind: 'hexagons' }, o as Partial<CellOrder>).cells
		);
		expect([...a!.row]).deep.equal([...b!.row]);
		expect([...a!.column]).deep.equal([...b!.column]);
	});

	it('keys of a tiling stay when the grid grows at its far ends (rows and columns count from the start)', () => {
		fc.assert(
			fc.property(
				fc.constantFrom(...ALL_TILINGS.filter((t) => !['voronoi', 'icosahedral', 'random'].includes(t.kind))),
				fc.integer({ min: 1, max: 3 }),
				(tiling, more) => {
					const small = tile(rectangle(12_000, 12_000), 12, 12, tiling);
					const large = tile(rectangle(12_000 + more * 12_000, 12_000), 12 + more * 12, 12, tiling);
					const middles = ({ all, cells }: typeof small, shift: number) =>
						new Map(
							Array.from({ length: cells.count }, (_, c) => [
								`${cells.row[c]} ${cells.column[c]}`,
								[all.column('cell.x')[c]! + shift, all.column('cell.y')[c]!] as const
							])
						);
					const [a, b] = [middles(small, 6000), middles(large, 6000 + more * 6000)];
					// Cells that the end border cuts are another matter.
					for (const [key, [x, y]] of a)
						if (x < 9000) {
							const there = b.get(key);
							expect(there, `${tiling.kind} ${key}`).not.equal(undefined);
							expect(Math.hypot(there![0] - x, there![1] - y), `${tiling.kind} ${key}`).below(1e-6);
						}
				}
			),
			{ numRuns: 25 }
		);
	});
});

describe('marks', () => {
	it('are written from a template', () => {
		expect(printMark('{face}-{row:2}-{column:2}', 'C1', 6, 12)).equal('C1-07-13');
		expect(printMark('{role:1}{face}/R{row}.{column:4}', 'C1', 6, 12, 'hexagon')).equal('hC1/R7.0013');
		expect(printMark('{face} {row}.{column}{role}', 'C1', 0, 0, 'triangle', 2)).equal('C1 1.1triangleb');
	});

	for (const [template, words] of [
		['{face}-{row}', 'several cells the same mark; right would be to add {column}'],
		['{row}-{column}', 'right would be to add {face}'],
		['{face}-{row}{column}', 'two numbers run together'],
		['{face}-{row:2}-{colum}', 'knows no {colum}; right would be {face}'],
		['{face}-{row:2-{column}', 'a bracket without its other half'],
		['{face}-{row}-{column}\t!', 'may hold letters'],
		['{face}{row}-{column}', 'two numbers run together']
	] as const)
		it(`refuse ${template} in words`, () => {
			const result = markSchema.safeParse(template);
			expect(result.success).equal(false);
			expect(result.error!.issues[0]!.message).contains(words);
		});

	it('of edges and nodes are their own too, each by its first cell', () => {
		for (const kind of ['rectangular', 'triangles', 'diamonds', 'hexagons', 'voronoi'] satisfies TilingKind[]) {
			const { cells, nodes } = tile(frustum(4000, 3000, 5000), 12, 6, { kind });
			const source = sourceOf(cells);
			const edges = Array.from({ length: cells.edgeCount }, (_, e) => edgeMark(source, e));
			expect(new Set(edges).size, kind).equal(cells.edgeCount);
			const at = new Map<number, number[]>();
			for (let c = 0; c < cells.count; c++)
				for (const n of cells.corners.subarray(cells.cornerStart[c], cells.cornerStart[c + 1]))
					at.set(n, [...(at.get(n) ?? []), c]);
			const marks = [...at].map(([n, around]) => nodeMark(source, n, around));
			expect(new Set(marks).size, kind).equal(at.size);
			expect(at.size).most(nodes.position.length / 3);
		}
		expect(edgeMark(sourceOf(tile(rectangle(4000, 3000), 2, 2, { kind: 'rectangular' }).cells), 0)).match(
			/^F1-\d\d-\d\d\/[1-4]$/
		);
	});
});
