import { expect } from 'chai';
import fc from 'fast-check';
import { rowWorld } from '../../../src/core/project/rowWorld.ts';
import { quantitiesOf } from '../../../src/core/schedule/cost/quantities.ts';
import { costsSchema } from '../../../src/core/schedule/cost/schema.ts';
import { leastRectangle } from '../../../src/core/schedule/cost/sheets.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { demoWith, ranDemo, run } from '../demo.ts';

type Corner = readonly [number, number];
/** A fan over corners in a plane that is turned and leant over; with a back side for a plate. */
function piece(corners: readonly Corner[], turn = 0, lean = 0, thick = 0) {
	const [c, s, cl, sl] = [Math.cos(turn), Math.sin(turn), Math.cos(lean), Math.sin(lean)];
	const at = ([u, v]: Corner, w: number) => {
		const [x, y] = [u * c - v * s, u * s + v * c];
		return [x + 7e4, y * cl - w * sl, y * sl + w * cl - 2e4];
	};
	const n = corners.length;
	const fan = Array.from({ length: n - 2 }, (_, k) => [0, k + 1, k + 2]);
	const front = fan.flat();
	const back = fan.flatMap(([a, b, d]) => [a! + n, d! + n, b! + n]);
	return {
		positions: Float64Array.from([
			...corners.flatMap((p) => at(p, thick)),
			...(thick ? corners.flatMap((p) => at(p, 0)) : [])
		]),
		triangles: Uint32Array.from(thick ? [...front, ...back] : front)
	};
}
const angle = fc.double({ min: -3, max: 3, noNaN: true });

describe('sheets', () => {
	it('are cut from least rectangles: a rectangle from itself however it lies, a triangle by hand', () => {
		const box: Corner[] = [
			[0, 0],
			[1200, 0],
			[1200, 700],
			[0, 700]
		];
		fc.assert(
			fc.property(angle, angle, fc.constantFrom(0, 12), (turn, lean, thick) => {
				const [length, width] = leastRectangle(piece(box, turn, lean, thick))!;
				expect(length).closeTo(1200, 1e-6);
				expect(width).closeTo(700, 1e-6);
			})
		);
		// Any side of an equilateral triangle: 1000 by 500 * sqrt(3).
		const [length, width] = leastRectangle(
			piece(
				[
					[0, 0],
					[1000, 0],
					[500, 500 * Math.sqrt(3)]
				],
				0.4
			)
		)!;
		expect([length, width].map(Math.round)).deep.equal([1000, 866]);
		expect(
			leastRectangle(
				piece([
					[0, 0],
					[1000, 0],
					[2000, 0]
				])
			)
		).equal(undefined);
	});

	it('are never smaller than the piece, and no larger than the upright box around it (property)', () => {
		const corner = fc.tuple(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 0, max: 2000 }));
		fc.assert(
			fc.property(corner, corner, corner, (a, b, c) => {
				const twice = Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]));
				fc.pre(twice > 1000);
				const [length, width] = leastRectangle(piece([a, b, c], 0, 1))!;
				const extent = (k: 0 | 1) => Math.max(a[k], b[k], c[k]) - Math.min(a[k], b[k], c[k]);
				// Of a triangle the rectangle along any side is twice as large.
				expect(length * width).closeTo(twice, 1e-3 * twice);
				expect(length * width).most(extent(0) * extent(1) * (1 + 1e-9));
			})
		);
	});

	it('are counted by material and thickness, and pieces that no sheet holds are told', async () => {
		const project = demoWith(12, 8);
		const model = await run(project);
		const { rows, larger } = quantitiesOf(model.faces, rowWorld(project));
		const panes = rows.find((r) => r.by === 'sheet' && r.name.startsWith('Glass'))!;
		expect(panes.pieces).equal(96);
		expect(panes.rectangles).greaterThan(panes.area);
		expect(panes.amount).equal(Math.ceil(panes.rectangles! / (3000 * 1500)));
		expect(larger.join()).contains(`96 of the 96 pieces of ${panes.name} are larger than a sheet of 3000 × 1500 mm.`);
		project.costs = costsSchema.parse({ sheet: [20_000, 20_000] });
		expect(quantitiesOf(model.faces, rowWorld(project)).larger).deep.equal([]);
	});

	it('take every thin piece of the demo that has area once', async () => {
		const { project, model } = await ranDemo();
		const { rows } = quantitiesOf(model.faces, rowWorld(project));
		const thin = model.faces.flatMap((face) => {
			const { parts, part, columns } = partsOf(face);
			const kinds = ['sheet', 'plate', 'ribbon', 'screen'];
			return [...part].flatMap((p, r) => (kinds.includes(parts[p]!.part.kind) ? [columns.area![r]!] : []));
		});
		const sheets = rows.filter((r) => r.by === 'sheet');
		expect(sheets.reduce((n, r) => n + r.pieces, 0)).equal(thin.filter((a) => a > 0).length);
		const area = thin.reduce((a, b) => a + b, 0);
		expect(sheets.reduce((n, r) => n + r.area, 0) / area).closeTo(1, 1e-9);
	});
});
