import { expect } from 'chai';
import fc from 'fast-check';
import { messageOf } from '../../../src/core/errors.ts';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import { evaluateGridPoints } from '../../../src/core/geometry/evaluate.ts';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { profileSchema } from '../../../src/core/mass/profile.ts';
import { kindOf, type Shape } from '../../../src/core/mass/shapes.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import { starterProject } from '../../../src/core/project/starter.ts';
import { run, setRules } from '../demo.ts';

const TOP = 3 * 3600;

/** A block with a flat roof over a footprint. */
const under = (footprint: object) =>
	({ ...PRESETS.block, roof: { kind: 'flat' }, footprint: profileSchema.parse(footprint) }) as Shape;
const roofOf = (footprint: object) =>
	kindOf(PRESETS.block)
		.surfaces(under(footprint) as never)
		.at(-1)!;
const closed = (points: readonly object[]) => ({ kind: 'drawn', closed: true, points });

/** Points along all four borders of a face, and within it. */
function samples(surface: Surface) {
	const shares = Float64Array.from({ length: 41 }, (_, k) => k / 40);
	const { position, normal } = evaluateGridPoints(surface, shares, shares);
	const all = Array.from({ length: position.length / 3 }, (_, k) => ({
		at: [position[k * 3]!, position[k * 3 + 1]!, position[k * 3 + 2]!] as const,
		up: normal[k * 3 + 2]!,
		border: k < 41 || k >= 40 * 41 || k % 41 === 0 || k % 41 === 40
	}));
	return { border: all.filter((p) => p.border), within: all.filter((p) => !p.border), all };
}

/** Area within points, mm2: the shoelace formula. */
const shoelace = (points: readonly (readonly [number, number])[]) =>
	points.reduce((sum, [x, y], k) => {
		const [u, v] = points[(k + 1) % points.length]!;
		return sum + (x * v - u * y) / 2;
	}, 0);

const RADIUS = 9000;
const regular = (n: number) =>
	Array.from({ length: n }, (_, k): [number, number] => [
		RADIUS * Math.cos((2 * Math.PI * k) / n),
		RADIUS * Math.sin((2 * Math.PI * k) / n)
	]);

describe('flat roofs', () => {
	it('close a round footprint, with its circle as their border', () => {
		const roof = roofOf({ kind: 'circle', radius: RADIUS });
		const { border, within, all } = samples(roof);
		for (const { at } of border) expect(Math.hypot(at[0], at[1])).closeTo(RADIUS, 1e-6);
		for (const { at } of within) expect(Math.hypot(at[0], at[1])).lessThan(RADIUS);
		for (const { at } of all) expect(at[2]).closeTo(TOP, 1e-9);
		// Where quarters run straight on into each other the face has no normal.
		expect(all.filter(({ up }) => Math.abs(up - 1) > 1e-9)).length(4);
		expect(surfaceArea(roof)).closeTo(Math.PI * RADIUS * RADIUS, 1000);
	});

	it('close ellipses, rounded corners, arcs and splines: areas by hand', () => {
		expect(surfaceArea(roofOf({ kind: 'ellipse', radiusX: 12_000, radiusY: 5000 }))).closeTo(
			Math.PI * 12_000 * 5000,
			1000
		);
		const rounding = 2500;
		expect(surfaceArea(roofOf({ kind: 'rectangle', width: 20_000, depth: 12_000, rounding }))).closeTo(
			20_000 * 12_000 - (4 - Math.PI) * rounding * rounding,
			1000
		);
		// A stadium: two half circles of 5 m beside a rectangle of 14 m.
		const stadium = closed([
			{ x: 0, y: 0 },
			{ x: 14_000, y: 0, arc: 1 },
			{ x: 14_000, y: 10_000 },
			{ x: 0, y: 10_000, arc: 1 }
		]);
		expect(surfaceArea(roofOf(stadium))).closeTo(14_000 * 10_000 + Math.PI * 5000 * 5000, 1000);
	});

	it('close straight walls that bend only a little, whatever their number', () => {
		for (const n of [13, 24, 61]) {
			const points = regular(n);
			const roof = roofOf(closed(points.map(([x, y]) => ({ x, y }))));
			expect(surfaceArea(roof), `${n} walls`).closeTo(shoelace(points), 10);
		}
	});

	it('enclose what their footprint encloses, however it is dented (property)', () =>
		fc.assert(
			fc.property(
				fc.integer({ min: 5, max: 40 }),
				fc.array(fc.integer({ min: -700, max: 700 }), { minLength: 40, maxLength: 40 }),
				(n, off) => {
					const points = regular(n).map(([x, y], k): [number, number] => {
						const scale = 1 + off[k]! / RADIUS / Math.max(1, n / 8);
						return [Math.round(x * scale), Math.round(y * scale)];
					});
					let roof: Surface;
					try {
						roof = roofOf(closed(points.map(([x, y]) => ({ x, y }))));
					} catch (cause) {
						return expect(messageOf(cause)).match(/cannot be laid as one four-sided face/) && undefined;
					}
					expect(surfaceArea(roof) / shoelace(points)).closeTo(1, 1e-7);
				}
			),
			{ numRuns: 60 }
		));

	it('refuse a footprint over which they would fold, in words', () => {
		const star = regular(10).map(([x, y], k) => (k % 2 ? { x: x / 5, y: y / 5 } : { x, y }));
		expect(() => roofOf(closed(star))).throw('cannot be laid as one four-sided face');
	});

	it('close towers, extrusions and lofts above, where their uppermost line lies', () => {
		const facesOf = (shape: Shape) =>
			kindOf(shape)
				.faces(shape as never)
				.map((face) => face.id);
		const roofed = (kind: 'tower' | 'extrusion' | 'loft', more: object) => {
			const shape = { ...PRESETS[kind], roof: 'flat', ...more } as Shape;
			expect(facesOf(shape).at(-1)).equal('roof');
			expect(facesOf({ ...shape, roof: 'open' } as Shape)).deep.equal(facesOf(shape).slice(0, -1));
			const roof = kindOf(shape)
				.surfaces(shape as never)
				.at(-1)!;
			for (const { up } of samples(roof).within) expect(up).closeTo(1, 1e-9);
			return roof;
		};
		// 20 x 16 m, 0.7 times as large, turned by 45°.
		const tower = roofed('tower', {});
		expect(surfaceArea(tower)).closeTo(20_000 * 16_000 * 0.49, 10);
		for (const { at } of samples(tower).border) {
			const [x, y] = [at[0] + at[1], at[1] - at[0]].map((t) => Math.abs(t) / Math.SQRT2 / 0.7) as [number, number];
			expect(Math.max(x / 10_000, y / 8000)).closeTo(1, 1e-9);
			expect(at[2]).closeTo(60_000, 1e-9);
		}
		const leaning = roofed('extrusion', {
			profile: { kind: 'circle', radius: 5000 },
			leanX: 2500,
			leanY: -1000,
			top: 9000
		});
		for (const { at } of samples(leaning).border) {
			expect(Math.hypot(at[0] - 2500, at[1] + 1000)).closeTo(5000, 1e-6);
			expect(at[2]).closeTo(9000, 1e-9);
		}
		// The last section of the loft is an ellipse of 9 x 6 m.
		expect(surfaceArea(roofed('loft', {}))).closeTo(Math.PI * 9000 * 6000, 1000);
	});

	it('want a closed line, in words beside it', () => {
		const project = starterProject('Wall');
		const mass = newMass(structuredClone(PRESETS.extrusion), [], { id: 'wall', name: 'Wall', marks: [] });
		project.masses = [mass];
		setRules(project, []);
		expect(checkDocument(project).masses[0]!.shape).deep.include({ roof: 'open' });
		Object.assign(mass.shape, { roof: 'flat' });
		expect(() => checkDocument(project)).throw('a flat roof needs a closed line in plan');
		// Faces are asked for before the document is checked.
		expect(() => kindOf(mass.shape).surfaces(mass.shape as never)).throw('a flat roof needs a closed line in plan');
	});

	it('are divided and clad like any other face: their cells add up, their nodes stand on the wall’s', async () => {
		const project = starterProject('Drum');
		project.kits = structuredClone(STARTER_KITS.filter((k) => ['framed-pane', 'node-disc'].includes(k.id)));
		const mass = newMass(under({ kind: 'circle', radius: RADIUS }), [], { id: 'drum', name: 'Drum', marks: [] });
		project.masses = [mass];
		for (const face of mass.faces) {
			Object.assign(face.settingOut.across, { spacing: { kind: 'count', count: face.id === 'roof' ? 8 : 32 } });
			Object.assign(face.settingOut.up, { spacing: { kind: 'count', count: 8 } });
		}
		setRules(project, [
			{ id: 'panes', face: 'drum/roof', kit: 'framed-pane', values: {} },
			{ id: 'discs', face: 'drum/roof', kit: 'node-disc', values: {} }
		]);
		const { faces, warnings } = await run(project);
		expect(warnings.map((w) => w.message)).deep.equal([]);
		const roof = faces.find(({ key }) => key === 'drum/roof')!;
		expect(roof.placements.filter((p) => p.rule === 'discs').reduce((n, p) => n + p.hosts.length, 0)).equal(81);
		// Chords of 32nds of the circle around it.
		const area = roof.readings.columns.area.reduce((sum, a) => sum + a, 0);
		expect(area).closeTo(16 * RADIUS * RADIUS * Math.sin((2 * Math.PI) / 32), 1000);
		const wall = faces.find(({ key }) => key !== 'drum/roof')!;
		const keys = ({ nodes: { position } }: typeof roof) =>
			Array.from({ length: position.length / 3 }, (_, k) =>
				[0, 1, 2].map((c) => Math.round(position[k * 3 + c]!)).join()
			);
		const onWall = new Set(keys(wall));
		expect(keys(roof).filter((key) => onWall.has(key))).length(32);
	});
});
