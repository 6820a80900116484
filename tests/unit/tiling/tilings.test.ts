import { expect } from 'chai';
import fc from 'fast-check';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { developmentOf, flattenPlaces } from '../../../src/core/settingout/development.ts';
import { NO_CELL, validateCells, type CellTable } from '../../../src/core/tiling/cells.ts';
import { ringArea, type Ring } from '../../../src/core/tiling/openings/rings.ts';
import { CountError } from '../../../src/core/tiling/tile.ts';
import { ALL_TILINGS, eulerNumber, sum, tile, type TilingInput } from '../tile.ts';
import { frustum, hypar, rectangle, sphereZone, wavy } from '../surfaces.ts';

const OPEN = ['part'];
const keysOf = ({ row, column }: CellTable) => Array.from(row, (r, c) => `${r} ${column[c]}`);

describe('every tiling', () => {
	for (const tiling of ALL_TILINGS) {
		const { kind } = tiling;
		it(`${kind}: sound cells with keys of their own, V - E + F by the kind of face (Euler; from memory)`, () => {
			const faces = [
				['open', wavy(3, true), 1],
				['tube', frustum(4000, 3000, 5000), 0],
				['cone', frustum(4000, 0, 5000), 1],
				['dome', sphereZone(4000, -0.3, Math.PI / 2), 1],
				['ball', sphereZone(4000, -Math.PI / 2, Math.PI / 2), 2]
			] as const;
			for (const [name, surface, expected] of faces) {
				if (kind === 'icosahedral' && name === 'open') continue;
				const { cells, nodes } = tile(surface, 20, 12, tiling);
				expect(validateCells(cells, nodes.position.length / 3), name).deep.equal([]);
				expect(new Set(keysOf(cells)).size, name).equal(cells.count);
				if (!OPEN.includes(kind)) expect(eulerNumber(cells), name).equal(expected);
			}
		});

		if (kind !== 'icosahedral')
			it(`${kind}: areas add up to a flat face and to the flat picture of a cone`, () => {
				const share = OPEN.includes(kind) ? 0.5 : 1;
				const flat = tile(rectangle(12_000, 9000), 9, 7, tiling);
				const exact = kind === 'part' ? (32 / 63) * 12_000 * 9000 : share * 12_000 * 9000;
				expect(sum(flat.all.column('cell.area'))).closeTo(exact, 1e-3);
				if (kind === 'part') return;
				const cone = frustum(4000, 2000, 5000);
				const { nodes, cells } = tile(cone, 120, 30, tiling);
				const at = flattenPlaces(developmentOf(chartFace(cone)), nodes);
				const places = cells.places ?? cells.corners;
				const area = (c: number) =>
					ringArea(
						[...places.subarray(cells.cornerStart[c], cells.cornerStart[c + 1])].map((p): [number, number] => [
							at[p * 2]!,
							at[p * 2 + 1]!
						]) as Ring
					);
				const total = sum(Array.from({ length: cells.count }, (_, c) => area(c)));
				// Cells have straight chords where the flat picture's borders are round: large Voronoi cells lose most.
				expect(total / surfaceArea(cone)).closeTo(1, kind === 'voronoi' ? 6e-3 : 1.2e-3);
			});
	}

	it('gives the same bytes for the same input', () => {
		for (const tiling of ALL_TILINGS) {
			const [a, b] = [tile(sphereZone(4000, -0.3, 1), 20, 12, tiling), tile(sphereZone(4000, -0.3, 1), 20, 12, tiling)];
			expect(Buffer.from(a.nodes.position.buffer).equals(Buffer.from(b.nodes.position.buffer)), tiling.kind).equal(
				true
			);
			expect([...a.cells.corners]).deep.equal([...b.cells.corners]);
		}
	});

	it('runs its corners anticlockwise seen from outside', () => {
		for (const tiling of ALL_TILINGS) {
			if (tiling.kind === 'icosahedral') continue;
			const { cells, all } = tile(rectangle(12_000, 9000), 12, 8, tiling);
			const { normal } = all.face.readings;
			for (let c = 0; c < cells.count; c++) expect(normal[c * 3 + 2], `${tiling.kind} ${c}`).closeTo(1, 1e-9);
		}
	});
});

describe('triangles', () => {
	it('are flat', () => {
		for (const tiling of [{ kind: 'triangles' }, { kind: 'staggered' }, { kind: 'fans' }] as const) {
			const { all } = tile(hypar(1e-4, 9000, 7000), 9, 7, tiling);
			expect(Math.max(...all.column('cell.warp'))).lessThan(1e-9);
		}
	});

	it('take the shorter of two diagonals, or the one that leaves the flatter surface', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 50 }), (seed) => {
				const surface = wavy(seed, false);
				const longest = (diagonal: string) => {
					const { all } = tile(surface, 5, 4, { kind: 'triangles', diagonal });
					const kinds = all.column('edge.kind');
					return [...all.column('edge.length')].filter((_, e) => kinds[e] === 2);
				};
				const bend = (diagonal: string) => {
					const { all } = tile(surface, 5, 4, { kind: 'triangles', diagonal });
					const kinds = all.column('edge.kind');
					return [...all.column('edge.dihedral')].filter((_, e) => kinds[e] === 2).map((d) => Math.abs(Math.PI - d));
				};
				const order = (values: number[]) => sum(values);
				expect(order(longest('shorter'))).at.most(Math.min(order(longest('rising')), order(longest('falling'))) + 1e-6);
				expect(order(bend('flatter'))).at.most(Math.min(order(bend('rising')), order(bend('falling'))) + 1e-9);
			}),
			{ numRuns: 15 }
		);
	});
});

// Practice: no source.
describe('diamonds', () => {
	const tower = frustum(5000, 5000, 30_000);
	const cornersOf = ({ cornerStart, count }: CellTable) =>
		Array.from({ length: count }, (_, c) => cornerStart[c + 1]! - cornerStart[c]!);

	it('around a tower of 24 by 48 are 564 in 47 rows of 12, and 12 triangles at each end', () => {
		const { cells } = tile(tower, 24, 48, { kind: 'diamonds' });
		const corners = cornersOf(cells);
		expect(corners.filter((n) => n === 4).length).equal(564);
		expect(corners.filter((n) => n === 3).length).equal(24);
		const rows = new Map<number, number>();
		cells.row.forEach((r) => rows.set(r, (rows.get(r) ?? 0) + 1));
		expect([...rows.values()]).deep.equal(new Array(49).fill(12));
		const whole = tile(tower, 24, 48, { kind: 'diamonds', border: 'whole' }).cells;
		expect(whole.count).equal(564);
		expect(new Set(whole.row).size).equal(47);
	});

	it('or 24 half ones', () => {
		const { cells } = tile(tower, 24, 48, { kind: 'diamonds', border: 'halves' });
		expect(cells.count).equal(564 + 48);
		expect(eulerNumber(cells)).equal(0);
	});

	it('leave no gap at the seam: only the two ends are borders', () => {
		const { cells, nodes } = tile(tower, 24, 48, { kind: 'diamonds' });
		for (let e = 0; e < cells.edgeCount; e++) {
			if (cells.edgeCells[e * 2 + 1] !== NO_CELL) continue;
			for (const n of [cells.edgeNodes[e * 2]!, cells.edgeNodes[e * 2 + 1]!])
				expect(Math.min(nodes.position[n * 3 + 2]!, 30_000 - nodes.position[n * 3 + 2]!)).closeTo(0, 1e-6);
		}
	});

	it('on an open 10 by 10 division are four-cornered inside and three-cornered along all borders', () => {
		const { cells, all } = tile(rectangle(10_000, 10_000), 10, 10, { kind: 'diamonds' });
		const border = all.column('cell.border');
		cornersOf(cells).forEach((n, c) => expect(n).equal(border[c] === 0 ? 4 : 3));
		// All of these are half a diamond that the border has cut.
		expect(border.filter((b) => b === 2).length).equal(20);
		all.column('cell.share').forEach((share, c) => expect(share).closeTo(border[c] === 0 ? 1 : 0.5, 1e-12));
		expect(cells.count).equal(50 + 10);
	});

	it('want an even count around, and say the next one', () => {
		let thrown: unknown;
		try {
			tile(tower, 23, 48, { kind: 'diamonds' });
		} catch (cause) {
			thrown = cause;
		}
		expect(thrown).instanceOf(CountError);
		expect((thrown as CountError).message)
			.contains('an even number of divisions')
			.and.contains('there are 23. Right would be 24.');
		expect((thrown as CountError).multiples).deep.equal({ across: 2, up: 1 });
	});
});

describe('tilings that do not fit', () => {
	const refused = (tiling: TilingInput, across = 3, up = 3, message = '') =>
		expect(() => tile(rectangle(9000, 9000), across, up, tiling)).throw(message);
	it('say what, and what would be right', () => {
		refused(
			{ kind: 'herringbone', length: 3 },
			3,
			8,
			'One unit of this tiling is 6 × 6 fields, and the grid has 3 × 8. Right would be at least 6 across.'
		);
		refused({ kind: 'own', tiling: 'none' }, 3, 3, 'There is no tiling “none”; known: none.');
		refused({ kind: 'icosahedral' }, 3, 3, 'This face is flat');
		refused({ kind: 'random', leastAcross: 5 }, 3, 3, 'at least 5 fields across do not fit: the grid has 3');
		refused({ kind: 'random', leastAcross: 3, mostAcross: 3 }, 9, 9, 'Right would be a greatest size of 5 or more');
		refused({ kind: 'voronoi', size: 90_000 }, 3, 3, 'larger than this face');
		refused({ kind: 'voronoi', size: 10 }, 3, 3, 'the limit is 50 000');
		const own = [
			{
				id: 'half',
				name: 'Half',
				unit: {
					width: 1,
					height: 1,
					open: false,
					cells: [
						{
							role: 'a',
							corners: [
								[0, 0],
								[1, 0],
								[1, 1]
							] as [number, number][]
						}
					]
				}
			}
		];
		expect(() => tile(rectangle(9000, 9000), 3, 3, { kind: 'own', tiling: 'half' }, own)).throw(
			'“Half” cannot be repeated. The cells leave 50 % of the unit open.'
		);
	});
});
