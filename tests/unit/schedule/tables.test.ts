import { expect } from 'chai';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import { kitSchema, type Kit } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import { cellsOfRow } from '../../../src/core/schedule/cellsOfRow.ts';
import { HOST_TABLES, NO_ROW } from '../../../src/core/schedule/faceTable.ts';
import { allPartsOf, markOfPart, partsOf } from '../../../src/core/schedule/parts.ts';
import { faceOfRow, startsOf } from '../../../src/core/schedule/query.ts';
import { demoProject, demoWith, ranDemo, run, setRules, shippedDemo } from '../demo.ts';
import { ask, tableRows } from '../schedules.ts';

const sum = (values: Iterable<number>) => [...values].reduce((a, b) => a + b, 0);
const column = (model: Model, name: string) => model.faces.flatMap((f) => [...partsOf(f).columns[name]!]);

/** A canopy of 6 x 9 fields with kits of these starters. */
function canopyWith(...ids: string[]) {
	const project = demoWith(6, 9);
	const kits = ids.map((id) => STARTER_KITS.find((k) => k.id === id)!);
	project.kits.push(...kits.filter((k) => !project.kits.some((p) => p.id === k.id)));
	project.materials = shippedDemo().materials;
	setRules(
		project,
		ids.map((kit, k) => ({ id: `r${k}`, face: 'canopy/skin', kit, values: {} }))
	);
	return project;
}

describe('the tables of the schedule', () => {
	it('have one row for every edge, node and line that a kit stands on', async () => {
		const model = await run(canopyWith('framed-pane', 'mullion', 'node-disc', 'path-tube'));
		const counts = HOST_TABLES.map((name) => tableRows(model, name).count);
		// 6 x 9 fields have 6 x 10 + 7 x 9 edges and 7 x 10 nodes; tubes run along every line across.
		const { kit } = model.faces[0]!.placements.find((p) => p.hostKind === 'path')!;
		const { along, every } = kit.host as { along: string; every: number };
		const lines = Math.ceil((along === 'across' ? 10 : 7) / every);
		expect(counts).deep.equal([54, 123, 70, lines, 0]);
	});

	it('mark every row of a table by itself, in their order', async () => {
		const { model } = await ranDemo();
		for (const name of HOST_TABLES) {
			const { marks, count } = tableRows(model, name);
			expect(new Set(marks).size, name).equal(count);
		}
		const { marks } = tableRows(await run(canopyWith('mullion', 'node-disc', 'path-tube')), 'edges');
		expect(marks.slice(0, 3)).deep.equal(['C1-01-01/1', 'C1-01-01/2', 'C1-01-01/3']);
	});

	it('add up, kind of host by kind of host, to what the parts weigh', async () => {
		const { model } = await ranDemo();
		const weight = sum(HOST_TABLES.flatMap((name) => [...(tableRows(model, name).columns.weight ?? [])]));
		const scheduled = sum(
			model.faces.flatMap((f) =>
				f.placements.flatMap((p) => p.parts.filter((q) => q.scheduled).map((q) => sum(q.volume) * q.density))
			)
		);
		expect(weight / scheduled).closeTo(1, 1e-9);
		const { totals } = ask(model, {}, 'edges');
		expect(totals.weight).closeTo(sum(tableRows(model, 'edges').columns.weight!), 1e-6);
	});

	it('give an edge its own length and the length of what stands on it', async () => {
		const project = canopyWith('mullion');
		project.rules[0]!.values = { cutBack: 25 };
		const first = tableRows(await run(project), 'edges').columns;
		project.rules[0]!.values = { cutBack: 40 };
		const { columns, count } = tableRows(await run(project), 'edges');
		for (let r = 0; r < count; r++) {
			expect(columns.partLength![r]).closeTo(first.partLength![r]! - 2 * 15, 1e-6);
			// Besides, it leaves the others at its nodes some room.
			expect(columns.partLength![r]).lessThan(columns.length![r]! - 80);
		}
	});

	it('find the cells that a row touches', async () => {
		const [face] = (await run(canopyWith('framed-pane', 'mullion', 'node-disc', 'path-tube'))).faces;
		const { cells, schedule } = face!;
		for (const name of ['panels', 'edges', 'nodes', 'paths', 'parts'] as const) {
			const count = name === 'parts' ? partsOf(face!).count : schedule.tables[name].count;
			for (let r = 0; r < count; r += 7) {
				const touched = cellsOfRow(face!, name, r);
				expect(touched.length, `${name} ${r}`).greaterThan(0);
				expect(touched.every((c) => c >= 0 && c < cells.count)).to.be.true;
			}
		}
		expect(cellsOfRow(face!, 'paths', 0).length).equal(6);
		expect(cellsOfRow(face!, 'paths', 1).length).equal(12);
	});

	it('say which face a row over all faces is of', () => {
		const starts = startsOf([3, 0, 5].map((count) => ({ count })));
		expect([0, 2, 3, 7].map((r) => faceOfRow(starts, r))).deep.equal([0, 0, 2, 2]);
	});
});

describe('the table of parts', () => {
	it('has a row for every piece, which together are what the summary counts and weighs', async () => {
		const { project, model } = await ranDemo();
		const { parts } = summarise(project, model);
		expect(sum(model.faces.map((f) => partsOf(f).count))).equal(sum(parts.map((p) => p.count)));
		expect(sum(column(model, 'weight')) / sum(parts.map((p) => p.massKg))).closeTo(1, 1e-9);
		expect(sum(column(model, 'length')) / 1000 / sum(parts.map((p) => p.lengthM))).closeTo(1, 1e-9);
		expect(sum(column(model, 'area')) / 1e6 / sum(parts.map((p) => p.areaM2))).closeTo(1, 1e-9);
	});

	it('names each piece by its host and its number, none twice', async () => {
		const { model } = await ranDemo();
		for (const face of model.faces) {
			const table = partsOf(face);
			const names = Array.from({ length: table.count }, (_, r) =>
				[markOfPart(face.schedule, table, r), table.part[r], table.columns.piece![r]].join(' ')
			);
			expect(new Set(names).size, face.name).equal(table.count);
		}
	});

	it('gives the sides of a mitred frame their own lengths and weights', async () => {
		const kit: Kit = kitSchema.parse({
			id: 'rim',
			name: 'Rim',
			host: { kind: 'cell', leastCorners: 4, greatestCorners: 4 },
			parameters: [],
			steps: [
				{ kind: 'outline', name: 'o' },
				{
					kind: 'bar',
					name: 'rim',
					role: 'frame',
					material: 'aluminium',
					line: 'o',
					profile: 'rectangle',
					width: 50,
					depth: 40
				}
			]
		});
		const project = demoProject();
		project.kits.push(kit);
		setRules(project, [{ id: 'r', face: 'canopy/skin', kit: 'rim', values: {} }]);
		const model = await run(project);
		const [face] = model.faces;
		const { columns, count } = partsOf(face!);
		expect(count).equal(4 * face!.cells.count);
		const { edge1, edge2, edge3, edge4 } = face!.readings.columns;
		for (let c = 0; c < face!.cells.count; c += 13) {
			[edge1, edge2, edge3, edge4].forEach((edge, k) =>
				expect(columns.length![c * 4 + k], `side ${k + 1} of cell ${c}`).closeTo(edge[c]!, 1e-6)
			);
			// A mitred bar centred on its line is as heavy as its line is long: section × length × density.
			expect(columns.weight![c * 4]).closeTo((50 * 40 * edge1[c]! * 2700) / 1e9, 0.01);
		}
	});

	it('points at the piece of the geometry that it is', async () => {
		const model = await run(canopyWith('mullion', 'node-disc'));
		const table = partsOf(model.faces[0]!);
		for (let r = 0; r < table.count; r++) {
			const { part } = table.parts[table.part[r]!]!;
			if (part.geometry.kind !== 'instances') continue;
			expect(part.geometry.rows[table.element[r]!]).equal(table.placed[r]);
		}
		expect(table.host.every((row) => row !== NO_ROW)).to.be.true;
	});

	it('is empty where nothing is placed', async () => {
		const project = demoWith(3, 3);
		project.rules = [];
		const [face] = (await run(project)).faces;
		expect(allPartsOf(face!).count).equal(0);
		expect(HOST_TABLES.map((name) => face!.schedule.tables[name].count)).deep.equal(HOST_TABLES.map(() => 0));
	});
});
