import { expect } from 'chai';
import fc from 'fast-check';
import type { Point } from '../../../src/core/geometry/curve.ts';
import { cross, dot, minus, plus, pointAt, scaled } from '../../../src/core/geometry/vectors.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { profileSchema } from '../../../src/core/mass/profile.ts';
import type { Shape } from '../../../src/core/mass/shapes.ts';
import { besideReadings, meetingFace } from '../../../src/core/placement/besideFace.ts';
import { edgeLines } from '../../../src/core/placement/edgeLines.ts';
import type { Condition } from '../../../src/core/placement/rules/schema.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { pieceMeshes } from '../../../src/core/schedule/pieceMesh.ts';
import { clad, plain } from '../block.ts';
import { run } from '../demo.ts';

const BESIDE: Condition = { kind: 'border', state: 'face', within: 0 };
const EARLIER: Condition = { kind: 'not', of: { kind: 'border', state: 'earlier', within: 0 } };
const BLOCK = PRESETS.block;
const degrees = (radians: number) => Math.round(((radians * 180) / Math.PI) * 1e6) / 1e6;

/** A block over a footprint. */
const over = (points: readonly (readonly [x: number, y: number])[], more: object = {}) =>
	({
		...BLOCK,
		...more,
		footprint: profileSchema.parse({ kind: 'drawn', closed: true, points: points.map(([x, y]) => ({ x, y })) })
	}) as Shape;

const polygon = (n: number, radius = 9000) =>
	Array.from({ length: n }, (_, k) => {
		const a = (2 * Math.PI * (k + 0.3)) / n;
		return [Math.round(radius * Math.cos(a)), Math.round(radius * Math.sin(a))] as const;
	});

/** By face and edge, what the faces of a model have of each other. */
const readingsIn = ({ faces }: Model) =>
	faces.map((face, k) =>
		besideReadings(
			face,
			faces.filter((_, n) => n !== k).map(({ surface }) => meetingFace(surface, false, false))
		)
	);

/** The angles between faces that a model has, degrees, each once. */
const anglesIn = (model: Model) => [
	...new Set(
		readingsIn(model).flatMap(({ faceAngle }) => Array.from(faceAngle, (a) => Math.round(degrees(a) * 10) / 10))
	)
];

/** Corner mullions where the faces of a project meet, once. */
function corners(project: Project, values: Record<string, number> = {}): Project {
	const kit = STARTER_KITS.find((k) => k.id === 'corner-mullion')!;
	project.kits.push(structuredClone(kit));
	const rule = { ...structuredClone(project.rules[1]!), id: 'corners', kit: kit.id, where: [BESIDE, EARLIER], values };
	project.rules = [rule];
	return project;
}

const barsOf = ({ faces }: Model) =>
	faces.flatMap((face) =>
		face.placements.flatMap(({ hosts, parts: [part] }) =>
			Array.from(hosts, (edge, h) => ({ face, edge, part: part!, mesh: pieceMeshes(part!)(h, 0)! }))
		)
	);

describe('angles between faces', () => {
	it('are those of a block, a prism and a bent plan, by hand', async () => {
		// All corners of a block are right; edges within a face, and at the ground, have no other face.
		expect(anglesIn(await run(plain([])))).have.members([90, 180]);
		const prism = (n: number) =>
			clad(
				over(polygon(n)),
				[],
				() => 2,
				() => 2
			);
		for (const n of [3, 5, 6, 12])
			expect(
				anglesIn(await run(prism(n))).sort((a, b) => a - b),
				`${n} walls`
			).deep.equal([...new Set([90, Math.round(((n - 2) * 1800) / n) / 10, 180])].sort((a, b) => a - b));
		// An L: five corners of 90°, one of 270° outside... seen from inside, which is a valley.
		const bent = over(
			[
				[0, 0],
				[12_000, 0],
				[12_000, 5000],
				[5000, 5000],
				[5000, 11_000],
				[0, 11_000]
			],
			{ roof: { kind: 'open' } }
		);
		const valley = await run(
			clad(
				bent,
				[],
				() => 2,
				() => 1
			)
		);
		expect(anglesIn(valley)).have.members([90, 180, 270]);
		const uprights = readingsIn(valley).flatMap(({ faceAngle }) => Array.from(faceAngle, degrees));
		expect([90, 270].map((a) => uprights.filter((u) => u === a).length)).deep.equal([2 * 5, 2 * 1]);
	});

	it('turn the outside of one face to that of the other, about the edge as kits see it (property)', () =>
		fc.assert(
			fc.asyncProperty(
				fc.integer({ min: 3, max: 9 }),
				fc.array(fc.integer({ min: 4000, max: 14_000 }), { minLength: 9, maxLength: 9 }),
				async (n, radii) => {
					const points = polygon(n, 1).map((_, k) => polygon(n, radii[k]!)[k]!);
					const model = await run(
						clad(
							over(points, { roof: { kind: 'open' } }),
							[],
							(f) => 1 + (f % 3),
							() => 2
						)
					);
					// Walls that bend only a little are one face.
					fc.pre(model.faces.length >= n);
					const readings = readingsIn(model);
					let met = 0;
					model.faces.forEach((face, f) => {
						const { cornerStart, corners: nodes, position } = edgeLines({ ...face, layer: 0 }, 'face');
						for (let e = 0; e < face.cells.edgeCount; e++) {
							const turn = readings[f]!.faceTurn[e]!;
							if (turn === 0) continue;
							met++;
							const at = (k: number) => pointAt(position, nodes[k]! * 3);
							const along = minus(at(cornerStart[e + 1]! - 1), at(cornerStart[e]!));
							const way = scaled(along, 1 / Math.sqrt(dot(along, along)));
							const own = pointAt(face.readings.normal, face.cells.edgeCells[2 * e]! * 3);
							// Rodrigues.
							const turned = plus(
								scaled(own, Math.cos(turn)),
								plus(scaled(cross(way, own), Math.sin(turn)), scaled(way, dot(way, own) * (1 - Math.cos(turn))))
							);
							const others = model.faces
								.filter((other) => other !== face)
								.flatMap((other) => pointsOf(other.readings.normal));
							expect(Math.min(...others.map((o) => Math.hypot(...minus(o, turned))))).lessThan(1e-6);
							expect(Math.abs(Math.PI - readings[f]!.faceAngle[e]!)).closeTo(Math.abs(turn), 1e-9);
						}
					});
					expect(met).greaterThan(0);
					// Walls' angles are those of the plan: (n - 2) half turns in all, each seen by two walls on two rows.
					const walls = readings
						.slice(0, n)
						.flatMap(({ faceAngle }, f) =>
							Array.from(faceAngle).filter((a, e) => a !== Math.PI && isUpright(model, f, e))
						);
					expect(walls.reduce((sum, a) => sum + a, 0) / 4 + Math.PI * (n - walls.length / 4)).closeTo(
						(n - 2) * Math.PI,
						1e-6
					);
				}
			),
			{ numRuns: 25 }
		));

	it('are measured on the other side of faces that are turned inside out', async () => {
		const project = plain([]);
		for (const face of project.masses[0]!.faces) face.insideOut = true;
		expect(anglesIn(await run(project))).have.members([180, 270]);
	});

	it('stand corner mullions halfway between both faces, their outer corners on both', async () => {
		for (const n of [3, 6, 10]) {
			const model = await run(
				corners(
					clad(
						over(polygon(n), { roof: { kind: 'open' } }),
						[],
						() => 2,
						() => 2
					)
				)
			);
			const bars = barsOf(model);
			expect(bars).length(2 * n);
			for (const { face, edge, mesh, part } of bars) {
				const [a] = [face.cells.edgeNodes[2 * edge]!];
				const corner = pointAt(face.nodes.position, a * 3);
				const normals = model.faces
					.filter(({ nodes }) => distances(nodes.position, corner).some((d) => d < 1))
					.map(({ readings }) => pointAt(readings.normal, 0));
				expect(normals).length(2);
				// How far its points stand off both faces: none before them, two of them on each.
				for (const normal of normals) {
					const off = distancesAlong(mesh.positions, corner, normal);
					expect(Math.max(...off), `${n} walls`).closeTo(0, 0.01);
				}
				// Halfway: as far behind the one as behind the other.
				const [one, other] = normals.map((normal) =>
					distancesAlong(mesh.positions, corner, normal)
						.map((d) => Math.round(d * 10) + 0)
						.sort((p, q) => p - q)
				);
				expect(one).deep.equal(other);
				expect(meshVolume(mesh)).closeTo(part.volume[0]!, part.volume[0]! * 1e-6);
			}
		}
	});

	it('choose what rules take, and give them values', async () => {
		const plan = over(
			[
				[0, 0],
				[12_000, 0],
				[16_000, 8000],
				[0, 8000]
			],
			{ roof: { kind: 'open' } }
		);
		const project = corners(
			clad(
				plan,
				[],
				() => 2,
				() => 1
			)
		);
		const count = async (where: Condition[]) => {
			project.rules[0]!.where = [...where, EARLIER];
			return barsOf(await run(project)).length;
		};
		const between = (from: number, to: number): Condition => ({
			kind: 'reading',
			reading: 'faceAngle',
			from: (from * Math.PI) / 180,
			to: (to * Math.PI) / 180
		});
		// Corners of 90°, 90°, about 116.6° and 63.4°.
		expect(await count([BESIDE])).equal(4);
		expect(await count([between(80, 100)])).equal(2);
		expect(await count([between(0, 80)])).equal(1);
		expect(await count([{ kind: 'formula', formula: 'faceAngle > 100 deg and faceAngle < 150 deg' }])).equal(1);
		// The sharpest corner of every wall, by no other condition.
		project.rules[0]!.where = [{ kind: 'rank', reading: 'faceAngle', most: 'least', count: 1 }];
		const ranked = await run(project);
		expect(
			ranked.faces.map((face, f) =>
				face.placements.flatMap(({ hosts }) => [...hosts].filter((e) => isUpright(ranked, f, e)))
			)
		).satisfy((uprights: number[][]) => uprights.every((of) => of.length === 1));
		project.rules[0]!.where = [BESIDE, EARLIER];
		project.rules[0]!.values = { width: { kind: 'formula', formula: '100 mm * faceAngle / 90 deg' } };
		const widths = barsOf(await run(project)).map(({ mesh }) => Math.round(widthOf(mesh.positions)));
		expect(widths.sort((a, b) => a - b)).deep.equal([70, 100, 100, 130]);
	});

	it('follow a face that moves away or turns inside out, as a run of its own has it', async () => {
		const project = corners(
			clad(
				over(
					[
						[0, 0],
						[12_000, 0],
						[12_000, 8000],
						[0, 8000]
					],
					{ roof: { kind: 'open' } }
				),
				[],
				() => 2,
				() => 1
			)
		);
		project.rules[0]!.where = [{ kind: 'lines', of: 'column', from: 1, every: 1 }];
		const other = newMass(structuredClone(PRESETS.extrusion), [], { id: 'other', name: 'Other', marks: ['M'] });
		project.masses.push(other);
		const memo = new Memo();
		const same = async () => {
			const [warm, cold] = [await run(project, { memo }), await run(project)];
			const points = (model: Model) => barsOf(model).map(({ mesh }) => [...mesh.positions]);
			expect(points(warm)).deep.equal(points(cold));
			return points(warm);
		};
		const before = await same();
		project.masses[0]!.faces[1]!.insideOut = true;
		const turned = await same();
		expect(turned).not.deep.equal(before);
		project.masses[0]!.faces[1]!.facade = false;
		expect((await same()).length).lessThan(before.length);
		project.masses[0]!.faces[1]!.facade = true;
		project.masses[0]!.faces[1]!.insideOut = false;
		expect(await same()).deep.equal(before);
	});
});

function isUpright({ faces }: Model, f: number, e: number): boolean {
	const { nodes, cells } = faces[f]!;
	const [a, b] = [0, 1].map((k) => pointAt(nodes.position, cells.edgeNodes[2 * e + k]! * 3)) as [Point, Point];
	return Math.hypot(a[0] - b[0], a[1] - b[1]) < 1;
}

const pointsOf = (positions: ArrayLike<number>) =>
	Array.from({ length: positions.length / 3 }, (_, k) => pointAt(positions, k * 3));
const distances = (positions: ArrayLike<number>, to: Point) =>
	pointsOf(positions).map((p) => Math.hypot(...minus(p, to)));
const distancesAlong = (positions: ArrayLike<number>, from: Point, way: Point) =>
	pointsOf(positions).map((p) => dot(minus(p, from), way));

/** Of an upright square bar in plan: its diagonal is √2 times as much. */
function widthOf(positions: ArrayLike<number>): number {
	const points = pointsOf(positions);
	const widest = Math.max(...points.flatMap((p) => points.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1]))));
	return Math.sqrt(widest * widest - 120 * 120);
}
