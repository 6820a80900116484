import { expect } from 'chai';
import fc from 'fast-check';
import { evaluateCurve } from '../../../src/core/geometry/curve.ts';
import { segmentLengths } from '../../../src/core/geometry/curveLength.ts';
import { profileCurve, signedArea, type DrawnPoint, type DrawnProfile } from '../../../src/core/mass/profile.ts';
import {
	arcThrough,
	insertPoint,
	middleOf,
	mirrorLine,
	movePoint,
	removePoint,
	reverseLine,
	withPoint
} from '../../../src/lib/editor/drawing.ts';
import { pathLines, readDxf } from '../../../src/lib/editor/lineFiles.ts';

const line = (list: [number, number, (0 | 1)?, number?][], closed = false): DrawnProfile => ({
	kind: 'drawn',
	closed,
	rounding: 0,
	points: list.map(([x, y, smooth = 0, arc = 0]): DrawnPoint => ({ x, y, smooth: smooth === 1, arc }))
});
const SQUARE = line(
	[
		[0, 0],
		[4000, 0],
		[4000, 4000],
		[0, 4000]
	],
	true
);
const lengthOf = (profile: DrawnProfile) => segmentLengths(profileCurve(profile).curve).reduce((a, b) => a + b, 0);

describe('a drawn line', () => {
	for (const [what, profile, words] of [
		[
			'crosses itself',
			line(
				[
					[0, 0],
					[4000, 0],
					[0, 4000],
					[4000, 4000]
				],
				true
			),
			'the line crosses itself: the stretch after point 2 meets the one after point 4'
		],
		[
			'touches itself',
			line([
				[0, 0],
				[4000, 0],
				[2000, 3000],
				[2000, 0],
				[1000, -3000]
			]),
			'crosses itself'
		],
		[
			'has two points at one place',
			line([
				[0, 0],
				[0, 0],
				[5, 5]
			]),
			'points 1 and 2 are at one place, 0, 0'
		],
		['runs clockwise', reverseLine(SQUARE), 'the line runs clockwise; turn it round'],
		[
			'has a rounding that does not fit',
			{ ...SQUARE, rounding: 3000 },
			'A rounding of 3000 mm does not fit side 1, which is 4000 mm long; at most 2000 mm would'
		],
		[
			'is rounded though it bends',
			{
				...line(
					[
						[0, 0, 1],
						[4000, 0],
						[4000, 4000]
					],
					true
				),
				rounding: 100
			},
			'straight stretches only'
		],
		[
			'is closed with too few points',
			line(
				[
					[0, 0],
					[1000, 0]
				],
				true
			),
			'at least 3 points'
		]
	] as [string, DrawnProfile, string][])
		it(`is refused when it ${what}, and says where`, () => {
			expect(() => profileCurve(profile)).throw(words);
		});

	it('turns corners where it was told to, and only there', () => {
		expect(profileCurve(SQUARE).corners).deep.equal([0, 1, 2, 3]);
		expect(
			profileCurve(
				line(
					[
						[0, 0],
						[4000, 0, 1],
						[4000, 4000, 1],
						[0, 4000, 1]
					],
					true
				)
			).corners
		).deep.equal([0]);
		expect(
			profileCurve(
				line(
					[
						[0, 0, 1],
						[4000, 0, 1],
						[4000, 4000, 1]
					],
					true
				)
			).corners
		).deep.equal([]);
		// An arc that leaves along the line is no corner.
		expect(
			profileCurve(
				line([
					[0, 0],
					[4000, 0, 0, Math.tan(Math.PI / 8)],
					[6000, 2000],
					[6000, 5000]
				])
			).corners
		).deep.equal([]);
	});

	it('encloses the area of its polygon and its arcs', () => {
		expect(signedArea(SQUARE.points)).equal(16e6);
		expect(
			signedArea(
				line(
					[
						[3000, 0, 0, 1],
						[-3000, 0, 0, 1]
					],
					true
				).points
			)
		).closeTo(Math.PI * 9e6, 1e-3);
	});

	it('keeps its length when mirrored or reversed twice, arcs and all', () => {
		const bent = line([
			[0, 0, 0, 0.4],
			[5000, 1000, 1],
			[7000, 4000, 1, 0],
			[3000, 6000, 0, -0.3],
			[0, 7000]
		]);
		expect(lengthOf(mirrorLine(bent))).closeTo(lengthOf(bent), 1e-3);
		expect(lengthOf(reverseLine(bent))).closeTo(lengthOf(bent), 1e-3);
		expect(reverseLine(reverseLine(bent))).deep.equal(bent);
		expect(signedArea(mirrorLine(SQUARE).points)).equal(16e6);
	});

	it('bends so that the arc passes where its middle was dragged to', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: -2500, max: 2500 }).filter((y) => Math.abs(y) > 100),
				(y) => {
					const plain = line([
						[0, 0],
						[6000, 0],
						[6000, 9000]
					]);
					const bent = withPoint(plain, 0, { arc: arcThrough(plain, 0, 3000, y) });
					expect(middleOf(bent, 0).y).closeTo(y, 3);
					const { curve } = profileCurve(
						line([
							[0, 0, 0, bent.points[0]!.arc],
							[6000, 0]
						])
					);
					expect(evaluateCurve(curve, [0.5]).position[1]).closeTo(y, 3);
				}
			)
		);
		expect(arcThrough(SQUARE, 0, 2000, 10)).equal(0);
	});

	it('gains and loses points', () => {
		expect(insertPoint(SQUARE, 3, 0, 2000).points.map((p) => p.y)).deep.equal([0, 0, 4000, 4000, 2000]);
		expect(removePoint(SQUARE, 0).points.length).equal(3);
		expect(removePoint(removePoint(SQUARE, 0), 0).points.length).equal(3);
		expect(movePoint(SQUARE, 1, 5000.00049, -3).points[1]).deep.include({ x: 5000, y: -3 });
	});
});

describe('lines from files', () => {
	it('takes polygons, curves and arcs of an SVG path, y upwards', () => {
		const [square] = pathLines('M0 0 h4 v-3 l-4 0 z', 1000);
		expect([square!.closed, square!.points.map((p) => [p.x, p.y])]).deep.equal([
			true,
			[
				[0, -0],
				[4000, -0],
				[4000, 3000],
				[0, 3000]
			]
		]);
		const [curve] = pathLines('M0 0 C 0 -2, 4 -2, 4 0', 1000);
		expect(curve!.points.map((p) => p.smooth)).deep.equal([false, true, true, true, false]);
		// Middle of the Bezier: (0 + 3*0 + 3*4 + 4) / 8 = 2 across, 2 * 3 / 4 up.
		expect([curve!.points[2]!.x, curve!.points[2]!.y]).deep.equal([2000, 1500]);
		const [half] = pathLines('M-1 0 A 1 1 0 0 0 1 0', 1000);
		half!.points.forEach((p) => expect(Math.hypot(p.x, p.y)).closeTo(1000, 1));
		expect(() => pathLines('M0 0 L x', 1)).throw('cannot be read');
	});

	it('takes polylines with arcs and circles of a DXF file, in its own unit', () => {
		const dxf = (unit: number, entities: string) =>
			`0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n${unit}\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
		const polyline = '0\nLWPOLYLINE\n8\n0\n90\n3\n70\n1\n10\n0\n20\n0\n42\n0.5\n10\n3\n20\n0\n10\n3\n20\n2\n';
		const [line] = readDxf(dxf(6, polyline), 1);
		expect([line!.closed, line!.points.map((p) => [p.x, p.y, p.arc])]).deep.equal([
			true,
			[
				[0, 0, 0.5],
				[3000, 0, 0],
				[3000, 2000, 0]
			]
		]);
		const [circle] = readDxf(dxf(0, '0\nCIRCLE\n8\n0\n10\n1\n20\n2\n40\n5\n'), 10);
		expect(signedArea(circle!.points)).closeTo(Math.PI * 2500, 1e-6);
		expect(() => readDxf('no dxf at all', 1)).throw('not a sound DXF');
	});
});
