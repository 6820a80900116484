import { expect } from 'chai';
import fc from 'fast-check';
import { bordersMeet } from '../../../src/core/geometry/faceBorder.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { profileSchema } from '../../../src/core/mass/profile.ts';
import { kindOf, type Shape } from '../../../src/core/mass/shapes.ts';
import type { Condition } from '../../../src/core/placement/rules/schema.ts';
import { layPieces, preparePiece } from '../../../src/core/mesh/importMesh.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import { clad, plain } from '../block.ts';
import { run, setRules } from '../demo.ts';
import { gridMesh } from '../mesh/meshes.ts';
import { seed } from '../project/unusual.ts';

const EARLIER: Condition = { kind: 'not', of: { kind: 'border', state: 'earlier', within: 0 } };
const BESIDE: Condition = { kind: 'border', state: 'face', within: 0 };

const text = (p: ArrayLike<number>, n: number) => [0, 1, 2].map((c) => Math.round(p[n * 3 + c]! * 10) / 10 + 0).join();

/** Where discs and mullions stand: points, and middles of edges. */
function placesOf(model: Model, kit: string): string[] {
	return model.faces.flatMap(({ placements, nodes: { position }, cells: { edgeNodes } }) =>
		placements
			.filter((p) => p.kit.id === kit && !p.inner)
			.flatMap(({ hosts }) =>
				Array.from(hosts, (h) =>
					kit === 'node-disc'
						? text(position, h)
						: [text(position, edgeNodes[2 * h]!), text(position, edgeNodes[2 * h + 1]!)].sort().join(' to ')
				)
			)
	);
}

const BLOCK = PRESETS.block;

describe('where faces meet', () => {
	it('has a block’s nodes and edges once where rules leave out an earlier face, twice where they do not', async () => {
		const every = await run(plain([]));
		// By hand. Nodes: three rings of 14 around the walls, 3 x 2 within the roof. Edges: three rings of 14, two rows of 14
		// uprights, and within the roof two lines of 4 and three of 3.
		const [nodes, edges] = [3 * 14 + 6, 3 * 14 + 2 * 14 + 8 + 9];
		const counts = (model: Model) => ['node-disc', 'mullion'].map((kit) => placesOf(model, kit).length);
		// Uprights at the corners stand twice, and so does the ring of the roof; its corners stand three times.
		expect(counts(every)).deep.equal([nodes + 3 * 4 + 14, edges + 2 * 4 + 14]);
		const once = await run(plain([EARLIER]));
		for (const kit of ['node-disc', 'mullion']) {
			const places = placesOf(once, kit);
			expect(new Set(places).size).equal(places.length);
			expect(new Set(places)).deep.equal(new Set(placesOf(every, kit)));
		}
		expect(counts(once)).deep.equal([nodes, edges]);
		// What stands twice is told of the later face, with the rules that would put it right.
		expect(once.warnings.map((w) => w.message)).deep.equal([]);
		// On the walls one or two corners of three nodes each, around the roof 14.
		expect(every.warnings.map(({ face, message, once: rules }) => [face, message, rules])).deep.equal([
			[
				'block/wall-2',
				'“Rectangular mullion” is there twice on 2 edges, since Block › Wall 1, earlier in the list, has it in the same places, and so on 20 edges of 3 other faces.',
				['mullions']
			],
			[
				'block/wall-2',
				'“Node disc and ball” is there twice on 3 nodes, since Block › Wall 1, earlier in the list, has it in the same places, and so on 23 nodes of 3 other faces.',
				['discs']
			]
		]);
	});

	it('takes corner posts alone', async () => {
		const posts = await run(plain([BESIDE, EARLIER]));
		// Four corners of two rows, and the ring of the roof.
		expect(placesOf(posts, 'mullion')).length(8 + 14);
		const others = await run(plain([{ kind: 'not', of: BESIDE }]));
		expect(placesOf(others, 'mullion')).length(3 * 14 + 2 * 14 + 17 - 8 - 14);
	});

	it('keeps bars clear of the corner posts of another face as of their own', async () => {
		const project = plain([]);
		const bar = (id: string, where: Condition[], width: number) => ({
			...structuredClone(project.rules[1]!),
			id,
			where,
			values: { width, cutBack: 5 }
		});
		project.rules = [bar('posts', [BESIDE, EARLIER], 120), bar('bars', [{ kind: 'not', of: BESIDE }], 60)];
		const memo = new Memo();
		const lengths = async () => {
			const { faces } = await run(project, { memo });
			return faces.map(({ placements }) => {
				const bars = placements.filter((p) => p.rule === 'bars');
				return bars.flatMap((p) => [...p.parts[0]!.length]).map((l) => Math.round(l * 1000) / 1000);
			});
		};
		const short = (length: number, ...rooms: number[]) =>
			Math.round((length - rooms.reduce((sum, room) => sum + room + 5, 0)) * 1000) / 1000;
		const [, second, , , roof] = await lengths();
		const field = 14_000 / 3;
		// On the ground, and between both rows: posts at both ends, whichever face has them. Between the posts bars stand from bar
		// to bar; the upper ones end at the ring below the roof.
		const row = [short(field, 60, 30), short(field, 30, 30), short(field, 30, 60)];
		const counted = (list: readonly number[]) => [...list].sort((a, b) => a - b);
		const uprights = [5400, 5400].flatMap((l, k) => [short(l, 30, k ? 60 : 30), short(l, 30, k ? 60 : 30)]);
		expect(counted(second!)).deep.equal(counted([...row, ...row, ...uprights]));
		const across = [short(6000, 60, 30), short(6000, 30, 30), short(6000, 30, 30), short(6000, 30, 60)];
		const up = [short(field, 60, 30), short(field, 30, 30), short(field, 30, 60)];
		expect(counted(roof!)).deep.equal(counted([...across, ...across, ...up, ...up, ...up]));
		// They follow posts of another width.
		project.rules[0]!.values = { width: 200, cutBack: 5 };
		expect(Math.min(...(await lengths())[1]!)).equal(short(field, 100, 30));
	});

	it('lets cells count from where faces meet', async () => {
		const project = plain([]);
		project.masses[0]!.faces[4]!.facade = false;
		setRules(project, [{ id: 'panes', face: 'block/wall-1', kit: 'flat-pane', values: {} }]);
		// Two of the four columns are at corners; at the top and at the bottom nothing meets.
		for (const [within, cells] of [
			[0, 4],
			[1, 8]
		] as const) {
			// prettier-ignore
			project.rules[0]!.where = [{ kind: 'border', state: 'face', within }];
			const model = await run(project);
			expect(model.faces[0]!.placements[0]!.hosts).length(cells);
		}
	});

	it('has a ring between two tubes of unlike divisions once', async () => {
		const tube = (base: number) =>
			({
				kind: 'extrusion',
				profile: { kind: 'circle', radius: 5000 },
				base,
				top: base + 4000,
				leanX: 0,
				leanY: 0
			}) as Shape;
		const project = clad(
			tube(0),
			[EARLIER],
			() => 12,
			() => 2
		);
		const upper = newMass(tube(4000), [], { id: 'upper', name: 'Upper', marks: ['M'] });
		Object.assign(upper.faces[0]!.settingOut.across, { spacing: { kind: 'count', count: 5 } });
		Object.assign(upper.faces[0]!.settingOut.up, { spacing: { kind: 'count', count: 2 } });
		project.masses.push(upper);
		const counts = (model: Model) => model.faces.map((face) => placesOf({ ...model, faces: [face] }, 'mullion').length);
		const once = await run(project);
		// Rings and uprights: three of twelve and two of twelve; above two of five, since the lowest is there, and two of five.
		expect(counts(once)).deep.equal([5 * 12, 4 * 5]);
		for (const rule of project.rules) rule.where = [];
		const twice = await run(project);
		expect(counts(twice)).deep.equal([5 * 12, 5 * 5]);
		// The chords of fifths leave those of twelfths by 0.95 m at most, which is more than a bar stands beside another one.
		expect(twice.warnings.map((w) => w.once)).deep.equal([['discs']]);
	});

	it('follows a neighbour that moves away, is divided no more, or comes back', async () => {
		const project = plain([EARLIER]);
		const other = newMass(structuredClone(BLOCK), [], { id: 'other', name: 'Other', marks: ['M'] });
		project.masses.push(other);
		const memo = new Memo();
		const counts = async () => {
			const model = await run(project, { memo });
			const cold = await run(project);
			const of = (m: Model) => placesOf(m, 'node-disc').length;
			expect(of(model)).equal(of(cold));
			return of(model);
		};
		const inOnePlace = await counts();
		other.frame.x = 90_000;
		const apart = await counts();
		expect(apart).greaterThan(inOnePlace);
		// Side by side they have a wall in common.
		other.frame.x = 24_000;
		const beside = await counts();
		expect(beside).lessThan(apart);
		for (const face of project.masses[0]!.faces) face.facade = false;
		expect(await counts()).equal(apart - 48);
		for (const face of project.masses[0]!.faces) face.facade = true;
		expect(await counts()).equal(beside);
	});

	it('does not count faces that are not divided', async () => {
		const project = plain([EARLIER]);
		project.masses[0]!.faces[0]!.facade = false;
		const places = placesOf(await run(project), 'node-disc');
		expect(new Set(places).size).equal(places.length);
		// Without the first wall its bottom line and its middle one have no node within any more: 2 x 3.
		expect(places).length(3 * 14 + 6 - 6);
	});

	it('stands once along common borders of any block, however each face is divided (property)', () =>
		fc.assert(
			fc.asyncProperty(
				fc.constantFrom<Shape>(
					{ ...BLOCK, roof: { kind: 'open' } } as Shape,
					BLOCK,
					{ ...BLOCK, roof: { kind: 'pitched', height: 4000 } } as Shape,
					{
						...BLOCK,
						roof: { kind: 'open' },
						footprint: profileSchema.parse({
							kind: 'drawn',
							closed: true,
							points: [
								{ x: 0, y: 0 },
								{ x: 9000, y: 0, arc: 0.3 },
								{ x: 9000, y: 7000 },
								{ x: 2000, y: 9000 }
							]
						})
					} as Shape
				),
				fc.array(fc.integer({ min: 2, max: 7 }), { minLength: 20, maxLength: 20 }),
				async (shape, counts) => {
					const across = (f: number) => counts[f % 20]!;
					const up = (f: number) => counts[(f + 7) % 20]!;
					const every = await run(clad(shape, [], across, up));
					const once = await run(clad(shape, [EARLIER], across, up));
					const places = placesOf(once, 'node-disc');
					expect(new Set(places).size).equal(places.length);
					expect(once.warnings.map((w) => w.message)).deep.equal([]);
					// What is left out is what lies on the border of an earlier face.
					const all = placesOf(every, 'node-disc');
					expect(all.length - places.length).greaterThan(0);
				}
			),
			{ numRuns: 20, seed }
		));

	it('knows faces that meet across masses, over a part of a border, at a corner', () => {
		const wall = (x: number, y: number, toX: number, toY: number, base = 0) =>
			kindOf(PRESETS.extrusion).surfaces({
				kind: 'extrusion',
				profile: profileSchema.parse({
					kind: 'drawn',
					closed: false,
					points: [
						{ x, y },
						{ x: toX, y: toY }
					]
				}),
				base,
				top: base + 3000,
				leanX: 0,
				leanY: 0
			} as never)[0]!;
		const long = wall(0, 0, 50_000, 0);
		expect(bordersMeet(long, wall(21_000, 0, 22_300, 0, 3000)), 'a short one on top').equal(true);
		expect(bordersMeet(wall(21_000, 0, 22_300, 0, 3000), long), 'and the other way around').equal(true);
		expect(bordersMeet(long, wall(50_000, 0, 60_000, 5000, 3000)), 'at a corner').equal(true);
		expect(bordersMeet(long, wall(50_000, 0, 60_000, 5000, 2000)), 'over a part of the upright').equal(true);
		expect(bordersMeet(long, wall(50_015, 0, 60_000, 0)), 'beyond a joint of 15 mm').equal(true);
		expect(bordersMeet(long, wall(50_030, 0, 60_000, 0)), 'beyond a gap of 30 mm').equal(false);
		expect(bordersMeet(long, wall(20_000, 0.5, 20_000, 9000)), 'with a foot on its lower border').equal(true);
		expect(bordersMeet(long, wall(20_000, 0, 20_000, 9000, 1000)), 'against the middle of it').equal(false);
	});

	it('knows faces of a file that meet along a curved fold, each laid over its own part of the mesh', async () => {
		const fold = gridMesh(24, 24, (i, j) => [
			i * 500,
			j * 500,
			2500 * Math.sin((i / 24) * Math.PI) - 300 * Math.abs(j - 12)
		]);
		const { faces } = layPieces([preparePiece({ name: 'Fold', mesh: fold }, 1)], { kind: 'crease', angle: 0.5 });
		expect(faces).length(2);
		const project = clad(
			{ kind: 'imported', file: 'fold.obj', faces },
			[EARLIER],
			() => 8,
			() => 8
		);
		const counts = (model: Model) =>
			model.faces.map((face) => placesOf({ ...model, faces: [face] }, 'node-disc').length);
		expect(counts(await run(project))).deep.equal([81, 81 - 9]);
		for (const rule of project.rules) rule.where = [];
		const twice = await run(project);
		expect(twice.warnings.map((w) => w.once)).deep.equal([['mullions'], ['discs']]);
	});
});
