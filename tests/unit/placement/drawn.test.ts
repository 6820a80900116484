import { expect } from 'chai';
import fc from 'fast-check';
import type { Point } from '../../../src/core/geometry/curve.ts';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import { drawPaths, type DrawnPaths } from '../../../src/core/placement/drawn/drawPaths.ts';
import { geodesic } from '../../../src/core/placement/drawn/geodesic.ts';
import { NodeKeys } from '../../../src/core/placement/drawn/nodeKeys.ts';
import { planeCut } from '../../../src/core/placement/drawn/planeCut.ts';
import { pathSchema, type DrawnPath } from '../../../src/core/placement/drawn/schema.ts';
import { weave } from '../../../src/core/placement/drawn/weave.ts';
import type { RuledFace } from '../../../src/core/placement/rules/ruleHosts.ts';
import { FRESH_ARRAYS } from '../../../src/core/arrays.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { developmentOf, findFlat } from '../../../src/core/settingout/development.ts';
import { pointOn } from '../../../src/core/geometry/pointOn.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { markOf } from '../../../src/core/schedule/faceTable.ts';
import { markOfPart, partsOf } from '../../../src/core/schedule/parts.ts';
import { count } from '../divide.ts';
import { frustum, rectangle, sphereZone } from '../surfaces.ts';
import { FACE, placed, withRules } from './make.ts';

function gridOn(surface: Surface, across: number, up: number): RuledFace {
	const charted = chartFace(surface);
	const { nodes } = setOut(charted, settingOutOf(count(across), count(up)));
	const cells = tileRectangular(nodes, FRESH_ARRAYS);
	return { surface: charted.surface, charted, nodes, cells, readings: measureCells(nodes, cells) };
}
const path = (source: unknown, more: object = {}): DrawnPath =>
	pathSchema.parse({ id: 'p', name: 'Rib', mark: 'R1', face: 'a/b', source, ...more });
const pointsOf = ({ start, position }: DrawnPaths, k: number): Point[] =>
	Array.from({ length: start[k + 1]! - start[k]! }, (_, p): Point => {
		const o = (start[k]! + p) * 3;
		return [position[o]!, position[o + 1]!, position[o + 2]!];
	});
const far = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const lengthOf = (points: readonly Point[]) => points.slice(1).reduce((sum, p, k) => sum + far(p, points[k]!), 0);

describe('the shortest way along a face', () => {
	const between = (surface: Surface, a: readonly [number, number], b: readonly [number, number]) => {
		const face = chartFace(surface);
		const at = ([x, y]: readonly [number, number]) => {
			const { u, v } = findFlat(developmentOf(face), x, y)!;
			return pointOn(face.surface, u, v).position;
		};
		return { way: geodesic(face, a, b)!, from: at(a), to: at(b) };
	};

	it('is a helix on a cylinder, as long as the straight line of it unrolled', () => {
		const { way } = between(frustum(3000, 3000, 6000), [1000, 500], [8000, 5000]);
		// Chords of a helix: within (angle)² / 24 of its length.
		expect(lengthOf(way) / Math.hypot(7000, 4500)).within(1 - 1e-4, 1 + 1e-9);
		// Height grows evenly with the angle.
		const heights = way.map((p) => p[2]);
		const step = (heights.at(-1)! - heights[0]!) / (way.length - 1);
		heights.forEach((z, k) => expect(z).closeTo(heights[0]! + step * k, 2));
	});

	it('goes over the seam where that is shorter: on a cylinder the way unrolled to the other side', () => {
		const around = 2 * Math.PI * 3000;
		// From 1 m right of the seam to 1 m left of it, which lie the whole way around apart when laid flat.
		const { way } = between(frustum(3000, 3000, 6000), [1000, 500], [around - 1000, 4000]);
		expect(lengthOf(way) / Math.hypot(2000, 3500)).within(1 - 1e-4, 1 + 1e-9);
		const straight = between(frustum(3000, 3000, 6000), [1000, 500], [around / 2, 4000]);
		expect(lengthOf(straight.way) / Math.hypot(around / 2 - 1000, 3500)).within(1 - 2e-4, 1 + 1e-9);
	});

	it('is the straight line of a cone rolled out', () => {
		// Half angle with a sine of 1/4: a quarter of a disc. Distances of its rolled out picture by the law of cosines.
		const slant = 8000;
		const height = Math.sqrt(slant * slant - 2000 * 2000);
		const cone = frustum(2000, 1000, height / 2);
		// Where two of its panels' corners lie flat, whichever way it is rolled out.
		const { corners, patches } = developmentOf(chartFace(cone));
		const corner = (i: number, j: number) => {
			const k = (j * patches.us.length + i) * 2;
			return [corners[k]!, corners[k + 1]!] as const;
		};
		const last = [patches.us.length - 1, patches.vs.length - 1] as const;
		const { way, from, to } = between(cone, corner(1, 0), corner(Math.floor(last[0] / 2), last[1]));
		const tip = height;
		const polar = ([x, y, z]: Point) => ({ r: ((tip - z) / height) * slant, angle: Math.atan2(y, x) / 4 });
		const [p, q] = [polar(from), polar(to)];
		const apart = Math.abs(p.angle - q.angle);
		const turn = Math.min(apart, (2 * Math.PI) / 4 - apart);
		expect(lengthOf(way)).closeTo(Math.sqrt(p.r * p.r + q.r * q.r - 2 * p.r * q.r * Math.cos(turn)), 1.5);
	});

	it('is a great circle on a ball', () => {
		const { way, from, to } = between(sphereZone(5000, 0.1, 1), [2000, 400], [9000, 3500]);
		const angle = Math.acos((from[0] * to[0] + from[1] * to[1] + from[2] * to[2]) / 25e6);
		expect(lengthOf(way) / (5000 * angle)).within(1 - 2e-4, 1 + 1e-6);
		const n = [from[1] * to[2] - from[2] * to[1], from[2] * to[0] - from[0] * to[2], from[0] * to[1] - from[1] * to[0]];
		const size = Math.hypot(...n);
		for (const p of way) expect(Math.abs(p[0] * n[0]! + p[1] * n[1]! + p[2] * n[2]!) / size).most(1);
	});
});

describe('the cut of a plane through a face', () => {
	it('is a circle on a ball, closed over the seam, and as long as one', () => {
		const [cut, ...more] = planeCut(sphereZone(5000, 0.1, 1), [0, 0, 3000], [0, 0, 1]);
		expect(more).deep.equal([]);
		expect(cut!.closed).equal(true);
		for (const p of cut!.points) {
			expect(p[2]).closeTo(3000, 1e-6);
			expect(Math.hypot(p[0], p[1])).closeTo(4000, 1e-6);
		}
		expect(lengthOf([...cut!.points, cut!.points[0]!]) / (2 * Math.PI * 4000)).within(1 - 2e-3, 1);
	});

	it('lies on plane and face whatever the plane, and is nothing beside it (property)', () => {
		fc.assert(
			fc.property(
				fc.double({ min: -2900, max: 2900, noNaN: true }),
				fc.double({ min: 0.1, max: 3, noNaN: true }),
				(x, angle) => {
					const normal: Point = [Math.cos(angle), Math.sin(angle), 0.3];
					const cuts = planeCut(frustum(3000, 3000, 6000), [x, 0, 3000], normal);
					expect(cuts.length).least(1);
					for (const p of cuts.flatMap((c) => c.points)) {
						expect(Math.hypot(p[0], p[1])).closeTo(3000, 1e-6);
						expect((p[0] - x) * normal[0] + p[1] * normal[1] + (p[2] - 3000) * normal[2]).closeTo(0, 1e-6);
					}
				}
			),
			{ numRuns: 12 }
		);
		expect(planeCut(frustum(3000, 3000, 6000), [0, 0, 7000], [0, 0, 1])).deep.equal([]);
	});
});

describe('paths through nodes', () => {
	it('keep hold of their nodes by key, say which are gone, and join the rest', () => {
		const face = gridOn(rectangle(6000, 4000), 6, 4);
		const keys = new NodeKeys(face);
		const nodes = [0, 8, 16].map((n) => keys.keyOf(n)!);
		nodes.forEach((key, k) => expect(keys.nodeOf(key)).equal([0, 8, 16][k]));
		const drawn = drawPaths([path({ kind: 'picked', nodes })], face);
		expect([drawn.count, drawn.notes, drawn.nodes]).deep.equal([1, [], [[0, 8, 16]]]);
		const fewer = drawPaths([path({ kind: 'picked', nodes: [...nodes, [0, 9, 0, 1]] })], face);
		expect(fewer.start[1]).equal(3);
		expect(fewer.notes.join()).equal('Path “Rib”: point 4 of 4 is on nodes that are gone; the rest is joined.');
		expect(drawPaths([path({ kind: 'picked', nodes: [] })], face).notes.join()).match(/fewer than two points/);
	});

	it('go by steps until the border, both ways, and never end a point short without a word', () => {
		const face = gridOn(rectangle(6000, 4000), 6, 4);
		const from = new NodeKeys(face).keyOf(7 + 1)!;
		const trace = (more: object) => drawPaths([path({ kind: 'traced', from, ...more })], face);
		// The grid has 7 by 5 nodes; from (1, 1) diagonally up to (4, 4), and back to (0, 0).
		expect(trace({ up: 1, across: 1 }).nodes).deep.equal([[8, 16, 24, 32]]);
		expect(trace({ up: 1, across: 1, both: true }).nodes).deep.equal([[0, 8, 16, 24, 32]]);
		expect(trace({ up: 1, across: 1, most: 2 }).nodes).deep.equal([[8, 16, 24]]);
		expect(trace({ up: 1, across: 1, most: 9 }).notes.join()).match(/ends after 3 steps.*9 are asked.*at most 3/);
		expect(trace({ up: 0, across: 0 }).notes.join()).match(/goes nowhere/);
	});

	it('close around a tube, and stand every k-th place around it', () => {
		const face = gridOn(frustum(3000, 3000, 4000), 12, 4);
		const from = new NodeKeys(face).keyOf(0)!;
		const ring = drawPaths([path({ kind: 'traced', from, up: 0, across: 1 })], face);
		expect([ring.closed[0], ring.start[1]]).deep.equal([1, 12]);
		const ribs = drawPaths(
			[path({ kind: 'traced', from, up: 1, across: 1 }, { array: { kind: 'along', way: 'across', every: 3 } })],
			face
		);
		expect(ribs.count).equal(4);
		expect(ribs.marks).deep.equal(['R1-01', 'R1-02', 'R1-03', 'R1-04']);
		// A practice of the trade: copies by 360 / n degrees; here every point of a copy is the first one's, turned by 90.
		const [first, second] = [pointsOf(ribs, 0), pointsOf(ribs, 1)];
		first.forEach(([x, y, z], k) => expect(far(second[k]!, [-y, x, z])).most(1e-6));
	});

	it('are copied about an axis evenly, or by an angle, and mirrored about it', () => {
		const face = gridOn(frustum(3000, 3000, 4000), 16, 4);
		const from = new NodeKeys(face).keyOf(0)!;
		const array = { kind: 'around', x: 0, y: 0, count: 32 };
		const drawn = drawPaths([path({ kind: 'traced', from, up: 1, across: 2 }, { array })], face);
		// A practice of the trade: 32 tubes by 11.25 degrees.
		const [a, b] = [pointsOf(drawn, 0)[0]!, pointsOf(drawn, 1)[0]!];
		const turn = Math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]);
		expect((turn * 180) / Math.PI).closeTo(11.25, 1e-9);
		const both = drawPaths([path({ kind: 'traced', from, up: 1, across: 2 }, { array, mirrored: true })], face);
		expect(both.count).equal(64);
		expect(lengthOf(pointsOf(both, 32))).closeTo(lengthOf(pointsOf(both, 0)), 1e-6);
		expect(
			drawPaths(
				[
					path(
						{
							kind: 'free',
							points: [
								[0, 0, 0],
								[1, 1, 1]
							]
						},
						{ mirrored: true }
					)
				],
				face
			).notes.join()
		).match(/about the axis/);
	});

	it('are lifted along the normals, and drawn as curves on the face laid flat', () => {
		const face = gridOn(frustum(3000, 3000, 4000), 16, 4);
		const ring = drawPaths(
			[path({ kind: 'cut', point: [0, 0, 1500], normal: [0, 0, 1] }, { lift: 250, spacing: 400 })],
			face
		);
		for (const p of pointsOf(ring, 0)) expect(Math.hypot(p[0], p[1])).closeTo(3250, 1e-6);
		expect(ring.closed[0]).equal(1);
		expect(ring.start[1]).equal(Math.ceil((2 * Math.PI * 3000) / 400));
		const curve = drawPaths(
			[
				path(
					{
						kind: 'curve',
						points: [
							[1000, 500],
							[4000, 3000],
							[9000, 1000]
						]
					},
					{ spacing: 300 }
				)
			],
			face
		);
		for (const p of pointsOf(curve, 0)) expect(Math.hypot(p[0], p[1])).closeTo(3000, 1e-6);
		expect(
			drawPaths(
				[
					path({
						kind: 'curve',
						points: [
							[1000, 500],
							[4000, 9000]
						]
					})
				],
				face
			).notes.join()
		).match(/leaves the face/);
		expect(drawPaths([path({ kind: 'geodesic', from: [0, -500], to: [10, 10] })], face).notes.join()).match(
			/not on the face/
		);
	});
});

describe('curves and twins', () => {
	it('keep the corners of straight lines, whatever the spacing, and close once around', () => {
		const face = gridOn(rectangle(6000, 4000), 6, 4);
		const points = [
			[500, 500],
			[3100, 700],
			[2500, 3300]
		];
		const drawn = drawPaths([path({ kind: 'curve', points, smooth: false }, { spacing: 5000, closed: true })], face);
		expect([drawn.start[1], drawn.closed[0]]).deep.equal([3, 1]);
		const [a, b, c] = pointsOf(drawn, 0) as [Point, Point, Point];
		expect(far(a, b)).closeTo(Math.hypot(2600, 200), 0.01);
		expect(far(b, c)).closeTo(Math.hypot(600, 2600), 0.01);
		expect(far(c, a)).closeTo(Math.hypot(2000, 2800), 0.01);
		const fine = drawPaths([path({ kind: 'curve', points, smooth: false }, { spacing: 300 })], face);
		expect(lengthOf(pointsOf(fine, 0))).closeTo(Math.hypot(2600, 200) + Math.hypot(600, 2600), 0.01);
		const round = pointsOf(
			drawPaths([path({ kind: 'curve', points, smooth: true }, { spacing: 300, closed: true })], face),
			0
		);
		expect(far(round[0]!, round.at(-1)!)).within(100, 301);
	});

	it('are told where they cannot be, and never stand twice in one place', () => {
		const face = gridOn(rectangle(6000, 4000), 6, 4);
		const keys = new NodeKeys(face);
		const up = drawPaths([path({ kind: 'traced', from: keys.keyOf(0)!, up: 1, across: 0 }, { mirrored: true })], face);
		expect([up.count, up.notes.length]).deep.equal([1, 1]);
		expect(up.notes[0]).match(/twin is itself/);
		const array = { kind: 'along', way: 'across', every: 2, count: 9 };
		const picked = [0, 7].map((n) => keys.keyOf(n)!);
		const some = drawPaths([path({ kind: 'picked', nodes: picked }, { mirrored: true, array })], face);
		expect(some.notes.join()).match(/no mirrored twin.*4 of 9 copies have room/);
	});
});

describe('weaving', () => {
	/** Lines of a square net, over a plane. */
	const net = (across: number, up: number) => [
		...Array.from({ length: up }, (_, j) => line([-500, j * 1000], [across * 1000 - 500, j * 1000])),
		...Array.from({ length: across }, (_, i) => line([i * 1000, -500], [i * 1000, up * 1000 - 500]))
	];
	const line = (a: readonly [number, number], b: readonly [number, number]) => ({
		points: [[a[0], a[1], 0] as Point, [b[0], b[1], 0] as Point],
		normals: [[0, 0, 1] as Point, [0, 0, 1] as Point],
		closed: false
	});

	it('goes over and under in turn along every line of a net, each crossing once over and once under', () => {
		const woven = weave(net(5, 4), 40);
		expect([woven.crossings, woven.failed]).deep.equal([20, 0]);
		woven.chains.forEach((chain, c) => {
			const at = (k: number): Point => (c < 4 ? [k * 1000, c * 1000, 0] : [(c - 4) * 1000, k * 1000, 0]);
			const heights = Array.from({ length: c < 4 ? 5 : 4 }, (_, k) => {
				const p = chain.points.find((q) => Math.hypot(q[0] - at(k)[0], q[1] - at(k)[1]) < 0.01)!;
				return p[2];
			});
			heights.forEach((z, k) => {
				expect(Math.abs(z)).closeTo(40, 1e-9);
				if (k > 0) expect(z).closeTo(-heights[k - 1]!, 1e-9);
			});
			// Smooth: between crossings it stays between the two heights.
			for (const p of chain.points) expect(Math.abs(p[2])).most(40 + 1e-9);
		});
	});

	it('closes around a tube of n copies by 360 / n degrees and their mirror images, and alternates all along', () => {
		for (const n of [8, 12, 16]) {
			const face = gridOn(frustum(3000, 3000, 6000), n * 2, 6);
			const from = new NodeKeys(face).keyOf(0)!;
			const drawn = drawPaths(
				[
					path(
						{ kind: 'traced', from, up: 1, across: 2 },
						{ mirrored: true, weave: 30, array: { kind: 'along', way: 'across', every: 2 } }
					)
				],
				face
			);
			expect(drawn.notes, String(n)).deep.equal([]);
			expect(drawn.count).equal(2 * n);
			const off = Array.from(drawn.position).flatMap((_, k) =>
				k % 3 === 0 ? [Math.hypot(drawn.position[k]!, drawn.position[k + 1]!)] : []
			);
			expect(Math.max(...off)).closeTo(3030, 1e-6);
			expect(Math.min(...off)).below(2971);
		}
	});

	it('says at how many crossings it cannot, as around a ring that three lines cross', () => {
		const round = (r: number, k: number): Point => [
			r * Math.cos((2 * Math.PI * k) / 12),
			r * Math.sin((2 * Math.PI * k) / 12),
			0
		];
		const ring = {
			points: Array.from({ length: 12 }, (_, k) => round(1000, k)),
			normals: Array.from({ length: 12 }, (): Point => [0, 0, 1]),
			closed: true
		};
		const spokes = (n: number) =>
			Array.from({ length: n }, (_, k) => {
				const [a, b] = [round(500, (12 * k) / n + 0.5), round(1500, (12 * k) / n + 0.5)];
				return line([a[0], a[1]], [b[0], b[1]]);
			});
		const three = weave([ring, ...spokes(3)], 20);
		expect([three.crossings, three.failed]).deep.equal([3, 1]);
		const four = weave([ring, ...spokes(4)], 20);
		expect([four.crossings, four.failed]).deep.equal([4, 0]);
		const face = gridOn(rectangle(6000, 4000), 6, 4);
		expect(
			drawPaths(
				[
					path(
						{
							kind: 'free',
							points: [
								[0, 0, 0],
								[1000, 0, 0]
							]
						},
						{ weave: 20 }
					)
				],
				face
			).notes.join()
		).match(/crosses none/);
	});
});

describe('kits on drawn paths', () => {
	it('stand where a rule names the path, bear its marks in rows and summary, and leave lines alone', async () => {
		const project = withRules([{}], 8, 6);
		project.paths = [
			{
				...path({ kind: 'traced', from: [0, 0, 0, 1], up: 1, across: 1 }, { mark: 'RB', face: FACE }),
				id: 'rib',
				name: 'Rib'
			},
			{
				...path({ kind: 'cut', point: [0, 30_000, 0], normal: [0, 1, 0] }, { mark: 'CT', face: FACE }),
				id: 'cut',
				name: 'Cut'
			}
		];
		const rule = (id: string, paths: string[], kit: string) => ({
			id,
			set: 'paths',
			faces: [FACE],
			where: [{ kind: 'path' as const, paths }],
			kit,
			values: {}
		});
		project.rules.push(rule('on-rib', ['rib'], 'path-rib'));
		const { face, model } = await placed(project);
		const set = face.assigned.sets.find((s) => s.set === 'paths')!;
		// Lines of the setting-out are none of the set's hosts, and the other path is left.
		expect([set.taken, set.unassigned]).deep.equal([[1], 1]);
		const { paths } = face.schedule.tables;
		expect(paths.count).equal(1);
		expect(markOf(face.schedule, 'paths', 0)).equal('RB');
		expect(paths.columns.points![0]).equal(7);
		const summary = summarise(checkDocument(project), model);
		expect(summary.paths.map((p) => [p.id, p.mark, p.points])).deep.equal([
			['rib', 'RB', 7],
			['cut', 'CT', summary.paths[1]!.points]
		]);
		expect(summary.paths[0]!.lengthM * 1000).closeTo(paths.columns.length![0]!, 1e-6);
		// The rib is one bent piece as long as the smooth line through its points: longer than the chords, and not by much.
		const { count: pieces, columns } = partsOf(face);
		const ribs = Array.from({ length: pieces }, (_, r) => r).filter(
			(r) => columns.length![r]! > 0 && markOfPart(face.schedule, partsOf(face), r) === 'RB'
		);
		expect(ribs.length).equal(1);
		expect(columns.length![ribs[0]!]! / paths.columns.length![0]!).within(1, 1.1);
	});

	it('hold a kit for so many points off all others, and ask that paths and marks are there', async () => {
		const project = withRules([{}], 8, 6);
		const rib = STARTER_KITS.find((k) => k.id === 'path-rib')!;
		project.kits = project.kits.map((k) =>
			k.id === rib.id ? { ...rib, host: { kind: 'path', along: 'up', every: 1, points: 9 } } : k
		);
		project.paths = [
			{ ...path({ kind: 'traced', from: [0, 0, 0, 1], up: 1, across: 1 }, { face: FACE }), id: 'rib', name: 'Rib' }
		];
		project.rules.push({
			id: 'x',
			set: 'paths',
			faces: [FACE],
			where: [{ kind: 'path', paths: ['rib'] }],
			kit: 'path-rib',
			values: {}
		});
		const { model } = await placed(project);
		expect(model.warnings.map((w) => w.message).join()).match(/takes nothing here/);
		project.rules.at(-1)!.where = [{ kind: 'path', paths: ['gone'] }];
		expect(() => checkDocument(project)).throw(/gone/);
		project.rules.pop();
		project.paths.push({ ...project.paths[0]!, id: 'twin' });
		expect(() => checkDocument(project)).throw('already the mark of Rib');
	});
});
