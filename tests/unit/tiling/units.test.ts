import { expect } from 'chai';
import fc from 'fast-check';
import { ringArea } from '../../../src/core/tiling/openings/rings.ts';
import { tilingSchema } from '../../../src/core/tiling/schema.ts';
import { checkUnit } from '../../../src/core/tiling/units/checkUnit.ts';
import { leaning, runningBond } from '../../../src/core/tiling/units/library.ts';
import { prepareUnit } from '../../../src/core/tiling/units/prepareUnit.ts';
import type { TilingUnit } from '../../../src/core/tiling/units/unit.ts';
import { unitOf } from '../../../src/core/tiling/units/unitOf.ts';
import { ALL_TILINGS, tile, type TilingInput } from '../tile.ts';
import { rectangle } from '../surfaces.ts';

const box = (role: string, x: number, y: number, w = 1, h = 1): TilingUnit['cells'][number] => ({
	role,
	corners: [
		[x, y],
		[x + w, y],
		[x + w, y + h],
		[x, y + h]
	]
});
const unit = (cells: TilingUnit['cells'], more: Partial<TilingUnit> = {}): TilingUnit => ({
	width: 2,
	height: 1,
	open: false,
	cells,
	...more
});

describe('units of tilings', () => {
	it('cover the plane once, all that are built in and whole', () => {
		for (const tiling of ALL_TILINGS) {
			const made = unitOf(tiling);
			if (!made) continue;
			const { message, covered, overlaps } = checkUnit(made);
			expect(message, tiling.kind).equal(undefined);
			expect(overlaps, tiling.kind).deep.equal([]);
			expect(covered, tiling.kind).closeTo(tiling.kind === 'part' ? 0.5 : 1, 1e-6);
			expect(
				made.cells.reduce((s, c) => s + Math.abs(ringArea(c.corners)), 0),
				tiling.kind
			).closeTo(covered * made.width * made.height, 1e-6);
		}
	});

	it('cover it whatever the offset and the lean', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 0.05, max: 0.95, noNaN: true }),
				(offset) => checkUnit(runningBond(offset)).message === undefined
			),
			{ numRuns: 30 }
		);
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 8 }),
				fc.integer({ min: 1, max: 12 }),
				(fields, rows) => checkUnit(leaning(fields, rows)).message === undefined
			),
			{ numRuns: 20 }
		);
	});

	it('are refused in words where they lie over each other, leave a gap or cross themselves', () => {
		expect(checkUnit(unit([box('a', 0, 0), box('b', 0.5, 0)])).message).contains(
			'Cell 1 (a) and cell 2 (b) lie over each other'
		);
		const gap = checkUnit(unit([box('a', 0, 0)]));
		expect(gap.message).contains('leave 50 % of the unit open');
		expect(gap.gaps.map((g) => Math.abs(ringArea(g)))).deep.equal([1]);
		expect(checkUnit(unit([box('a', 0, 0)], { open: true })).message).equal(undefined);
		expect(
			checkUnit(
				unit([
					{
						role: 'bow',
						corners: [
							[0, 0],
							[1, 1],
							[1, 0],
							[0, 1]
						]
					}
				])
			).message
		).contains('crosses itself, side 1 and side 3');
		expect(
			checkUnit(
				unit([
					{
						role: 'line',
						corners: [
							[0, 0],
							[1, 0],
							[2, 0]
						]
					}
				])
			).message
		).contains('has no area');
		// A copy of a cell one unit further may meet the cell itself.
		expect(checkUnit(unit([box('wide', 0, 0, 2.5)])).message).contains('lie over each other');
	});

	it('know the corners of neighbours on their sides', () => {
		const { cells, vertices } = prepareUnit(runningBond(0.25));
		expect(vertices.length).equal(4);
		for (const { corners } of cells) expect(corners.filter((c) => c.straight).length).equal(2);
		const counts = prepareUnit(unitOf(tilingSchema.parse({ kind: 'basket-weave', length: 3 }))!).cells.map(
			(c) => c.corners.filter((k) => k.straight).length
		);
		// The two outer bricks of a block have the ends of two bricks beside them along their length.
		expect([...counts].sort()).deep.equal([0, 0, 0, 0, 2, 2, 2, 2, 2, 2, 2, 2]);
	});
});

/** Numbers of sides of the cells around each inner node, least first, as they follow each other around it. */
function configurations(tiling: TilingInput): Set<string> {
	const { cells, nodes } = tile(rectangle(24_000, 24_000), 24, 24, tiling);
	const around = new Map<number, { sides: number; before: number; after: number }[]>();
	for (let c = 0; c < cells.count; c++) {
		const ring = [...cells.corners.subarray(cells.cornerStart[c], cells.cornerStart[c + 1])];
		ring.forEach((node, k) => {
			const list = around.get(node) ?? [];
			around.set(node, list);
			list.push({
				sides: ring.length,
				before: ring[(k + ring.length - 1) % ring.length]!,
				after: ring[(k + 1) % ring.length]!
			});
		});
	}
	const found = new Set<string>();
	for (const [node, corners] of around) {
		const [x, y] = [nodes.position[node * 3]!, nodes.position[node * 3 + 1]!];
		// Far enough from the borders that no cell around is cut.
		if (Math.abs(x) > 8000 || Math.abs(y) > 8000) continue;
		const order = [corners[0]!];
		while (order.length < corners.length) order.push(corners.find((c) => c.after === order.at(-1)!.before)!);
		const sides = order.map((c) => c.sides);
		const turns = sides.flatMap((_, k) => [
			[...sides.slice(k), ...sides.slice(0, k)],
			[...sides.slice(k), ...sides.slice(0, k)].reverse()
		]);
		found.add(
			turns
				.map((t) => t.map((s) => String(s).padStart(2, '0')).join('.'))
				.sort()[0]!
				.replace(/\b0/g, '')
		);
	}
	return found;
}

// Grünbaum and Shephard, Tilings and Patterns, 1987 (from memory).
describe('vertex configurations of the named tilings', () => {
	const NAMED: readonly [TilingInput, ...string[]][] = [
		[{ kind: 'rectangular' }, '4.4.4.4'],
		[{ kind: 'triangles' }, '3.3.3.3.3.3'],
		[{ kind: 'staggered' }, '3.3.3.3.3.3'],
		[{ kind: 'triangles', diagonal: 'alternating' }, '3.3.3.3', '3.3.3.3.3.3.3.3'],
		[{ kind: 'fans' }, '3.3.3.3', '3.3.3.3.3.3.3.3'],
		[{ kind: 'diamonds' }, '4.4.4.4'],
		[{ kind: 'hexagons' }, '6.6.6'],
		[{ kind: 'trihexagons' }, '3.6.3.6'],
		[{ kind: 'octagons' }, '4.8.8'],
		[{ kind: 'dodecagons' }, '3.12.12'],
		[{ kind: 'snub-square' }, '3.3.4.3.4'],
		[{ kind: 'rhombs' }, '4.4.4', '4.4.4.4.4.4'],
		[{ kind: 'pentagons' }, '5.5.5', '5.5.5.5']
	];
	for (const [tiling, ...expected] of NAMED)
		it(`${Object.values(tiling).join(' ')}: ${expected.join(' and ')}`, () => {
			expect([...configurations(tiling)].sort()).deep.equal(expected);
		});

	it('have equal sides and angles where fields are square, or half the root of three as high as wide', () => {
		for (const [kind, ratio] of [
			['hexagons', Math.sqrt(3) / 2],
			['trihexagons', Math.sqrt(3) / 2],
			['dodecagons', Math.sqrt(3) / 2],
			['staggered', Math.sqrt(3) / 2],
			['octagons', 1],
			['snub-square', 1]
		] as const) {
			const { cells, all } = tile(rectangle(12_000, 12_000 * ratio), 12, 12, { kind, border: 'whole' });
			const [least, greatest, corners, small, large] = (
				['leastEdge', 'greatestEdge', 'corners', 'leastAngle', 'greatestAngle'] as const
			).map((n) => all.column(`cell.${n}`)) as [Float64Array, Float64Array, Float64Array, Float64Array, Float64Array];
			for (let c = 0; c < cells.count; c++) {
				expect(greatest[c], kind).closeTo(least[0]!, 1e-6);
				const angle = Math.PI * (1 - 2 / corners[c]!);
				expect(small[c], kind).closeTo(angle, 1e-9);
				expect(large[c], kind).closeTo(angle, 1e-9);
			}
		}
	});
});
