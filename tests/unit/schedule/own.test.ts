import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { rowWorld } from '../../../src/core/project/rowWorld.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { READY_TABLES } from '../../../src/core/schedule/own/ready.ts';
import { Rows } from '../../../src/core/schedule/own/rows.ts';
import { runTable } from '../../../src/core/schedule/own/runTable.ts';
import { ownTableSchema, type OwnTable } from '../../../src/core/schedule/own/schema.ts';
import type { RowSource } from '../../../src/core/schedule/own/columns.ts';
import { demoWith, ranDemo, run } from '../demo.ts';
import { setByHand } from '../../../src/lib/editor/byHand.ts';
import { parseRowValue, setOfRow } from '../../../src/lib/editor/rowValues.ts';
import { placementOfRow } from '../../../src/lib/worker/ownTables.ts';
import { fileOf } from '../schedules.ts';

const rowsOf = (project: Project, model: Model, of: RowSource) => new Rows(model.faces, of, rowWorld(project));
const table = (of: RowSource, given: object = {}): OwnTable =>
	ownTableSchema.parse({ id: 't', name: 'T', of, columns: [{ kind: 'value', show: 'mark' }], ...given });
const value = (show: string, more: object = {}) => ({ kind: 'value', show, ...more });
const csvOf = async (project: Project, model: Model, given: OwnTable, options: object = {}) => {
	const text = new TextDecoder().decode(
		await fileOf({ ...project, tables: [given] }, model, 'tables', { table: given.id, ...options })
	);
	// An independent reader: csv-parse.
	return parse(text) as string[][];
};

/** A plane-ish canopy of 4 x 3 fields with framed panes, and a project of its own. */
async function small() {
	const project = demoWith(4, 3);
	const model = await run(project);
	return { project, model };
}

describe('schedules of one’s own', () => {
	it('show what is asked for, of the rows that pass, in order', async () => {
		const { project, model } = await small();
		const rows = rowsOf(project, model, 'panels');
		const made = runTable(
			rows,
			table('panels', {
				where: ['row >= 2', 'width > 0 mm'],
				columns: [value('mark'), value('area', { summary: 'sum' }), value('area / perimeter', { label: 'Ratio' })],
				sort: [{ by: 'row', descending: true }, { by: 'column' }]
			}),
			[]
		);
		expect(made.faults).deep.equal([]);
		expect(made.order.length).equal(8);
		const mark = rows.word('mark')!;
		expect(Array.from(made.order, (r) => mark.words[mark.index[r]!])).deep.equal(
			[3, 2].flatMap((row) => [1, 2, 3, 4].map((column) => `C1-0${row}-0${column}`))
		);
		const area = rows.figure('area')!;
		expect(made.totals[1]).closeTo(
			[...made.order].reduce((sum, r) => sum + area[r]!, 0),
			1e-6
		);
		const ratio = made.columns[2]!;
		if (ratio.kind !== 'figures') throw new Error(ratio.kind);
		expect(ratio.quantity).equal('length');
		const perimeter = rows.figure('perimeter')!;
		for (const r of made.order) expect(ratio.values[r]).closeTo(area[r]! / perimeter[r]!, 1e-9);
	});

	it('group with totals of every sort, which hand calculation gives, too', async () => {
		const { project, model } = await small();
		const rows = rowsOf(project, model, 'parts');
		const summaries = ['sum', 'least', 'greatest', 'mean', 'spread', 'count'] as const;
		const made = runTable(
			rows,
			table('parts', {
				groups: ['role'],
				columns: summaries.map((summary) => value('weight', { summary, label: summary }))
			}),
			[]
		);
		const role = rows.word('role')!;
		const weight = rows.figure('weight')!;
		const roles = [...new Set(Array.from(role.index, (w) => role.words[w]!))].sort();
		expect(made.groups.map((g) => g.words)).deep.equal(roles.map((r) => [r]));
		made.groups.forEach((group, k) => {
			const own = Array.from(weight).filter((_, r) => role.words[role.index[r]!] === roles[k]);
			const sum = own.reduce((a, b) => a + b, 0);
			const [least, greatest] = [Math.min(...own), Math.max(...own)];
			[sum, least, greatest, sum / own.length, greatest - least, own.length].forEach((wanted, c) =>
				expect(group.totals[c], summaries[c]!).closeTo(wanted, 1e-6)
			);
		});
		expect(made.groups.reduce((n, g) => n + g.to - g.from, 0)).equal(rows.count);
	});

	it('tell what is wrong in a column, a filter, a group or the order, and show the rest', async () => {
		const { project, model } = await small();
		const made = runTable(
			rowsOf(project, model, 'panels'),
			table('panels', {
				where: ['area > 1 kg'],
				groups: ['area'],
				sort: [{ by: 'nothing' }],
				columns: [
					value('mark'),
					value('width + area'),
					value('valence'),
					value('1 mm / (row - 1)', { summary: 'greatest', label: 'Divided' })
				]
			}),
			[]
		);
		expect(made.columns.map((c) => c.kind)).deep.equal(['words', 'fault', 'fault', 'figures']);
		expect(made.faults.length).equal(3);
		expect(made.order.length).equal(12);
		const divided = made.columns[3]!;
		if (divided.kind !== 'figures') throw new Error(divided.kind);
		// The first row has nothing to divide by: those cells are none, the others count.
		expect(Array.from(divided.values).filter(Number.isNaN).length).equal(4);
		expect(made.totals[3]).closeTo(1, 1e-12);
	});

	it('know words that no row has', async () => {
		const { project, model } = await small();
		const made = runTable(rowsOf(project, model, 'parts'), table('parts', { where: ['role == "louver"'] }), []);
		expect(made.faults).deep.equal([]);
		expect(made.order.length).equal(0);
	});

	it('find the rows of cells: the panel on one, and its pieces', async () => {
		const { project, model } = await small();
		const panels = rowsOf(project, model, 'panels');
		const [row, column] = [panels.figure('row')!, panels.figure('column')!];
		const { cells } = model.faces[0]!;
		for (const cell of [0, 5, 11]) {
			const found = panels.at([{ face: 0, cell }]);
			expect(found.map((r) => [row[r], column[r]])).deep.equal([[cells.row[cell]! + 1, cells.column[cell]! + 1]]);
			// Frame, reveal and pane.
			const parts = rowsOf(project, model, 'parts');
			const mark = panels.word('mark')!;
			const host = parts.word('hostMark')!;
			expect(parts.at([{ face: 0, cell }]).map((r) => host.words[host.index[r]!])).deep.equal(
				Array(3).fill(mark.words[mark.index[found[0]!]!])
			);
		}
		const all = Array.from({ length: 12 }, (_, cell) => ({ face: 0, cell }));
		expect(panels.at(all)).deep.equal([...Array(12).keys()]);
		expect(panels.at([{ face: 7, cell: 0 }])).deep.equal([]);
	});

	it('keep notes with the panel when the division around it changes', async () => {
		const project = demoWith(4, 3);
		const given = table('panels', { columns: [value('mark'), { kind: 'note', id: 'note', label: 'Note' }] });
		const rows = rowsOf(project, await run(project), 'panels');
		const row = 5;
		const notes = [{ column: 'note', row: rows.keyOf(row), text: 'glazier: ask, “later”' }];
		const later = demoWith(4, 5);
		later.tables = [given];
		later.notes = notes;
		const lines = await csvOf(later, await run(later), given);
		expect(lines.filter((l) => l[1] !== '').slice(1)).deep.equal([['C1-02-02', 'glazier: ask, “later”']]);
	});

	it('as files: figures in the units asked for, a unit of the column’s own before them, one line a group when folded', async () => {
		const { project, model } = await small();
		const given = table('parts', {
			groups: ['role'],
			folded: true,
			columns: [
				value('length', { summary: 'sum', unit: 'm', decimals: 2 }),
				value('area', { summary: 'sum' }),
				value('weight / area', { summary: 'mean', label: 'Weight over area' })
			]
		});
		const lines = await csvOf(project, model, given, { units: 'ft' });
		expect(lines[0]).deep.equal(['Role', 'Rows', 'Length m', 'Area ft2', 'Weight over area 1/m2, mean']);
		const rows = rowsOf(project, model, 'parts');
		const role = rows.word('role')!;
		for (const [name, count, length, area] of lines.slice(1)) {
			const own = [...Array(rows.count).keys()].filter((r) => role.words[role.index[r]!] === name);
			const sum = (of: string) => own.reduce((s, r) => s + rows.figure(of)![r]!, 0);
			expect(Number(count)).equal(own.length);
			expect(Number(length)).closeTo(sum('length') / 1000, 0.006);
			// The international foot is 0.3048 m exactly.
			expect(Number(area)).closeTo(sum('area') / 304.8 / 304.8, 0.002);
		}
	});

	it('show the values that kits are placed with: of the rule, by a formula, and by hand', async () => {
		const project = demoWith(4, 3);
		const [rule] = project.rules;
		rule!.values = { frameWidth: { kind: 'formula', formula: '100 mm + 10 mm * row' }, recess: 35 };
		const face = rule!.faces[0]!;
		// Places are counted from 0, rows and columns of schedules from 1.
		setByHand(project, rule!.set, [{ face, row: 2, column: 3, piece: 0 }], { values: { frameWidth: 77 } });
		const model = await run(project);
		const panels = rowsOf(project, model, 'panels');
		const [row, column] = [panels.figure('row')!, panels.figure('column')!];
		const wanted = Array.from(row, (r, k) => (r === 3 && column[k] === 4 ? 77 : 100 + 10 * r));
		expect([...panels.figure('kit_frameWidth')!]).deep.equal(wanted);
		expect(new Set(panels.figure('kit_recess'))).deep.equal(new Set([35]));
		const parts = rowsOf(project, model, 'parts');
		// Frame, reveal and pane of each cell.
		expect([...parts.figure('kit_frameWidth')!].sort()).deep.equal([...wanted, ...wanted, ...wanted].sort());
		const made = runTable(panels, table('panels', { where: ['kit_frameWidth < 80 mm'] }), []);
		expect(made.order.length).equal(1);
		// What no kit has is no column; of a kit that stands nowhere there is nothing.
		const other = project.kits.flatMap((k) => k.parameters).find((p) => !(`${p.name}` in (rule!.values as object)))!;
		expect(panels.columns).have.property(`kit_${other.name}`);
		expect(runTable(panels, table('panels', { columns: [value('kit_nothing')] }), []).columns[0]!.kind).equal('fault');
		const at = placementOfRow({ ...project, tables: [table('panels')] }, model, 't', made.order[0]!, 'frameWidth');
		expect(at).include({ face: 0, kind: 'cell', kit: rule!.kit });
		expect(setOfRow(project, at!)).equal(rule!.set);
	});

	it('read what is typed in a row in the unit of its column, within the limits of the kit', () => {
		const kit = demoWith(2, 2).kits.find((k) => k.id === 'framed-pane')!;
		const width = kit.parameters.find((p) => p.name === 'frameWidth')!;
		expect(parseRowValue('7,5', width, 10, 'mm')).deep.equal({ value: 75 });
		expect(parseRowValue('0.08 m', width, 1, 'mm')).deep.equal({ value: 80 });
		expect(parseRowValue('90', width, 1, 'm')).deep.equal({ value: 90 });
		expect(parseRowValue('9 000 000', width, 1, 'mm'))
			.property('error')
			.match(/is from .* to .*; .* is not\./);
		expect(parseRowValue('wide', width, 1, 'mm')).have.property('error');
	});

	it('that are ready run on the whole terminal without a fault', async () => {
		const { project, model } = await ranDemo();
		for (const ready of READY_TABLES) {
			const made = runTable(rowsOf(project, model, ready.of), ownTableSchema.parse({ id: 'x', ...ready }), []);
			expect([...made.faults, ...made.columns.filter((c) => c.kind === 'fault')], ready.name).deep.equal([]);
			expect(made.order.length, ready.name).greaterThan(0);
		}
	});

	it('filter to the same rows whatever the order, and groups part them all (property)', async () => {
		const { project, model } = await small();
		const rows = rowsOf(project, model, 'parts');
		fc.assert(
			fc.property(
				fc.double({ min: 0, max: 60, noNaN: true }),
				fc.constantFrom('length', 'weight', 'area', 'mark', 'type'),
				fc.boolean(),
				fc.subarray(['role', 'material', 'storey', 'type', 'face'], { maxLength: 4 }),
				(limit, by, descending, groups) => {
					const made = runTable(
						rows,
						table('parts', {
							where: [`weight > ${limit.toFixed(3)}`],
							sort: [{ by, descending }],
							groups,
							columns: [value('weight', { summary: 'sum' })]
						}),
						[]
					);
					const weight = rows.figure('weight')!;
					const wanted = [...weight.keys()].filter((r) => weight[r]! > Number(limit.toFixed(3)));
					expect([...made.order].sort((a, b) => a - b)).deep.equal(wanted);
					for (let level = 0; level < groups.length; level++) {
						const own = made.groups.filter((g) => g.level === level);
						expect(own.reduce((n, g) => n + g.to - g.from, 0)).equal(wanted.length);
						expect(own.reduce((n, g) => n + g.totals[0]!, 0)).closeTo(made.totals[0]!, 1e-6);
						const words = rows.word(groups[level]!)!;
						for (const g of own)
							for (const r of made.order.subarray(g.from, g.to))
								expect(words.words[words.index[r]!]).equal(g.words[level]);
						// Sorted by what is summed, groups beside each other go by their sums.
						if (by !== 'weight') continue;
						own.slice(1).forEach((g, k) => {
							const before = own[k]!;
							if (JSON.stringify(before.words.slice(0, -1)) !== JSON.stringify(g.words.slice(0, -1))) return;
							expect((g.totals[0]! - before.totals[0]!) * (descending ? -1 : 1)).least(-1e-9);
						});
					}
				}
			),
			{ numRuns: 40 }
		);
	});
});
