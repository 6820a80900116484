import { expect } from 'chai';
import fc from 'fast-check';
import type { Condition, Rule } from '../../../src/core/placement/rules/schema.ts';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import { checkDocument, migrate, MIGRATIONS } from '../../../src/core/project/read.ts';
import { readingsOf } from '../../../src/core/readings/faceReadings.ts';
import { shippedDemo } from '../demo.ts';
import { cellsWhere, FACE, placed, withRules } from './make.ts';

const ACROSS = 12;
const UP = 8;

describe('where a rule holds', () => {
	it('counts rows and columns from 1, every n-th from the first on', async () => {
		const columns = (await cellsWhere([{ kind: 'lines', of: 'column', from: 2, every: 3 }])).map((c) => c.column);
		expect([...new Set(columns)]).deep.equal([2, 5, 8, 11]);
		expect(columns.length).equal(4 * UP);
		const rows = (await cellsWhere([{ kind: 'lines', of: 'row', from: 4, to: 6, every: 1 }])).map((c) => c.row);
		expect([...new Set(rows)]).deep.equal([4, 5, 6]);
		const checker = await cellsWhere([{ kind: 'checker', odd: false }]);
		expect(checker.length).equal((ACROSS * UP) / 2);
		expect(checker.every((c) => (c.row + c.column) % 2 === 0)).true;
	});

	it('looks at readings, and at those that have the least or greatest', async () => {
		const found = await cellsWhere([{ kind: 'reading', reading: 'area', from: 2.5e6 }]);
		const { area } = found[0]!.face.readings.columns;
		expect(found.map((c) => c.cell)).deep.equal([...area.keys()].filter((c) => area[c]! >= 2.5e6));
		const five = await cellsWhere([{ kind: 'rank', reading: 'warp', most: 'greatest', count: 5 }]);
		const { warp } = five[0]!.face.readings.columns;
		expect(five.map((c) => warp[c.cell]!).sort()).deep.equal(
			[...warp]
				.sort((a, b) => b - a)
				.slice(0, 5)
				.sort()
		);
	});

	it('knows borders, zones, neighbours, and what is not or any of several', async () => {
		const inner = (r: number, c: number, by: number) => r > by && r <= UP - by && c > by && c <= ACROSS - by;
		const border = await cellsWhere([{ kind: 'border', state: 'border', within: 0 }]);
		expect(border.length).equal(2 * (ACROSS + UP) - 4);
		const inside = await cellsWhere([{ kind: 'not', of: { kind: 'border', state: 'border', within: 1 } }]);
		expect(inside.every((c) => inner(c.row, c.column, 2))).true;
		expect(inside.length).equal((ACROSS - 4) * (UP - 4));
		const zone = await cellsWhere([{ kind: 'zone', zone: 'z' }], (p) => {
			p.zones = [{ id: 'z', name: 'Z', colour: '#000000', parts: [{ face: FACE, runs: [[2, 3, 5]] }] }];
		});
		expect(zone.map((c) => [c.row, c.column])).deep.equal([4, 5, 6].map((c) => [3, c]));
		const any: Condition = {
			kind: 'any',
			of: [
				{ kind: 'lines', of: 'row', from: 1, to: 1, every: 1 },
				{ kind: 'formula', formula: 'row == 2 and column > 10' }
			]
		};
		expect((await cellsWhere([any])).length).equal(ACROSS + 2);
	});

	it('counts edges and nodes by the rows and columns of their marks, and takes a share of those that stand', async () => {
		const project = withRules([
			{ set: 'edges', kit: 'mullion', where: [{ kind: 'lines', of: 'column', from: 3, to: 3, every: 1 }] }
		]);
		const { face, set } = await placed(project);
		const { edges } = face.schedule.tables;
		expect(edges.count).equal(set.taken[0]);
		expect(new Set(edges.columns.column)).deep.equal(new Set([3]));
		const nodes = await placed(
			withRules([{ set: 'nodes', kit: 'node-disc', where: [{ kind: 'share', share: 0.5, seed: 7, clump: 0 }] }])
		);
		expect(nodes.set.taken).deep.equal([Math.round(((ACROSS + 1) * (UP + 1)) / 2)]);
	});

	it('takes a share by its seed: as many as asked, the same ones each time, others with another seed', async () => {
		const take = async (seed: number, clump: number) =>
			(await cellsWhere([{ kind: 'share', share: 0.25, seed, clump }])).map((c) => c.cell).join();
		const [one, again, other, clumps] = await Promise.all([take(1, 0), take(1, 0), take(2, 0), take(1, 6000)]);
		expect(one).equal(again);
		expect(one).not.equal(other);
		for (const list of [one, other, clumps]) expect(list.split(',').length).equal((ACROSS * UP) / 4);
		const neighbours = (list: string) => {
			const cells = list.split(',').map(Number);
			return cells.filter((c) => c % ACROSS !== ACROSS - 1 && cells.includes(c + 1)).length;
		};
		expect(neighbours(clumps)).above(neighbours(one));
	});

	it('holds beside what an earlier rule has taken', async () => {
		const { set } = await placed(
			withRules([
				{ where: [{ kind: 'formula', formula: 'row == 4 and column == 5' }] },
				{ where: [{ kind: 'beside', rule: 'r1', within: 1 }], kit: 'framed-pane' },
				{}
			])
		);
		const at = (row: number, column: number) => (row - 1) * ACROSS + column - 1;
		expect([...set.ruleOf.keys()].filter((c) => set.ruleOf[c] === 1)).deep.equal([
			at(3, 5),
			at(4, 4),
			at(4, 6),
			at(5, 5)
		]);
		expect(set.taken).deep.equal([1, 4, ACROSS * UP - 5]);
	});
});

describe('rules of a set', () => {
	const plain: fc.Arbitrary<Condition> = fc.oneof(
		fc.record({
			kind: fc.constant('lines' as const),
			of: fc.constantFrom('row' as const, 'column' as const),
			from: fc.integer({ min: 1, max: 9 }),
			every: fc.integer({ min: 1, max: 4 })
		}),
		fc.record({ kind: fc.constant('checker' as const), odd: fc.boolean() }),
		fc.record({
			kind: fc.constant('border' as const),
			state: fc.constantFrom('whole' as const, 'cut' as const, 'border' as const, 'opening' as const),
			within: fc.integer({ min: 0, max: 3 })
		}),
		fc.record({
			kind: fc.constant('rank' as const),
			reading: fc.constantFrom('area', 'warp', 'tilt'),
			most: fc.constantFrom('least' as const, 'greatest' as const),
			count: fc.integer({ min: 1, max: 200 })
		}),
		fc.record({
			kind: fc.constant('share' as const),
			share: fc.double({ min: 0, max: 1, noNaN: true }),
			seed: fc.nat(),
			clump: fc.constantFrom(0, 4000)
		}),
		fc.record({
			kind: fc.constant('reading' as const),
			reading: fc.constant('elevation'),
			from: fc.integer({ min: 0, max: 12_000 })
		})
	);
	const condition = fc.oneof(
		plain,
		plain.map((of): Condition => ({ kind: 'not', of })),
		fc.array(plain, { minLength: 1, maxLength: 3 }).map((of): Condition => ({ kind: 'any', of }))
	);
	const rule = fc.record({
		where: fc.array(condition, { maxLength: 2 }),
		kit: fc.constantFrom<string | null>('flat-pane', 'framed-pane', null)
	});

	it('take every host exactly once, or count it as left', async () => {
		await fc.assert(
			fc.asyncProperty(fc.array(rule, { minLength: 1, maxLength: 5 }), async (rules) => {
				const project = withRules(rules, 9, 7);
				const { model, face, set, jobs } = await placed(project);
				const { count } = face.cells;
				expect(set.taken.reduce((a, b) => a + b, 0) + set.unassigned).equal(count);
				const stands = new Uint8Array(count);
				for (const { hosts } of jobs) for (const h of hosts) stands[h]!++;
				const kits = rules.map((r) => r.kit);
				set.ruleOf.forEach((r, c) => {
					const isOpen = r >= 0 && kits[r] === null;
					expect([stands[c], set.open[c]]).deep.equal([r >= 0 && !isOpen ? 1 : 0, isOpen ? 1 : 0]);
				});
				const summary = summarise(project, model);
				expect(summary.rules.map((r) => r.hosts)).deep.equal(set.taken);
				expect(summary.unassigned.panels).equal(set.unassigned);
				expect(face.schedule.tables.panels.count).equal(stands.reduce((a, b) => a + b, 0));
			}),
			{ numRuns: 25 }
		);
	});

	it('say which of them never hold, and leave the kits that do not fit for others', async () => {
		const { model, set } = await placed(
			withRules([
				{},
				{ where: [{ kind: 'checker', odd: false }] },
				{ where: [{ kind: 'reading', reading: 'area', from: 1e12 }] }
			])
		);
		expect(set.hidden).deep.equal([0, (ACROSS * UP) / 2, 0]);
		const told = model.warnings.map((w) => w.message);
		expect(told.filter((m) => m.includes('takes nothing here'))).deep.equal([
			'Rule 2 of Panels takes nothing here: earlier rules take all 48 on which it holds.',
			'Rule 3 of Panels takes nothing here: it holds nowhere.'
		]);
	});

	it('of one project of before stand beside each other, in sets of their own', () => {
		const { sets, overrides, fields, numbers, ...old } = shippedDemo();
		void [sets, overrides, fields, numbers];
		const rules = [
			{ id: 'a', face: FACE, kit: 'framed-pane', values: { frameWidth: 70 } },
			{ id: 'b', face: FACE, kit: 'mullion', values: {} },
			{ id: 'c', face: FACE, kit: 'flat-pane', values: {} },
			{ id: 'd', face: 'lantern/skin', kit: 'flat-pane', values: {} }
		];
		const now = checkDocument(migrate({ ...old, version: 6, rules }, MIGRATIONS, 7));
		expect(now.sets.map((s) => s.id)).deep.equal(['panels', 'panels-2', 'edges', 'nodes', 'paths']);
		expect(now.rules.map((r) => [r.id, r.set, r.faces])).deep.equal([
			['a', 'panels', [FACE]],
			['b', 'edges', [FACE]],
			['c', 'panels-2', [FACE]],
			['d', 'panels', ['lantern/skin']]
		]);
		expect(now.rules[0]!.values).deep.equal({ frameWidth: 70 });
	});

	const refused: [string, Partial<Rule>, string][] = [
		['an unknown zone', { where: [{ kind: 'zone', zone: 'none' }] }, 'there is no zone “none”'],
		['an unknown field', { where: [{ kind: 'field', field: 'none', from: 0 }] }, 'there is no field “none”'],
		['itself as a neighbour', { where: [{ kind: 'beside', rule: 'r1', within: 1 }] }, 'there is no other rule “r1”'],
		['no bounds', { where: [{ kind: 'reading', reading: 'area' }] }, 'wants a least or a greatest value'],
		[
			'a kit for other hosts',
			{ kit: 'mullion' },
			'“Rectangular mullion” is made for edges, the set “Panels” holds cells'
		],
		[
			'values where hosts are left open',
			{ kit: null, values: { joint: 3 } },
			'hosts that are left open have no values'
		],
		['a text for a number', { values: { joint: { kind: 'list', along: 'row', values: ['x'] } } }, 'wants a number'],
		['a far-away set', { set: 'none' }, 'there is no set “none”']
	];
	for (const [what, rule, words] of refused)
		it(`are refused with ${what}, in words`, () => {
			expect(() => checkDocument(withRules([rule]))).throws(words);
		});
});

describe('turned kits', () => {
	it('begin at the lowest corner, or look one way, and have the readings of then', async () => {
		const project = withRules([{ turn: { kind: 'quarters', quarters: 1 }, kit: 'framed-pane', values: {} }]);
		const { face } = await placed(project);
		const plain = await placed(withRules([{ kit: 'framed-pane' }]));
		// A quarter turn of a frame around a pane leaves its weight as it is, but for the warp of the cells.
		const sums = (f: typeof face) => {
			const { panels } = f.schedule.tables;
			return panels.columns.weight!.reduce((a, b) => a + b, 0);
		};
		expect(sums(face)).closeTo(sums(plain.face), 1e-4 * sums(face));
		const kit = project.kits.find((k) => k.id === 'flat-pane')!;
		expect(kit.parameters.map((p) => p.name)).include('joint');
		const lowest = await placed(withRules([{ kit: 'framed-pane', turn: { kind: 'lowest' } }]));
		const points = lowest.face.placements[0]!.parts[0]!.geometry;
		expect(points.kind).equal('pattern');
		if (points.kind !== 'pattern') return;
		const stride = points.pointsPerHost * 3;
		const { cornerStart, corners } = lowest.face.cells;
		lowest.face.placements[0]!.hosts.forEach((cell, h) => {
			const z = [...corners.subarray(cornerStart[cell], cornerStart[cell + 1])].map(
				(n) => lowest.face.nodes.position[n * 3 + 2]!
			);
			expect(points.points[h * stride + 2]! - Math.min(...z)).below(0.011);
		});
		expect(readingsOf(face).column('cell.area').length).equal(ACROSS * UP);
	});

	it('mirrored twice stand as they were, with the same weights, and mirrored once as in a mirror', async () => {
		const make = (mirrored: boolean, kit = 'louver-bank', values: Rule['values'] = { tilt: 0.4 }) =>
			placed(withRules([{ kit, values, turn: { kind: 'quarters', quarters: 0, mirrored } }]));
		const [plain, turned] = await Promise.all([make(false), make(true)]);
		const weights = (f: typeof plain.face) => [...f.schedule.tables.panels.columns.weight!];
		weights(turned.face).forEach((w, c) => expect(w).closeTo(weights(plain.face)[c]!, 1e-6 * w));
		const bodies = (p: typeof plain) =>
			p.face.placements.flatMap(({ parts }) =>
				parts.flatMap((part) => (part.geometry.kind === 'instances' ? [part.geometry] : []))
			);
		for (const { transforms } of bodies(turned))
			for (let k = 0; k < transforms.length; k += 12) {
				const [x, y, z] = [0, 1, 2].map((c) => [...transforms.subarray(k + c * 3, k + c * 3 + 3)]) as [
					number[],
					number[],
					number[]
				];
				const cross = [x[1]! * y[2]! - x[2]! * y[1]!, x[2]! * y[0]! - x[0]! * y[2]!, x[0]! * y[1]! - x[1]! * y[0]!];
				// Motions stay motions; the body itself is mirrored.
				expect(cross.reduce((sum, v, c) => sum + v * z[c]!, 0)).above(0);
			}
		// All solids keep their outside outside: six times their volume is positive.
		for (const face of [plain.face, turned.face])
			for (const { parts } of face.placements)
				for (const { geometry, volume } of parts) {
					if (geometry.kind !== 'loose') continue;
					for (let p = 0; p < geometry.rows.length; p++) {
						const at = (t: number) =>
							[0, 1, 2].map((c) => geometry.positions[geometry.positionStart[p]! + geometry.triangles[t]! * 3 + c]!);
						let six = 0;
						for (let t = geometry.triangleStart[p]!; t < geometry.triangleStart[p + 1]!; t += 3) {
							const [a, b, c] = [at(t), at(t + 1), at(t + 2)] as [number[], number[], number[]];
							six +=
								a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
								a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
								a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!);
						}
						if (volume[geometry.rows[p]!]! > 0) expect(six).above(0);
					}
				}
	});
});
