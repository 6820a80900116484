import { expect } from 'chai';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { handoverSchema } from '../../../src/core/project/handover.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { emptyProject } from '../../../src/core/project/starter.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { openingSchema } from '../../../src/core/tiling/openings/schema.ts';
import { run, setRules } from '../demo.ts';
import { readOptions, writeFormat } from '../../../src/core/formats/writers.ts';
import { fileOf } from '../schedules.ts';
import { IfcSchema } from './ifcSchema.ts';
import { opened } from './openIfc.ts';

/** An upright wall with two doors, a round window and a mere opening, and framed panes. */
async function wall(): Promise<{ project: Project; model: Model }> {
	const project = emptyProject('Hall');
	project.levels = [
		{ id: 'quay', name: 'Quay', height: -100_000 },
		{ id: 'deck', name: 'Deck', height: 4000 }
	];
	const shape = { ...structuredClone(PRESETS.extrusion), leanY: 0 };
	const mass = newMass(shape, project.levels, { id: 'm', name: 'Hall', marks: [] });
	project.masses = [mass];
	const rectangle = { kind: 'rectangle' as const, width: 1200, height: 2400 };
	mass.faces[0]!.openings = [
		openingSchema.parse({
			id: 'door',
			name: 'Door',
			outline: rectangle,
			place: { kind: 'face', across: 3000, up: 500 },
			across: { times: 2, spacing: 2000 },
			filling: 'door'
		}),
		openingSchema.parse({
			id: 'eye',
			name: 'Bull’s eye',
			outline: { kind: 'circle', diameter: 900 },
			place: { kind: 'face', across: 8000, up: 5500 },
			filling: 'window'
		}),
		openingSchema.parse({
			id: 'hole',
			name: 'Hole',
			outline: rectangle,
			place: { kind: 'face', across: 12_000, up: 2000 }
		})
	];
	project.kits = [STARTER_KITS.find((k) => k.id === 'framed-pane')!];
	setRules(project, [{ id: 'r', face: `m/${mass.faces[0]!.id}`, kit: 'framed-pane', values: {} }]);
	return { project, model: await run(project) };
}

describe('building models', () => {
	it('have openings as voids in their face, with doors and windows in them and their quantities (web-ifc)', async () => {
		const { project, model } = await wall();
		const { types, line, lines, measure } = await opened(await fileOf(project, model, 'ifc'));
		const openings = lines(types.IFCOPENINGELEMENT);
		expect(openings.map((o) => o.Name.value).sort()).deep.equal(['Bull’s eye', 'Door 1', 'Door 2', 'Hole']);
		// Not of the face: what it is made up of would be cut once more.
		const surface = lines(types.IFCVIRTUALELEMENT)[0];
		expect(surface.Name.value).equal('Hall › Skin, surface');
		const voids = lines(types.IFCRELVOIDSELEMENT);
		expect(voids.map((v) => v.RelatingBuildingElement.value)).deep.equal(openings.map(() => surface.expressID));
		expect(voids.map((v) => v.RelatedOpeningElement.value).sort()).deep.equal(openings.map((o) => o.expressID).sort());
		// What fills which, in the storey that it stands in: doors below 4 m, the window above.
		const fills = lines(types.IFCRELFILLSELEMENT).map((f) => [
			line(f.RelatingOpeningElement.value).Name.value,
			line(f.RelatedBuildingElement.value).Name.value
		]);
		expect(fills.sort()).deep.equal([
			['Bull’s eye', 'Bull’s eye'],
			['Door 1', 'Door 1'],
			['Door 2', 'Door 2']
		]);
		const storeys = new Map<string, string>();
		for (const rel of lines(types.IFCRELCONTAINEDINSPATIALSTRUCTURE))
			for (const { value } of rel.RelatedElements)
				storeys.set(line(value).Name.value, line(rel.RelatingStructure.value).Name.value);
		expect(['Door 1', 'Bull’s eye', 'Hole'].map((name) => storeys.get(name))).deep.equal(['Quay', 'Deck', undefined]);
		const [doors, windows] = [lines(types.IFCDOOR), lines(types.IFCWINDOW)];
		expect(doors.map((d) => [d.OverallWidth.value, d.OverallHeight.value].map(Math.round))).deep.equal([
			[1200, 2400],
			[1200, 2400]
		]);
		// By hand: a rectangle of 1.2 x 2.4 m, a circle of 0.9 m (its line is true to a tenth of a millimetre); 0.3 m to either side.
		for (const door of doors) expect(measure(door.expressID).area).closeTo(1.2 * 2.4, 1e-4);
		const circle = (Math.PI * 0.9 * 0.9) / 4;
		expect(measure(windows[0].expressID).area).closeTo(circle, 1e-3);
		const quantities = new Map<string, Record<string, number>>();
		for (const rel of lines(types.IFCRELDEFINESBYPROPERTIES)) {
			const set = line(rel.RelatingPropertyDefinition.value);
			if (!set.Quantities) continue;
			const values = set.Quantities.map(({ value }: { value: number }) => line(value)).map(
				(q: Record<string, { value: number | string }>) => [
					q.Name!.value,
					(q.LengthValue ?? q.AreaValue ?? q.VolumeValue ?? q.WeightValue)!.value
				]
			);
			quantities.set(`${set.Name.value} ${line(rel.RelatedObjects[0].value).Name.value}`, Object.fromEntries(values));
		}
		const hole = quantities.get('Qto_OpeningElementBaseQuantities Hole')!;
		expect(Object.keys(hole)).deep.equal(['Width', 'Height', 'Depth', 'Area', 'Volume']);
		const byHand = [1200, 2400, 600, 1.2 * 2.4, 1.2 * 2.4 * 0.6];
		// The wall bends a little, which a body over straight triangles does not.
		Object.values(hole).forEach((value, k) => expect(value / byHand[k]!).closeTo(1, k === 4 ? 2e-3 : 1e-4));
		expect(quantities.get('Qto_DoorBaseQuantities Door 1')!.Perimeter).closeTo(7200, 0.1);
		const none = new TextDecoder().decode(await fileOf(project, model, 'ifc', { openings: false }));
		expect(none).not.match(/IFCOPENINGELEMENT|IFCDOOR\(|IFCWINDOW\(/);
	});

	it('have an opening around the point of a dome as one body, with its window in it', async () => {
		const project = emptyProject('Dome');
		const shape = { ...structuredClone(PRESETS.dome), ring: null };
		const mass = newMass(shape, project.levels, { id: 'm', name: 'Dome', marks: [] });
		project.masses = [mass];
		mass.faces[0]!.openings = [
			openingSchema.parse({
				id: 'eye',
				name: 'Oculus',
				outline: { kind: 'circle', diameter: 3000 },
				place: { kind: 'plan', x: 200, y: -100 },
				filling: 'window'
			})
		];
		project.kits = [STARTER_KITS.find((k) => k.id === 'framed-pane')!];
		setRules(project, [{ id: 'r', face: `m/${mass.faces[0]!.id}`, kit: 'framed-pane', values: {} }]);
		const { types, lines, measure } = await opened(await fileOf(project, await run(project), 'ifc'));
		// Seen from above a circle, 0.3 m to either side of a roof that leans by less than ten degrees there.
		const disc = Math.PI * 1.5 * 1.5;
		expect(measure(lines(types.IFCWINDOW)[0].expressID).area / disc).closeTo(1, 0.01);
		expect(measure(lines(types.IFCOPENINGELEMENT)[0].expressID).volume / (disc * 0.6)).closeTo(1, 0.03);
	});

	it('have the grid where it is wanted: a line an edge, a point a node, where they are', async () => {
		const { project, model } = await wall();
		expect(new TextDecoder().decode(await fileOf(project, model, 'ifc'))).not.contain('IFCANNOTATION');
		const { types, line, lines } = await opened(await fileOf(project, model, 'ifc', { grid: true }));
		const all = lines(types.IFCANNOTATION);
		expect(all.map((a) => a.ObjectType.value)).deep.equal(['grid lines', 'setting-out nodes']);
		const [gridLines, nodes] = all.map((a) => {
			const shape = line(line(a.Representation.value).Representations[0].value);
			return line(shape.Items[0].value).Elements.map(({ value }: { value: number }) => line(value));
		});
		const { cells, nodes: table } = model.faces[0]!;
		expect(gridLines.length).equal(cells.edgeCount);
		const used = [...new Set(cells.corners)];
		expect(nodes.length).equal(used.length);
		used.forEach((node, k) =>
			[0, 1, 2].forEach((c) => expect(nodes[k].Coordinates[c].value).closeTo(table.position[node * 3 + c]!, 0.001))
		);
	});

	it('are IFC4 to the letter: attributes, references, enumerations (by the schema that package web-ifc has)', async () => {
		const { project, model } = await wall();
		const codes = [{ of: 'pane', code: 'W.10' } as const, { of: 'window', code: 'D.02', title: 'Eyes' } as const];
		project.handover = handoverSchema.parse({
			classification: { name: 'Works classes', codes },
			place: { crs: 'EPSG:25832', eastings: 1, northings: 2, height: 3, turn: 0.1 }
		});
		const issue = { mark: 'B', name: 'Tender', author: 'Ines Ferrar', date: '2026-11-27' };
		const chunks: Uint8Array[] = [];
		const options = readOptions('ifc', { readings: ['area', 'row'], grid: true });
		await writeFormat('ifc', { project, model, issue }, options, (c) => void chunks.push(c.slice()));
		const text = Buffer.concat(chunks).toString();
		const schema = new IfcSchema();
		expect(schema.faultsIn(text)).deep.equal([]);
		// That it would tell: an attribute less, an unknown kind, a reference to something else, and one to nothing.
		for (const [right, wrong, told] of [
			[/(=IFCWINDOW\(.*),\$\);/, '$1);', 'attributes'],
			['.MULLION.', '.MULLIONS.', 'PredefinedType'],
			[/(=IFCRELVOIDSELEMENT\('[^']*',#\d+,\$,\$),#\d+/, '$1,#1', 'RelatingBuildingElement'],
			[/(=IFCRELAGGREGATES\(.*),#\d+\)\);/, '$1,#99999999));', 'RelatedObjects']
		] as const) {
			const changed = text.replace(right, wrong);
			expect(changed).not.equal(text);
			expect(schema.faultsIn(changed).join(), told).contain(told);
		}
	});

	it('say what pieces’ cells measure, what class they are of, and who has issued them', async () => {
		const { project, model } = await wall();
		project.handover.classification = handoverSchema.parse({
			classification: {
				name: 'Works classes',
				source: 'The client',
				edition: '3',
				codes: [
					{ of: 'pane', code: 'W.10', title: 'Glazing' },
					{ of: 'door', code: 'D.02' },
					{ of: 'louver', code: 'L.01' }
				]
			}
		}).classification;
		const issue = { mark: 'B', name: 'Tender', author: 'Ines Ferrar', date: '2026-11-27' };
		const chunks: Uint8Array[] = [];
		const options = readOptions('ifc', { readings: ['area', 'row'] });
		await writeFormat('ifc', { project, model, issue }, options, (c) => void chunks.push(c.slice()));
		const { types, line, lines } = await opened(Buffer.concat(chunks));
		const references = lines(types.IFCCLASSIFICATIONREFERENCE);
		// There is no louver, so nothing is classified as one.
		expect(references.map((r) => [r.Identification.value, r.Name?.value])).deep.equal([
			['W.10', 'Glazing'],
			['D.02', undefined]
		]);
		const system = line(references[0].ReferencedSource.value);
		expect([system.Name.value, system.Source.value, system.Edition.value]).deep.equal([
			'Works classes',
			'The client',
			'3'
		]);
		const panes = lines(types.IFCPLATE).filter((p) => p.ObjectType.value === 'pane');
		const classified = lines(types.IFCRELASSOCIATESCLASSIFICATION);
		expect(classified.map((r) => r.RelatedObjects.length)).deep.equal([panes.length, 2]);
		// Who and when: seconds since 1970, by the date of the issue.
		const owner = line(panes[0].OwnerHistory.value);
		expect(owner.CreationDate.value).equal(Date.UTC(2026, 10, 27) / 1000);
		expect(line(line(owner.OwningUser.value).ThePerson.value).FamilyName.value).equal('Ines Ferrar');
		expect(lines(types.IFCRELDEFINESBYPROPERTIES).every((r) => r.OwnerHistory.value === owner.expressID)).equal(true);
		// Areas of cells by the mark of their pane.
		const { schedule } = model;
		const panels = schedule[0]!.tables.panels;
		const areas = new Map<string, number>();
		for (const rel of lines(types.IFCRELDEFINESBYPROPERTIES)) {
			const set = line(rel.RelatingPropertyDefinition.value);
			if (set.Name.value !== 'Zygaster_Piece') continue;
			const named = Object.fromEntries(
				set.HasProperties.map(({ value }: { value: number }) => line(value)).map(
					(p: Record<string, { value: number | string }>) => [p.Name!.value, p.NominalValue!.value]
				)
			);
			expect(named).not.have.property('Cell warp');
			if (named.Part === 'pane') areas.set(named.Host as string, named['Cell area'] as number);
		}
		expect(areas.size).equal(panels.count);
		const { markOf } = await import('../../../src/core/schedule/faceTable.ts');
		for (let r = 0; r < panels.count; r++)
			expect(areas.get(markOf(schedule[0]!, 'panels', r))! * 1e6).closeTo(
				model.faces[0]!.readings.columns.area[panels.host[r]!]!,
				1
			);
	});
});
