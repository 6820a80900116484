import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { readProject } from '../../../src/core/project/read.ts';
import { rowWorld } from '../../../src/core/project/rowWorld.ts';
import { Pricing, type PricedPiece } from '../../../src/core/schedule/cost/priceOf.ts';
import { quantitiesOf } from '../../../src/core/schedule/cost/quantities.ts';
import { costsSchema, rateSchema } from '../../../src/core/schedule/cost/schema.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { openingSchema } from '../../../src/core/tiling/openings/schema.ts';
import { demoWith, run, shippedDemo } from '../demo.ts';
import { fileOf } from '../schedules.ts';

const rate = (given: object) => rateSchema.parse({ id: 'r', heading: 'Material', per: 'm2', price: 1, ...given });
const pane: PricedPiece = {
	role: 'pane',
	material: 'glass',
	kit: 'framed-pane',
	type: 'G-001',
	length: 0,
	area: 2.5e6,
	volume: 2.5e6 * 12,
	weight: 75
};

describe('prices', () => {
	it('are of what a piece has, waste included', () => {
		const cost = (given: object) => new Pricing([rate(given)]).costOf(pane);
		// By hand: 2.5 m2 at 180, a tenth more bought; 75 kg at 4; one piece; 0.03 m3 at 900.
		expect(cost({ per: 'm2', price: 180, waste: 0.1 })).closeTo(495, 1e-9);
		expect(cost({ per: 'kg', price: 4 })).closeTo(300, 1e-9);
		expect(cost({ per: 'piece', price: 35 })).closeTo(35, 1e-9);
		expect(cost({ per: 'm3', price: 900 })).closeTo(27, 1e-9);
		expect(cost({ per: 'm', price: 900 })).equal(0);
	});

	it('of one heading give way to the narrowest, headings add up', () => {
		const pricing = new Pricing([
			rate({ id: 'a', price: 1 }),
			rate({ id: 'b', price: 10, material: 'glass' }),
			rate({ id: 'c', price: 100, type: 'G-001' }),
			rate({ id: 'd', price: 1000, role: 'pane' }),
			rate({ id: 'e', heading: 'Setting', per: 'piece', price: 7 }),
			rate({ id: 'f', heading: 'Setting', per: 'piece', price: 9, role: 'mullion' })
		]);
		expect(pricing.costOf(pane)).closeTo(250 + 7, 1e-9);
		expect(pricing.costOf({ ...pane, type: 'G-002' })).closeTo(25 + 7, 1e-9);
		expect(pricing.costOf({ ...pane, type: '', material: 'steel' })).closeTo(2500 + 7, 1e-9);
		expect(pricing.costOf({ ...pane, type: '', material: 'steel', role: 'mullion' })).closeTo(2.5 + 9, 1e-9);
	});

	it('that hang on what is not there are refused with what is', () => {
		const project = shippedDemo();
		project.costs = costsSchema.parse({ rates: [rate({ material: 'unobtainium' })] });
		expect(() => readProject(JSON.stringify(project))).throws(/no material “unobtainium”; known: /);
	});
});

describe('quantities', () => {
	it('are the same however they are parted, and those of the pieces', async () => {
		const project = shippedDemo();
		project.costs = costsSchema.parse({
			currency: 'GBP',
			sealant: 120,
			rates: [
				rate({ id: 'all', per: 'kg', price: 3.5 }),
				rate({ id: 'set', heading: 'Setting', per: 'piece', price: 12, role: 'pane' })
			]
		});
		const model = await run(project);
		const { rows, warnings } = quantitiesOf(model.faces, rowWorld(project));
		const total = rows.find((r) => r.by === 'total')!;
		const tables = model.faces.map((f) => partsOf(f));
		const sum = (name: string) => tables.reduce((s, t) => s + t.columns[name]!.reduce((a, b) => a + b, 0), 0);
		expect(total.pieces).equal(tables.reduce((n, t) => n + t.count, 0));
		const bars = tables.reduce(
			(s, t) =>
				s +
				t.columns.length!.reduce(
					(a, b, r) => a + (['bar', 'blades', 'joined'].includes(t.parts[t.part[r]!]!.part.kind) ? b : 0),
					0
				),
			0
		);
		expect(total.length / bars).closeTo(1, 1e-9);
		for (const name of ['area', 'volume', 'weight'] as const) expect(total[name] / sum(name), name).closeTo(1, 1e-9);
		for (const by of ['face', 'storey', 'zone', 'material', 'role', 'kit'] as const) {
			const own = rows.filter((r) => r.by === by);
			for (const name of ['pieces', 'length', 'area', 'coated', 'volume', 'weight', 'cost'] as const)
				expect(
					own.reduce((s, r) => s + r[name]!, 0),
					`${name} by ${by}`
				).closeTo(total[name]!, 1e-6 * total[name]! + 1e-9);
		}
		const panes = tables.reduce(
			(n, t) => n + [...t.words.role!.index].filter((w) => t.words.role!.words[w] === 'pane').length,
			0
		);
		expect(total.cost).closeTo(total.weight * 3.5 + panes * 12, 1e-3);
		expect(rows.filter((r) => r.by === 'rate').reduce((s, r) => s + r.cost!, 0)).closeTo(total.cost!, 1e-3);
		expect(warnings).deep.equal([]);
		// As a file, by an independent reader.
		const lines = parse(await fileOf(project, model, 'quantities')) as string[][];
		expect(lines[0]!.at(-1)).equal('Cost GBP');
		expect(Number(lines[1]![11])).closeTo(total.cost!, 0.006);
	});

	it('of openings are those that are drawn, with their copies: numbers, lengths and areas by hand', async () => {
		const project = demoWith(8, 6);
		const face = project.masses[0]!.faces[0]!;
		const outline = (id: string, name: string, shape: object, place: object) =>
			openingSchema.parse({ id, name, outline: shape, place: { kind: 'face', ...place } });
		face.openings = [
			outline('door', 'Door', { kind: 'rectangle', width: 1200, height: 2400 }, { across: 9000, up: 9000 }),
			outline('light', 'Rooflight', { kind: 'circle', diameter: 1400 }, { across: 14_000, up: 9000 })
		];
		const model = await run(project);
		const { rows } = quantitiesOf(model.faces, rowWorld(project));
		const [door, light] = rows.filter((r) => r.by === 'opening');
		expect([door!.name, door!.pieces]).deep.equal([`Door, ${model.faces[0]!.name}`, 1]);
		// Of the face within its line, which is bent a little.
		expect(door!.area / (1200 * 2400)).closeTo(1, 2e-4);
		expect(door!.length / (2 * 3600)).closeTo(1, 1e-4);
		// A circle in chords that stay within 0.1 mm.
		expect(light!.area).within(Math.PI * 700 * 700 * 0.999, Math.PI * 700 * 700 * 1.001);
		expect(light!.length).within(2 * Math.PI * 700 * 0.999, 2 * Math.PI * 700 * 1.001);
	});

	it('of joints are the edges between clad cells and those along their border, by hand', async () => {
		const project = demoWith(4, 3);
		project.costs = costsSchema.parse({ sealant: 100 });
		const model = await run(project);
		const { rows } = quantitiesOf(model.faces, rowWorld(project));
		const face = model.faces[0]!;
		const { position } = face.nodes;
		const at = (row: number, column: number) => (row * 5 + column) * 3;
		const far = (a: number, b: number) => Math.hypot(...[0, 1, 2].map((c) => position[a + c]! - position[b + c]!));
		let [inside, outside] = [0, 0];
		for (let row = 0; row <= 3; row++)
			for (let column = 0; column <= 4; column++) {
				if (column < 4) {
					const length = far(at(row, column), at(row, column + 1));
					if (row === 0 || row === 3) outside += length;
					else inside += length;
				}
				if (row < 3) {
					const length = far(at(row, column), at(row + 1, column));
					if (column === 0 || column === 4) outside += length;
					else inside += length;
				}
			}
		const joint = rows.find((r) => r.by === 'joint')!;
		const border = rows.find((r) => r.by === 'border')!;
		expect([joint.pieces, border.pieces]).deep.equal([17, 14]);
		expect(joint.length).closeTo(inside, 1e-6);
		expect(border.length).closeTo(outside, 1e-6);
		expect(joint.volume).closeTo(inside * 100, 1e-3);
	});
});
