import { expect } from 'chai';
import fc from 'fast-check';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import { endsOf } from '../../../src/core/geometry/borders.ts';
import { closestPoint } from '../../../src/core/geometry/closestPoint.ts';
import { evaluateGridPoints } from '../../../src/core/geometry/evaluate.ts';
import { fitSurface } from '../../../src/core/geometry/fitted.ts';
import { interpolateCyclic } from '../../../src/core/geometry/interpolate.ts';
import { dome } from '../../../src/core/mass/dome.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { keepIds } from '../../../src/core/mesh/matchImported.ts';
import { borderLoops, loopLength } from '../../../src/core/mesh/borders.ts';
import { layPieces, partPieces, preparePiece, sizeHint } from '../../../src/core/mesh/importMesh.ts';
import { foldsIn, layOver } from '../../../src/core/mesh/layOver.ts';
import { repairMesh } from '../../../src/core/mesh/repair.ts';
import { solveInPlace, solverOf } from '../../../src/core/mesh/solve.ts';
import {
	meshArea,
	neighboursOf,
	NO_TRIANGLE,
	signedVolume,
	type TriangleMesh
} from '../../../src/core/mesh/triangleMesh.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { emptyProject } from '../../../src/core/project/starter.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { float64sOf } from '../../../src/core/content.ts';
import { run } from '../demo.ts';
import { divide } from '../divide.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { ballMesh, boxMesh, gridMesh, unwelded } from './meshes.ts';

const CREASE = { kind: 'crease', angle: Math.PI / 6 } as const;
const piece = (mesh: TriangleMesh, mm = 1) => preparePiece({ name: 'Body', mesh }, mm);
const lay = (mesh: TriangleMesh) => layPieces([piece(mesh)], CREASE);
const surfaceOf = ({ points, ...face }: ReturnType<typeof lay>['faces'][number]) =>
	fitSurface({ ...face, points: float64sOf(points) });
/** A gently doubly curved roof. */
const roof = (n: number) =>
	gridMesh(n, n, (i, j) => {
		const [x, y] = [(i / n - 0.5) * 20_000, (j / n - 0.5) * 30_000];
		return [x, y, 4000 + 3000 * Math.cos(x / 9000) * Math.cos(y / 14_000)];
	});

describe('mending a mesh', () => {
	it('makes one vertex of those at one place, also across a box’s edges', () => {
		const { mesh, repairs } = repairMesh(unwelded(boxMesh(4000, 3000, 2000)));
		expect([mesh.positions.length / 3, mesh.triangles.length / 3, repairs.welded]).deep.equal([8, 12, 0]);
		expect(neighboursOf(mesh.triangles).neighbours.includes(NO_TRIANGLE)).equal(false);
		expect(signedVolume(mesh) / 6).closeTo(4000 * 3000 * 2000, 1);
	});

	it('tells those that lay a little apart, and leaves none of them apart', () => {
		const box = unwelded(boxMesh(4000, 3000, 2000));
		for (const v of [5, 17, 30]) box.positions[v * 3 + 1]! += 0.005;
		const { mesh, repairs } = repairMesh(box);
		expect([mesh.positions.length / 3, repairs.welded]).deep.equal([8, 3]);
	});

	it('turns triangles like their neighbours and a body’s outside out, whichever were turned', () => {
		fc.assert(
			fc.property(fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }), (turned) => {
				const box = boxMesh(1000, 1000, 1000);
				turned.forEach((turn, t) => turn && box.triangles.subarray(t * 3, t * 3 + 3).reverse());
				const { mesh, repairs } = repairMesh(box);
				expect(signedVolume(mesh) / 6).closeTo(1e9, 1);
				expect(repairs.flipped).greaterThanOrEqual(0);
				expect(repairs.tangled).equal(0);
			})
		);
	});

	it('leaves out triangles without area and those that stand twice', () => {
		const box = boxMesh(1000, 1000, 1000);
		const triangles = Uint32Array.from([...box.triangles, 0, 1, 1, 3, 2, 0, 0, 3, 2]);
		const { mesh, repairs } = repairMesh({ ...box, triangles });
		expect([mesh.triangles.length / 3, repairs.flat, repairs.doubled]).deep.equal([12, 1, 2]);
	});

	it('refuses coordinates that are no numbers, and says where', () => {
		const box = boxMesh(1, 1, 1);
		box.positions[7] = NaN;
		expect(() => repairMesh(box)).throw('Vertex 3 has a coordinate that is no number (NaN).');
		expect(() => repairMesh({ positions: new Float64Array(9), triangles: Uint32Array.of(0, 1, 2) })).throw(
			'no triangle with an area'
		);
		expect(() => repairMesh({ positions: new Float64Array(9), triangles: Uint32Array.of(0, 1, 7) })).throw(
			'names vertex 8 of 3'
		);
	});

	it('hints when metres were read as millimetres', () => {
		expect(sizeHint([piece(boxMesh(40, 30, 20))])).contains('choose m');
		expect(sizeHint([piece(boxMesh(4e6, 3, 2))])).contains('choose mm');
		expect(sizeHint([piece(boxMesh(40, 30, 20), 1000)])).equal(undefined);
	});
});

describe('parting and laying over', () => {
	it('parts a box into its six sides with their areas and corners', () => {
		const { faces, report } = lay(unwelded(boxMesh(4000, 3000, 2000)));
		expect(faces.map((f) => Math.round(f.meshArea)).sort((a, b) => a - b)).deep.equal([6e6, 6e6, 8e6, 8e6, 12e6, 12e6]);
		for (const { corners, stretch, deviationMm } of report.faces) {
			expect([corners.length, deviationMm]).deep.equal([4, 0]);
			expect(stretch).closeTo(1, 1e-6);
		}
		// A larger crease angle joins them all into one closed body.
		expect(partPieces([piece(boxMesh(4000, 3000, 2000))], { kind: 'crease', angle: 1.6 }).length).equal(1);
	});

	it('lays without folds, borders on borders (Tutte; from memory)', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 1000 }), (seed) => {
				const noise = (k: number) => (Math.abs(Math.sin(seed * 12.9898 + k * 78.233) * 43758.5453) % 1) - 0.5;
				const mesh = gridMesh(9, 7, (i, j) => [
					i * 1000 + 500 * noise(i * 31 + j),
					j * 1000 + 500 * noise(i + j * 37),
					3000 * noise(i * 7 + j * 3)
				]);
				const { u, v } = layOver(mesh);
				expect(foldsIn(mesh, u, v)).equal(0);
				for (const vertex of borderLoops(mesh)[0]!.vertices)
					expect(Math.min(u[vertex]!, 1 - u[vertex]!, v[vertex]!, 1 - v[vertex]!)).closeTo(0, 1e-12);
			}),
			{ numRuns: 40 }
		);
	});

	it('gives a roof its own area, its corners, and hardly a deviation', () => {
		const mesh = roof(40);
		const { faces, report } = lay(mesh);
		const face = faces[0]!;
		expect(surfaceArea(surfaceOf(face)) / meshArea(mesh)).closeTo(1, 1e-4);
		expect([face.deviation < 1, face.stretch < 1.1]).deep.equal([true, true]);
		expect(report.faces[0]!.corners.map((c) => [Math.round(c[0]), Math.round(c[1])])).deep.equal([
			[-10_000, -15_000],
			[10_000, -15_000],
			[10_000, 15_000],
			[-10_000, 15_000]
		]);
	});

	it('covers holes, says so, and gives them to the face as openings', async () => {
		const mesh = roof(12);
		// Two fields in the middle are open.
		const open = { ...mesh, triangles: mesh.triangles.filter((_, s) => s < 78 * 6 || s >= 80 * 6) };
		const { report, faces } = lay(open);
		expect(report.faces[0]!.holes).equal(1);
		const mass = newMass({ kind: 'imported', file: 'roof.obj', faces }, [], { id: 'roof', name: 'Roof', marks: [] });
		expect(mass.faces[0]!.openings.map((o) => [o.outline.kind, o.place.kind])).deep.equal([['polygon', 'face']]);
		mass.faces[0]!.settingOut = settingOutOf({ kind: 'count', count: 40 }, { kind: 'count', count: 60 });
		const model = await run(checkDocument({ ...emptyProject('Roof'), masses: [mass] }));
		// The cells leave out what the mesh lacks.
		const missing = meshArea(mesh) - meshArea(open);
		const left = model.faces[0]!.readings.columns.area.reduce((a, b) => a + b, 0);
		expect((meshArea(mesh) - left) / missing).closeTo(1, 0.12);
		expect(borderLoops(open).length).equal(2);
		expect(loopLength(borderLoops(open)[0]!)).greaterThan(90_000);
	});

	it('closes a tube across, its seam at the south-east', () => {
		const tube = gridMesh(
			48,
			20,
			(i, j) => {
				const [a, r] = [(2 * Math.PI * i) / 48, 5000 - 1000 * Math.sin((Math.PI * j) / 20)];
				return [r * Math.cos(a), r * Math.sin(a), j * 800];
			},
			true
		);
		const { faces } = lay(tube);
		const surface = surfaceOf(faces[0]!);
		expect(endsOf(surface)).deep.include({ closedAcross: true, closedUp: false });
		expect(surfaceArea(surface) / meshArea(tube)).closeTo(1, 2e-3);
		const { position, normal } = evaluateGridPoints(surface, Float64Array.of(0, 0.3), Float64Array.of(0.5));
		expect([Math.sign(position[0]!), Math.sign(position[1]!)]).deep.equal([1, -1]);
		expect(position[3]! * normal[3]! + position[4]! * normal[4]!).greaterThan(0);
	});

	it('gives a ball the grid areas of the exact one, within the mesh’s own error', () => {
		const radius = 6000;
		const mesh = ballMesh(radius, 64, 32);
		const imported = surfaceOf(lay(mesh).faces[0]!);
		const exact = dome.surfaces({
			...PRESETS.dome,
			radiusX: radius,
			radiusY: radius,
			radiusZ: radius,
			centre: 0,
			bottom: -radius,
			ring: null
		})[0]!;
		const areas = [imported, exact].map((surface) => {
			const nodes = divide(surface, 12, 8);
			return measureCells(nodes, tileRectangular(nodes)).columns.area;
		});
		expect(areas[0]!.length).equal(96);
		// The mesh itself is off by this much of its area.
		const own = 1 - meshArea(mesh) / (4 * Math.PI * radius ** 2);
		areas[0]!.forEach((area, c) => expect(area / areas[1]![c]!).closeTo(1, Math.max(own, 0.004)));
	});

	it('refuses a face with a handle through it, in words', () => {
		const ring = gridMesh(
			24,
			12,
			(i, j) => {
				const [a, b] = [(2 * Math.PI * i) / 24, (2 * Math.PI * j) / 12];
				const r = 9000 + 2000 * Math.cos(b);
				return [r * Math.cos(a), r * Math.sin(a), 2000 * Math.sin(b)];
			},
			true
		);
		expect(() => layPieces([piece(ring)], { kind: 'crease', angle: 3 })).throw(
			'has a handle through it and cannot be laid flat'
		);
	});
});

describe('a newer file', () => {
	it('keeps the ids of the faces that lie where they did, whatever their order', () => {
		const older = lay(boxMesh(4000, 3000, 2000)).faces;
		// A little larger, and another side is the largest now.
		const newer = lay(boxMesh(4100, 3000, 4500)).faces;
		const middle = (f: (typeof older)[number]) => {
			const points = float64sOf(f.points);
			return [0, 1, 2].map(
				(c) => points.filter((_, o) => o % 3 === c).reduce((a, b) => a + b, 0) / (points.length / 3)
			);
		};
		const kept = keepIds(older, newer);
		expect(new Set(kept.map((f) => f.id)).size).equal(6);
		// The side at x = 0 is the side at x = 0.
		const west = (faces: typeof older) => faces.find((f) => Math.abs(middle(f)[0]!) < 1)!.id;
		expect(west(kept)).equal(west(older));
		expect(
			keepIds(older.slice(0, 2), newer)
				.map((f) => f.id)
				.sort()
		).deep.equal([1, 2, 3, 4, 5, 6].map((k) => `face-${k}`));
	});
});

describe('what laying over stands on', () => {
	it('solves a Laplacian to its residual', () => {
		// -1, 2, -1 on a line between fixed ends: the answer is straight.
		const size = 200;
		const columns: number[] = [];
		const rowStart = [0];
		for (let i = 0; i < size; i++) {
			if (i > 0) columns.push(i - 1);
			if (i + 1 < size) columns.push(i + 1);
			rowStart.push(columns.length);
		}
		const right = new Float64Array(size);
		right[size - 1] = size + 1;
		const x = new Float64Array(size);
		solveInPlace(
			solverOf({
				size,
				diagonal: new Float64Array(size).fill(2),
				rowStart: Uint32Array.from(rowStart),
				columns: Uint32Array.from(columns),
				values: new Float64Array(columns.length).fill(-1)
			}),
			right,
			x
		);
		x.forEach((value, i) => expect(value).closeTo(i + 1, 1e-4));
	});

	it('interpolates a closed row exactly, also over the seam', () => {
		fc.assert(
			fc.property(
				fc.array(fc.double({ min: -1e4, max: 1e4, noNaN: true }), { minLength: 4, maxLength: 40 }),
				(values) => {
					const control = interpolateCyclic(values.map((v) => Float64Array.of(v)));
					values.forEach((v, k) => {
						const [a, b, c] = [control[k]![0]!, control[k + 1]![0]!, control[k + 2]![0]!];
						expect((a + 4 * b + c) / 6).closeTo(v, 1e-7);
					});
				}
			)
		);
	});

	it('finds the closest point of a face', () => {
		const surface = surfaceOf(lay(roof(40)).faces[0]!);
		const { position, normal } = evaluateGridPoints(surface, Float64Array.of(0.37), Float64Array.of(0.61));
		const target = [0, 1, 2].map((c) => position[c]! + 750 * normal[c]!) as [number, number, number];
		const found = closestPoint(surface, target);
		expect(found.distance).closeTo(750, 0.01);
		[0, 1, 2].forEach((c) => expect(found.position[c]).closeTo(position[c]!, 0.1));
	});
});
