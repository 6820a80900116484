import { expect } from 'chai';
import fc from 'fast-check';
import { arcArea, arcLine, arcLines } from '../../../src/core/schedule/arcLine.ts';
import type { Flat } from '../../../src/core/schedule/flatPattern.ts';
import { ringArea } from '../../../src/core/tiling/openings/rings.ts';

/** Corners on an arc, from one angle to another, its ends among them. */
const arc = (x: number, y: number, r: number, from: number, to: number, chords: number): Flat[] =>
	Array.from({ length: chords + 1 }, (_, k) => {
		const angle = from + ((to - from) * k) / chords;
		return [x + r * Math.cos(angle), y + r * Math.sin(angle)];
	});
const Q = Math.PI / 2;
/** A plate of 600 x 400 with corners of 50 rounded by six chords each. */
const rounded = (chords: number): Flat[] => [
	...arc(550, 350, 50, 0, Q, chords),
	...arc(50, 350, 50, Q, 2 * Q, chords),
	...arc(50, 50, 50, 2 * Q, 3 * Q, chords),
	...arc(550, 50, 50, 3 * Q, 4 * Q, chords)
];
const ROUNDED_AREA = 600 * 400 - (4 - Math.PI) * 50 * 50;
const hole = (r: number, corners: number): Flat[] => arc(300, 200, r, 0, -4 * Q, corners).slice(0, -1);

describe('lines with arcs', () => {
	it('have the area of rounded corners and of round holes by their formulas', () => {
		const line = arcLine(rounded(6))!;
		// Four sides, and four corners of two arcs each.
		expect(line.bulges.filter((b) => b === 0)).length(4);
		expect(line.bulges.filter((b) => b > 0)).length(8);
		expect(arcArea(line)).closeTo(ROUNDED_AREA, 1e-6);
		const round = arcLine(hole(80, 16))!;
		expect(round.bulges).deep.equal([-1, -1]);
		expect(arcArea(round)).closeTo(-Math.PI * 80 * 80, 1e-6);
		expect(Math.hypot(round.points[1]![0] - round.points[0]![0], round.points[1]![1] - round.points[0]![1])).closeTo(
			160,
			1e-9
		);
	});

	it('are taken for outline and holes, each where the piece has its area with them', () => {
		const octagon = hole(80, 8);
		const plate = rounded(6);
		const taken = (cuts: Flat[][], area: number) => arcLines(cuts, area).map((line) => line !== undefined);
		const holes = Math.PI * 80 * 80;
		expect(taken([plate, hole(80, 16)], ROUNDED_AREA - holes)).deep.equal([true, true]);
		// The same corners, but meant as sides: nothing is rounded.
		expect(taken([plate, octagon], ringArea(plate) + ringArea(octagon))).deep.equal([false, false]);
		expect(taken([plate, octagon], ROUNDED_AREA + ringArea(octagon))).deep.equal([true, false]);
		expect(taken([plate, hole(80, 16)], ringArea(plate) - holes)).deep.equal([false, true]);
		// An open sheet, which has no area of its own that is known.
		expect(taken([plate], NaN)).deep.equal([false]);
	});

	it('stay as they are where fewer than four chords, or wide ones, lie on a circle', () => {
		const sides: Flat[] = [[0, 0], [500, 0], [450, 100], [50, 100]]; // prettier-ignore
		expect(arcLine(sides)).equal(undefined);
		expect(arcLine(hole(80, 6))).equal(undefined);
		expect(arcLine(rounded(1))).equal(undefined);
		expect(arcLine(rounded(3))).equal(undefined);
	});

	it('enclose what sectors, arches and slots enclose, wherever their line begins (property)', () =>
		fc.assert(
			fc.property(
				fc.double({ min: 20, max: 5000, noNaN: true }),
				fc.double({ min: 0.3, max: 6, noNaN: true }),
				fc.integer({ min: 8, max: 40 }),
				fc.nat(60),
				fc.boolean(),
				(r, angle, chords, first, clockwise) => {
					fc.pre(angle / chords < 0.8);
					const points: Flat[] = [[10, -20], ...arc(10, -20, r, 0.7, 0.7 + angle, chords)];
					const begun = [...points.slice(first % points.length), ...points.slice(0, first % points.length)];
					const line = arcLine(clockwise ? begun.reverse() : begun)!;
					expect(Math.abs(arcArea(line))).closeTo((angle * r * r) / 2, 1e-6 * r * r);
					expect(line.points.length).lessThan(7);
				}
			)
		));
});
