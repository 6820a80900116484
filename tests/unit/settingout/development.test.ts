import { expect } from 'chai';
import fc from 'fast-check';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import { pointOn } from '../../../src/core/geometry/pointOn.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { developmentOf, FlatFinder, flattenPlaces, moveOverSeam } from '../../../src/core/settingout/development.ts';
import { flatBorder } from '../../../src/core/settingout/flatBorder.ts';
import { levelLine } from '../../../src/core/settingout/levelLines.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { ringArea } from '../../../src/core/tiling/openings/rings.ts';
import { count } from '../divide.ts';
import { frustum, hypar, rectangle, sphereZone, wavy } from '../surfaces.ts';

const far = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((x, k) => x - b[k]!));

/** Flat corners of the cells of a face divided across and up. */
function flatGrid(surface: Parameters<typeof chartFace>[0], across: number, up: number) {
	const face = chartFace(surface);
	const { nodes } = setOut(face, settingOutOf(count(across), count(up)));
	const flat = flattenPlaces(developmentOf(face), nodes);
	return {
		face,
		at: (i: number, j: number) => [flat[(j * (across + 1) + i) * 2]!, flat[(j * (across + 1) + i) * 2 + 1]!]
	};
}

describe('the developed view', () => {
	it('unrolls a cylinder without stretch: lengths, angles and areas (do Carmo; from memory)', () => {
		const [r, h] = [5000, 7000];
		const { face, at } = flatGrid(frustum(r, r, h), 24, 5);
		expect(developmentOf(face).unrolls).true;
		for (let j = 0; j < 5; j++)
			for (let i = 0; i < 24; i++) {
				expect(far(at(i, j), at(i + 1, j))).closeTo((2 * Math.PI * r) / 24, 1e-3);
				expect(far(at(i, j), at(i, j + 1))).closeTo(h / 5, 1e-3);
				// Rows and columns meet square, in space and laid flat.
				expect(far(at(i, j), at(i + 1, j + 1))).closeTo(Math.hypot((2 * Math.PI * r) / 24, h / 5), 1e-3);
			}
	});

	it('unrolls a cone into the sector of its slant lengths (do Carmo; from memory)', () => {
		// Radii 4 and 1 over a height of 4: the slant from the tip is 5 / 3 of each radius, the sector 3 / 5 of a turn.
		const { face, at } = flatGrid(frustum(4000, 1000, 4000), 30, 3);
		expect(developmentOf(face).unrolls).true;
		const turn = (2 * Math.PI * 3) / 5;
		for (let j = 0; j <= 3; j++) {
			const slant = ((4000 - j * 1000) * 5) / 3;
			for (const steps of [1, 7, 15])
				expect(far(at(0, j), at(steps, j))).closeTo(2 * slant * Math.sin((turn * steps) / 30 / 2), 0.01);
		}
		for (let i = 0; i <= 30; i++) expect(far(at(i, 0), at(i, 3))).closeTo(5000, 0.01);
		expect(ringArea(flatBorder(face)) / surfaceArea(face.surface)).closeTo(1, 1e-3);
	});

	it('unrolls a cone to its tip, and a flat wall as it is', () => {
		const tip = chartFace(frustum(3000, 0, 4000));
		expect(developmentOf(tip).unrolls).true;
		expect(ringArea(flatBorder(tip)) / surfaceArea(tip.surface)).closeTo(1, 1e-3);
		const wall = developmentOf(chartFace(rectangle(6000, 2500)));
		expect([...wall.bounds].map((x) => Math.round(x * 1000) / 1000)).deep.equal([0, 0, 6000, 2500]);
	});

	it('keeps the lengths of rows and columns on others, and tells the stretch', () => {
		const { face, at } = flatGrid(sphereZone(8000, -0.3, 0.9), 16, 6);
		const { unrolls, stretch } = developmentOf(face);
		expect(unrolls).false;
		expect(stretch[0]).lessThan(0.9);
		expect(stretch[1]).greaterThan(1.1);
		for (let j = 0; j <= 6; j++)
			expect(at(16, j)[0]! - at(0, j)[0]!).closeTo(2 * Math.PI * 8000 * Math.cos(-0.3 + 0.2 * j), 0.01);
		for (let i = 0; i <= 16; i++) expect(at(i, 6)[1]! - at(i, 0)[1]!).closeTo(8000 * 1.2, 0.01);
	});

	it('leads from the flat face back onto it', () => {
		const faces = [frustum(4000, 1500, 5000), sphereZone(6000, -0.4, 0.7), hypar(1e-5, 9000, 7000), wavy(3, true)].map(
			chartFace
		);
		fc.assert(
			fc.property(
				fc.constantFrom(...faces),
				fc.double({ min: 0.01, max: 0.99, noNaN: true }),
				fc.double({ min: 0.01, max: 0.99, noNaN: true }),
				(face, s, t) => {
					const { us, vs } = face.chart.shares;
					const [u, v] = [us[0]! + (us.at(-1)! - us[0]!) * s, vs[0]! + (vs.at(-1)! - vs[0]!) * t];
					const finder = new FlatFinder(developmentOf(face));
					const { patches } = developmentOf(face);
					expect(patches.components).equal(2);
					const flat = flatOf(face, u, v);
					const found = finder.find(flat[0]!, flat[1]!)!;
					expect(far(pointOn(face.surface, found.u, found.v).position, pointOn(face.surface, u, v).position)).lessThan(
						0.05
					);
				}
			),
			{ numRuns: 60 }
		);
		expect(new FlatFinder(developmentOf(faces[0]!)).find(1e7, 1e7)).equal(undefined);
	});

	it('goes on over the seam: the end border is the start border moved', () => {
		for (const surface of [frustum(4000, 1500, 5000), sphereZone(6000, -0.4, 0.7)]) {
			const { face, at } = flatGrid(surface, 12, 5);
			for (let j = 0; j <= 5; j++) {
				const [x, y] = at(0, j) as [number, number];
				expect(far(moveOverSeam(developmentOf(face), x, y, 1), at(12, j))).lessThan(0.5);
				expect(
					far(moveOverSeam(developmentOf(face), ...moveOverSeam(developmentOf(face), x, y, 1), -1), [x, y])
				).lessThan(0.01);
			}
		}
	});

	it('draws where a level cuts the face', () => {
		const segments = levelLine(chartFace(frustum(3000, 3000, 4000)), 1000);
		let length = 0;
		for (let k = 0; k < segments.length; k += 4) {
			expect(segments[k + 1]).closeTo(1000, 0.01);
			length += Math.hypot(segments[k + 2]! - segments[k]!, segments[k + 3]! - segments[k + 1]!);
		}
		expect(length / (2 * Math.PI * 3000)).closeTo(1, 1e-4);
	});
});

function flatOf(face: ReturnType<typeof chartFace>, u: number, v: number): Float64Array {
	return flattenPlaces(developmentOf(face), { columns: 1, rows: 1, us: Float64Array.of(u), vs: Float64Array.of(v) });
}
