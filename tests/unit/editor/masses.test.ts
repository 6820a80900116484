import { expect } from 'chai';
import { cellSizes, compareSizes } from '../../../src/core/project/compare.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { settleShape } from '../../../src/core/project/settle.ts';
import { emptyProject } from '../../../src/core/project/starter.ts';
import { faceKey, type Project } from '../../../src/core/project/schema.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { dragHandle, frameHandle, handlesOf } from '../../../src/lib/editor/handles.ts';
import { addLevel, hangersOf, moveLevel, removeLevel } from '../../../src/lib/editor/levels.ts';
import { addMass, arrayMass, changeMass, copyMass } from '../../../src/lib/editor/masses.ts';
import { setAt, valueAt } from '../../../src/lib/editor/paths.ts';
import { drawnFrom, PROFILE_PRESETS, profileSketch } from '../../../src/lib/editor/profiles.ts';
import { formOf, type FormItem } from '../../../src/lib/editor/shapeForm.ts';
import { fullDemo, PILOT_FACES, run, setCount, shippedDemo, withoutOpenings } from '../demo.ts';
import { tableRows } from '../schedules.ts';

const KINDS = Object.keys(PRESETS) as (keyof typeof PRESETS)[];
const withMass = (kind: keyof typeof PRESETS): Project => {
	const project = emptyProject('Trial');
	addMass(project, kind);
	return project;
};
const shapeOf = (project: Project, m = 0) => project.masses[m]!.shape;

describe('masses of every kind', () => {
	for (const kind of KINDS)
		it(`adds a ${kind} that is sound and clad at once, with controls for what is there`, async () => {
			const project = checkDocument(withMass(kind));
			const model = await run(project);
			expect(model.warnings).deep.equal([]);
			expect(tableRows(model).count).greaterThan(3);
			const lead = (items: readonly FormItem[], base: (string | number)[]): void => {
				for (const item of items) {
					const path = [...base, ...item.path];
					expect(valueAt(shapeOf(project), path), path.join('.')).not.equal(undefined);
					if (item.kind === 'list') lead(item.items(0, 3), [...path, 0]);
				}
			};
			lead(formOf(shapeOf(project)), []);
		});

	for (const kind of KINDS)
		it(`stands a new ${kind} clear of what is there, and the first one where its numbers say`, async () => {
			const project = withMass('block');
			expect(project.masses[0]!.frame).include({ x: 0, y: 0, z: 0 });
			project.masses[0]!.frame = { x: 9000, y: 4000, z: 0, turn: 1, mirrored: true };
			addMass(project, kind);
			const eastings = (await run(project)).faces.map(({ key, nodes: { position } }) => ({
				added: key.startsWith(project.masses[1]!.id),
				x: position.filter((_, o) => o % 3 === 0)
			}));
			const [there, added] = [false, true].map((which) =>
				eastings.filter((e) => e.added === which).flatMap((e) => [...e.x])
			);
			expect(Math.min(...added!) - Math.max(...there!)).within(3999, 12_000);
		});

	it('adds a mass beside one whose numbers lead to no face', () => {
		const project = withMass('revolution');
		const { shape } = project.masses[0]!;
		if (shape.kind === 'revolution' && shape.profile.kind === 'drawn') shape.profile.points[0]!.x = -900;
		expect(() => checkDocument(project)).throw('the profile crosses the axis');
		addMass(project, 'block');
		expect(project.masses[1]!.frame.x).equal(0);
	});

	for (const kind of KINDS)
		it(`drags every handle of a ${kind}, and only what it says changes`, () => {
			const project = withMass(kind);
			const mass = project.masses[0]!;
			mass.frame = { x: 3000, y: -2000, z: 500, turn: Math.PI / 2, mirrored: false };
			const handles = [frameHandle(mass), ...handlesOf(project, mass)];
			expect(handles.length).greaterThan(1);
			for (const handle of handles) {
				const dragged = structuredClone(mass);
				dragHandle(
					dragged,
					handle,
					handle.targets.map(() => 200)
				);
				for (const { path, factor } of handle.targets) {
					const [before, after] = [valueAt(mass, path), valueAt(dragged, path)] as number[];
					expect(after! - before!, `${handle.label} ${path.join('.')}`).closeTo(200 * factor, 6);
				}
				handle.directions.forEach((d) => expect(Math.hypot(...d)).closeTo(1, 1e-9));
			}
		});

	it('gives a mass the faces of its shape, keeping what those it had were told', () => {
		const project = withMass('block');
		const mass = project.masses[0]!;
		mass.faces[1]!.name = 'Street side';
		const marks = mass.faces.map((f) => f.mark);
		changeMass(project, 0, (m) => setAt(m.shape, ['roof'], { kind: 'pitched', height: 3000 }));
		expect(mass.faces.map((f) => f.id)).deep.equal([
			'wall-1',
			'wall-2',
			'wall-3',
			'wall-4',
			'roof-1',
			'roof-2',
			'roof-3',
			'roof-4'
		]);
		expect([mass.faces[1]!.name, mass.faces.slice(0, 4).map((f) => f.mark)]).deep.equal([
			'Street side',
			marks.slice(0, 4)
		]);
		const walls = [1, 2, 3, 4].map((k) => `mass-1/wall-${k}`);
		expect(checkDocument(project).rules.map((r) => r.faces)).deep.equal([
			[...walls, ...[1, 2, 3, 4].map((k) => `mass-1/roof-${k}`)]
		]);
		changeMass(project, 0, (m) => setAt(m.shape, ['roof'], { kind: 'open' }));
		expect(checkDocument(project).rules.map((r) => r.faces)).deep.equal([walls]);
	});

	it('copies paths that hang on its faces, with what stands on them, and none that lie in space', async () => {
		const project = shippedDemo();
		const lantern = project.masses.findIndex((mass) => mass.id === 'lantern');
		const key = copyMass(project, lantern, 30_000);
		const copy = project.paths.filter((p) => p.face === key);
		expect(copy.map((p) => [p.weave, p.mark === 'LR'])).deep.equal([[45, false]]);
		const ribs = project.rules.find((r) => r.id === 'lantern-ribs')!;
		expect([ribs.faces, ribs.where]).deep.equal([
			['lantern/skin', key],
			[{ kind: 'path', paths: ['ribs', copy[0]!.id] }]
		]);
		expect((await run(checkDocument(project))).warnings.map((w) => w.message)).deep.equal([]);
		const canopy = copyMass(project, 0, 90_000);
		expect(project.paths.some((p) => p.face === canopy)).equal(false);
	});

	it('copies a mass with its kits and marks of its own, and arrays it around an axis', async () => {
		const project = withMass('dome');
		const key = copyMass(project, 0);
		expect([key, project.masses[1]!.name, project.masses[1]!.faces[0]!.mark]).deep.equal([
			'mass-2/skin',
			'Dome 2',
			'M2'
		]);
		project.masses.pop();
		project.rules[0]!.faces.pop();
		project.masses[0]!.frame.x = 20_000;
		arrayMass(project, 0, 4, 0, 0);
		const places = checkDocument(project).masses.map((m) => [Math.round(m.frame.x) + 0, Math.round(m.frame.y) + 0]);
		expect(places).deep.equal(
			[
				[20_000, 0],
				[0, 20_000],
				[-20_000, 0],
				[-0, -20_000]
			].map(([x, y]) => [x! + 0, y])
		);
		const model = await run(project);
		const areas = model.faces.map((f) => f.readings.columns.area.reduce((a, b) => a + b, 0));
		areas.forEach((a) => expect(a).closeTo(areas[0]!, 1));
	});

	it('takes a round profile over into a drawn line near it', () => {
		expect(drawnFrom(PROFILE_PRESETS.rectangle).points.map((p) => [p.x, p.y])).deep.equal([
			[8000, -6000],
			[8000, 6000],
			[-8000, 6000],
			[-8000, -6000]
		]);
		drawnFrom(PROFILE_PRESETS.circle).points.forEach((p) => expect(Math.hypot(p.x, p.y)).closeTo(8000, 1));
		expect(profileSketch(PROFILE_PRESETS.ellipse, 200, 80)).match(/^M[\d. L]+Z$/);
	});
});

/** Faces of the demo's smaller masses. */
const OTHERS = ['quay-return/skin', 'ticket-screen/skin', 'shelter/skin', ...PILOT_FACES];

describe('levels', () => {
	it('move what hangs on them; cells keep their keys, and the change is counted', async () => {
		const before = fullDemo();
		// Three heights of the first masses hang on the quay; so do the feet of the return, the screen and the pilot house, and
		// the screen's top.
		expect([hangersOf(before, 'quay'), hangersOf(before, 'parapet')]).deep.equal([3 + 4, 1 + 1]);
		withoutOpenings(before);
		const after = structuredClone(before);
		moveLevel(after, 'parapet', 16_500);
		const [a, b] = [await run(before), await run(checkDocument(after))];
		const top = (m: typeof a, face: number) => Math.max(...m.faces[face]!.nodes.position.filter((_, o) => o % 3 === 2));
		expect([top(a, 1), top(b, 1)].map(Math.round)).deep.equal([15_000, 16_500]);
		expect([...b.faces[1]!.cells.row]).deep.equal([...a.faces[1]!.cells.row]);
		const change = compareSizes(cellSizes(a), cellSizes(b));
		expect([change.added, change.gone, change.resized + change.same]).deep.equal([
			0,
			0,
			a.faces.reduce((n, f) => n + f.cells.count, 0)
		]);
		// Only the quay front and its return hang on the parapet.
		expect(change.resized).within(1, a.faces[1]!.cells.count + a.faces[3]!.cells.count);
	});

	it('tell cells that came and went by their keys', async () => {
		const before = fullDemo();
		withoutOpenings(before);
		const after = structuredClone(before);
		setCount(after, 2, 'up', 30);
		setCount(after, 0, 'across', 20);
		const [a, b] = [await run(before), await run(after)];
		const change = compareSizes(cellSizes(a), cellSizes(b));
		// Two more rows of twelve diamonds; four columns less of two triangles a field.
		expect([change.added, change.gone]).deep.equal([2 * 12, 4 * 48 * 2]);
	});

	it('are added a storey up, and leave what hung on them where it was when removed', () => {
		const project = fullDemo();
		addLevel(project);
		expect(project.levels[0]).deep.include({ name: 'Level 1', height: 18_600 });
		const quay = project.masses[1]!;
		const was = settleShape(project, quay);
		removeLevel(project, 'gallery');
		expect(settleShape(checkDocument(project), quay)).deep.equal(was);
		expect(hangersOf(project, 'gallery')).equal(0);
	});

	it('that cross each other are refused with the place', () => {
		const project = fullDemo();
		moveLevel(project, 'gallery', 7000);
		expect(() => checkDocument(project)).throw(
			'Quay front, section 3, height: section 3 stands at 7000, not above section 2 at 7400'
		);
		const lost = fullDemo();
		lost.levels = lost.levels.filter((l) => l.id !== 'quay');
		expect(() => checkDocument(lost)).throw('there is no level “quay”');
	});
});

describe('faces of a mass', () => {
	it('can be left out of the facade, turned inside out, and are then surfaces still', async () => {
		const project = fullDemo();
		project.masses[1]!.faces[0]!.facade = false;
		project.masses[2]!.faces[0]!.insideOut = true;
		const model = await run(checkDocument(project));
		expect(model.bodies.map((b) => b.key)).deep.equal(['canopy/skin', 'quay-front/skin', 'lantern/skin', ...OTHERS]);
		expect(model.faces.map((f) => f.key)).deep.equal(['canopy/skin', 'lantern/skin', ...OTHERS]);
		const lantern = model.faces[1]!;
		const [x, y] = [
			lantern.nodes.position[0]! - project.masses[2]!.frame.x,
			lantern.nodes.position[1]! - project.masses[2]!.frame.y
		];
		expect(x * lantern.nodes.normal[0]! + y * lantern.nodes.normal[1]!).lessThan(0);
	});

	it('warn where the numbers of their mass lead to no face, and leave the rest standing', async () => {
		const project = fullDemo();
		const { shape } = project.masses[2]!;
		if (shape.kind === 'revolution' && shape.profile.kind === 'drawn') shape.profile.points[0]!.x = -900;
		expect(() => checkDocument(project)).throw('the profile crosses the axis: x is -');
		const model = await run(project);
		expect(model.faces.map((f) => f.key)).deep.equal(['canopy/skin', 'quay-front/skin', ...OTHERS]);
		expect(model.warnings.map((w) => [w.face, w.stage])).deep.equal([
			[faceKey(project.masses[2]!, project.masses[2]!.faces[0]!), 'mass']
		]);
	});
});
