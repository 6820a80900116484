import { expect } from 'chai';
import fc from 'fast-check';
import { drawPiece } from '../../../src/core/schedule/pieceDrawing.ts';
import { pieceMeshes } from '../../../src/core/schedule/pieceMesh.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { typesOf } from '../../../src/core/schedule/types/pieceTypes.ts';
import { USUAL_TYPES } from '../../../src/core/schedule/types/schema.ts';
import { ranDemo } from '../demo.ts';

/** A box of so many mm, turned about the vertical and leant over. */
function box(w: number, h: number, d: number, turn: number, lean: number) {
	const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((k) => [k & 1 ? w : 0, k & 2 ? h : 0, k & 4 ? d : 0] as const);
	const [c, s, cl, sl] = [Math.cos(turn), Math.sin(turn), Math.cos(lean), Math.sin(lean)];
	const positions = Float64Array.from(
		corners.flatMap(([x, y, z]) => {
			const [X, Y] = [x * c - y * s, x * s + y * c];
			return [X + 5e4, Y * cl - z * sl - 3e4, Y * sl + z * cl];
		})
	);
	const quads = [
		[0, 2, 3, 1],
		[4, 5, 7, 6],
		[0, 1, 5, 4],
		[2, 6, 7, 3],
		[0, 4, 6, 2],
		[1, 3, 7, 5]
	];
	return { positions, triangles: Uint32Array.from(quads.flatMap(([p, q, r, t]) => [p!, q!, r!, p!, r!, t!])) };
}
const lengths = (lines: Float64Array) =>
	Array.from({ length: lines.length / 4 }, (_, k) =>
		Math.hypot(lines[k * 4 + 2]! - lines[k * 4]!, lines[k * 4 + 3]! - lines[k * 4 + 1]!)
	).sort((a, b) => a - b);

describe('drawings of pieces', () => {
	it('show a box by its broadest side, whichever way it lies: its outline and no more (property)', () => {
		const angle = fc.double({ min: -3, max: 3, noNaN: true });
		fc.assert(
			fc.property(angle, angle, (turn, lean) => {
				const { lines, width, height, depth } = drawPiece(box(1200, 800, 24, turn, lean))!;
				expect(width).closeTo(1200, 1e-6);
				expect(height).closeTo(800, 1e-6);
				expect(depth).closeTo(24, 1e-6);
				lengths(lines).forEach((length, k) => expect(length).closeTo([800, 800, 1200, 1200][k]!, 1e-6));
				expect(Math.min(...lines)).greaterThan(-1e-6);
			}),
			{ numRuns: 50 }
		);
	});

	it('lay the longest line below', () => {
		const points = [0, 0, 0, 900, 0, 0, 300, 500, 0];
		for (const turn of [0, 1, 2, 3, 4, 5]) {
			const [c, s] = [Math.cos(turn), Math.sin(turn)];
			const positions = Float64Array.from(
				[0, 3, 6].flatMap((k) => [points[k]! * c - points[k + 1]! * s, points[k]! * s + points[k + 1]! * c, 0])
			);
			const { lines, width, height } = drawPiece({ positions, triangles: Uint32Array.of(0, 1, 2) })!;
			expect([width, height].map(Math.round)).deep.equal([900, 500]);
			const level = [0, 1, 2].filter((k) => Math.abs(lines[k * 4 + 1]!) + Math.abs(lines[k * 4 + 3]!) < 1e-6);
			expect(level).lengthOf(1);
		}
		expect(drawPiece({ positions: new Float64Array(9), triangles: Uint32Array.of(0, 1, 2) })).equal(undefined);
	});

	it('are there for every type of the demo, within the sizes of the piece', async () => {
		const { model } = await ranDemo();
		for (const { face, row, mark } of typesOf(model.faces, USUAL_TYPES).types) {
			const table = partsOf(model.faces[face]!);
			const mesh = pieceMeshes(table.parts[table.part[row]!]!.part)(table.placed[row]!, table.element[row]!);
			if (!mesh) continue;
			const drawing = drawPiece(mesh);
			expect(drawing, mark).not.equal(undefined);
			const { lines, width, height } = drawing!;
			expect(lines.length, mark).greaterThan(0);
			lines.forEach((v, k) => expect(v, mark).within(-0.01, (k % 2 ? height : width) + 0.01));
		}
	});
});
