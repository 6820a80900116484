import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { piecesByKey } from '../../../src/core/formats/changes/comparePieces.ts';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import type { PartRole } from '../../../src/core/kit/fields.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { allPartsOf, partsOf, validateParts } from '../../../src/core/schedule/parts.ts';
import { demoWith, run, setRules, shippedDemo } from '../demo.ts';
import { opened } from '../formats/openIfc.ts';
import { fileOf } from '../schedules.ts';

const PANES = 6 * 4;

/** A canopy of framed panes and mullions, of which parts of some roles do not count. */
async function canopy(...leftOut: PartRole[]): Promise<{ project: Project; model: Model }> {
	const project = demoWith(6, 4);
	const { kits, materials } = shippedDemo();
	project.kits = kits.filter((k) => ['framed-pane', 'mullion'].includes(k.id));
	project.materials = materials;
	for (const step of project.kits.flatMap((k) => k.steps))
		if ('role' in step && leftOut.includes(step.role)) step.scheduled = false;
	project.costs.rates = [{ id: 'all', heading: 'All', per: 'piece', price: 1, waste: 0 }];
	setRules(
		project,
		['framed-pane', 'mullion'].map((kit) => ({ id: kit, face: 'canopy/skin', kit, values: {} }))
	);
	return { project, model: await run(project) };
}

const rowsOf = (text: Uint8Array) =>
	parse(Buffer.from(text), { columns: true, bom: true }) as Readonly<Record<string, string>>[];

describe('parts that are not scheduled', () => {
	it('are in no schedule, quantity, type, price or weight', async () => {
		const { project, model } = await canopy('frame', 'mullion');
		const rows = async (format: 'csv' | 'parts' | 'edges' | 'quantities') =>
			rowsOf(await fileOf(project, model, format));
		const weightOf = (list: readonly Readonly<Record<string, string>>[]) =>
			list.reduce((sum, row) => sum + Number(row['Weight kg']), 0);
		const parts = await rows('parts');
		expect([...new Set(parts.map((p) => p.Role))]).deep.equal(['reveal', 'pane']);
		expect(weightOf(await rows('csv'))).closeTo(weightOf(parts), 0.01 * PANES);
		expect(weightOf(await rows('edges'))).equal(0);
		const quantities = await rows('quantities');
		const [all] = quantities.filter((q) => q.By === 'Total');
		expect([all!.Pieces, all!['Cost EUR']].map(Number)).deep.equal([parts.length, parts.length]);
		const { types, parts: told } = summarise(project, model);
		expect(Object.keys(types).sort()).deep.equal(['pane', 'reveal']);
		expect(told.map((p) => p.role)).deep.equal(['reveal', 'pane']);
		const { schedules } = JSON.parse(Buffer.from(await fileOf(project, model, 'rows')).toString()) as {
			schedules: { name: string; columns: string[]; rows: unknown[][] }[];
		};
		for (const { name, columns, rows } of schedules) {
			const role = columns.indexOf('Role');
			if (role >= 0 && ['Parts', 'Types', 'Materials'].includes(name))
				expect([...new Set(rows.map((row) => row[role]))].sort(), name).deep.equal(['pane', 'reveal']);
		}
		// Mullions are the only bars.
		expect(await fileOf(project, model, 'cutlist').catch((e: Error) => e.message)).match(/bar/);
		expect(piecesByKey(project, model).size).equal(parts.length);
		expect(model.faces.flatMap((f) => validateParts(allPartsOf(f), f.schedule))).deep.equal([]);
	});

	it('are in models like all others, under the same marks, but without quantities and types (web-ifc)', async () => {
		const [counted, left] = [await canopy(), await canopy('frame')];
		const look = async ({ project, model }: typeof left) => {
			const { types, lines, line } = await opened(await fileOf(project, model, 'ifc'));
			const products = [types.IFCPLATE, types.IFCMEMBER, types.IFCCOVERING].flatMap(lines);
			const withQuantities = lines(types.IFCRELDEFINESBYPROPERTIES)
				.filter((d) => line(d.RelatingPropertyDefinition.value).Quantities)
				.flatMap((d) => d.RelatedObjects.map((o: { value: number }) => o.value as number)) as number[];
			const typed = lines(types.IFCRELDEFINESBYTYPE).flatMap((d) =>
				d.RelatedObjects.map((o: { value: number }) => o.value as number)
			) as number[];
			const names = products.map((p) => [p.GlobalId.value, p.Name.value].join(' '));
			const namesOf = (ids: readonly number[]) =>
				products.filter((p) => ids.includes(p.expressID)).map((p) => p.Name.value);
			return { names: names.sort(), counted: namesOf(withQuantities), typed: namesOf(typed) };
		};
		const [before, after] = [await look(counted), await look(left)];
		expect(after.names).deep.equal(before.names);
		const frames = PANES;
		expect(before.counted.length - after.counted.length).equal(frames);
		expect(before.typed.length - after.typed.length).equal(frames);
		expect(after.counted.some((name) => name.includes(':frame'))).equal(false);
	});

	it('are drawn: files of triangles have as many, whatever counts', async () => {
		const [counted, left] = [await canopy(), await canopy('frame', 'pane', 'reveal', 'mullion')];
		for (const format of ['stl', 'obj', 'ply', '3mf', 'glb'] as const) {
			const [a, b] = [
				await fileOf(counted.project, counted.model, format),
				await fileOf(left.project, left.model, format)
			];
			expect(Math.abs(a.length - b.length) / a.length, format).lessThan(format === '3mf' ? 0.02 : 1e-3);
		}
		expect(partsOf(left.model.faces[0]!).count).equal(0);
	});

	it('leave the marks of those that are as they are in models, where both have one name', async () => {
		const { project } = await canopy();
		const [pane] = project.kits;
		project.kits.push({ ...structuredClone(pane!), id: 'ghost', name: 'Ghost' });
		for (const step of project.kits.at(-1)!.steps) if ('scheduled' in step) step.scheduled = false;
		setRules(
			project,
			['ghost', 'framed-pane'].map((kit) => ({ id: kit, face: 'canopy/skin', kit, values: {} }))
		);
		const model = await run(project);
		const marks = rowsOf(await fileOf(project, model, 'parts')).map((p) => p.Mark!);
		expect(marks.length).equal(PANES * 3);
		const { types, lines } = await opened(await fileOf(project, model, 'ifc'));
		const inModel = new Set(
			[types.IFCPLATE, types.IFCMEMBER, types.IFCCOVERING].flatMap(lines).map((p) => p.Name.value)
		);
		expect(inModel.size).equal(PANES * 6);
		expect(marks.filter((m) => !inModel.has(m))).deep.equal([]);
	});
});
