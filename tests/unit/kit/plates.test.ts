import { expect } from 'chai';
import fc from 'fast-check';
import { meshVolume, type Mesh } from '../../../src/core/kit/mesh.ts';
import { beginPlate, finishPlates, newPlates, plateMesh, platePoint, plateSize } from '../../../src/core/kit/plates.ts';
import { mirrorPlacements } from '../../../src/core/placement/rules/mirror.ts';
import type { PlateGeometry } from '../../../src/core/kit/result.ts';

type Triple = [number, number, number];

/** A rectangle of so many mm with one rectangular opening in its middle, `hole` of it wide and high, made by hand. */
interface Frame {
	readonly width: number;
	readonly height: number;
	readonly hole: number;
	readonly thickness: number;
	readonly at: Triple;
}

/** The corners of a rectangle about the middle, anticlockwise. */
const around = ({ width, height, at: [x, y, z] }: Frame, share: number): Triple[] =>
	[
		[-1, -1],
		[1, -1],
		[1, 1],
		[-1, 1]
	].map(([a, b]): Triple => [x + (a! * share * width) / 2, y + (b! * share * height) / 2, z]);

/** Fronts of frames: four sides of two triangles each, whose points fall together with those of the next one. */
function plates(frames: readonly Frame[], keep?: Uint8Array): PlateGeometry {
	const out = newPlates();
	frames.forEach((frame, row) => {
		beginPlate(out, row, [0, 0, frame.thickness]);
		for (const p of [...around(frame, 1), ...around(frame, frame.hole)]) out.places.push3(...p);
		for (let side = 0; side < 4; side++) {
			const next = (side + 1) % 4;
			for (const place of [side, next, 4 + next, 4 + side]) out.points.push(place);
			const first = side * 4;
			for (const point of [0, 1, 2, 0, 2, 3]) out.triangles.push(first + point);
		}
		// The outline runs anticlockwise, the opening clockwise; each by the first point of its side.
		for (const point of [4, 0, 4, 8, 12]) out.loops.push(point);
		for (const point of [4, 15, 11, 7, 3]) out.loops.push(point);
	});
	return finishPlates(out, out.rows.uint32(), keep);
}

/** How often each way between two places is gone along more than back; nothing left where a body is closed. */
function openWays({ positions, triangles }: Mesh): number {
	const place = (p: number) => positions.slice(p * 3, p * 3 + 3).join(' ');
	const ways = new Map<string, number>();
	for (let t = 0; t < triangles.length; t += 3)
		for (let k = 0; k < 3; k++) {
			const [a, b] = [place(triangles[t + k]!), place(triangles[t + ((k + 1) % 3)]!)];
			const [key, by] = a < b ? [`${a}|${b}`, 1] : [`${b}|${a}`, -1];
			ways.set(key, (ways.get(key) ?? 0) + by);
		}
	return [...ways.values()].filter((n) => n !== 0).length;
}

const frame = fc.record<Frame>({
	width: fc.integer({ min: 100, max: 5000 }),
	height: fc.integer({ min: 100, max: 5000 }),
	hole: fc.constantFrom(0.25, 0.5, 0.75),
	thickness: fc.integer({ min: 0, max: 60 }),
	at: fc.tuple(
		fc.integer({ min: -9000, max: 9000 }),
		fc.integer({ min: -9000, max: 9000 }),
		fc.integer({ min: 0, max: 90 })
	)
});
const frames = fc.array(frame, { minLength: 1, maxLength: 6 });
const meshes = (geometry: PlateGeometry) => [...geometry.rows.keys()].map((k) => plateMesh(geometry, k));
const volumeOf = ({ width, height, hole, thickness }: Frame) => width * height * (1 - hole * hole) * thickness;

describe('plates of which the fronts are kept', () => {
	it('are closed bodies as large as by hand, and as large as they are said to be (property)', () => {
		fc.assert(
			fc.property(frames, (list) => {
				const geometry = plates(list);
				meshes(geometry).forEach((mesh, k) => {
					const { thickness } = list[k]!;
					expect(plateSize(geometry, k)).deep.equal({
						points: mesh.positions.length / 3,
						corners: mesh.triangles.length
					});
					const point = new Float64Array(3);
					for (let p = 0; p < mesh.positions.length / 3; p++) {
						platePoint(geometry, k, p, point, 0);
						expect(point).deep.equal(mesh.positions.slice(p * 3, p * 3 + 3));
					}
					// A sheet without thickness is its front alone: eight triangles.
					expect(mesh.triangles.length / 3).equal(thickness > 0 ? 8 + 8 + 16 : 8);
					if (thickness === 0) return;
					expect(openWays(mesh)).equal(0);
					expect(meshVolume(mesh)).closeTo(volumeOf(list[k]!), 1e-6 * volumeOf(list[k]!));
				});
			})
		);
	});

	it('are the same whichever others are kept beside them (property)', () => {
		fc.assert(
			fc.property(frames, fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }), (list, kept) => {
				const keep = Uint8Array.from(list, (_, k) => Number(kept[k]));
				const all = meshes(plates(list));
				const geometry = plates(list, keep);
				expect(meshes(geometry)).deep.equal(all.filter((_, k) => kept[k]));
				expect([...geometry.rows]).deep.equal(list.flatMap((_, k) => (kept[k] ? [k] : [])));
			})
		);
	});

	it('keep their outside outside in the mirror, and are themselves in the mirror of the mirror (property)', () => {
		fc.assert(
			fc.property(frames, (list) => {
				const geometry = plates(list);
				const inMirror = (of: PlateGeometry): PlateGeometry =>
					mirrorPlacements([{ parts: [{ geometry: of }] }] as never)[0]!.parts[0]!.geometry as PlateGeometry;
				const once = inMirror(geometry);
				meshes(once).forEach((mesh, k) => {
					const plain = plateMesh(geometry, k);
					expect([...mesh.positions]).deep.equal([...plain.positions].map((x, c) => (c % 3 === 0 ? -x : x)));
					if (list[k]!.thickness > 0) expect(meshVolume(mesh)).closeTo(meshVolume(plain), 1e-3);
				});
				expect(meshes(inMirror(once))).deep.equal(meshes(geometry));
			})
		);
	});

	it('of more points than 16 bits count are whole, too', () => {
		const out = newPlates();
		beginPlate(out, 0, [0, 0, 1]);
		const sides = 70_000;
		for (let k = 0; k < sides; k++) {
			const angle = (2 * Math.PI * k) / sides;
			out.places.push3(1000 * Math.cos(angle), 1000 * Math.sin(angle), 0);
			out.points.push(k);
		}
		for (let k = 1; k + 1 < sides; k++) for (const p of [0, k, k + 1]) out.triangles.push(p);
		out.loops.push(sides);
		for (let k = 0; k < sides; k++) out.loops.push(k);
		const geometry = finishPlates(out, Uint32Array.of(0), undefined);
		// Half of n r2 sin(2 pi / n), by hand, one mm thick.
		expect(meshVolume(plateMesh(geometry, 0))).closeTo((sides / 2) * 1e6 * Math.sin((2 * Math.PI) / sides), 1);
	});
});
