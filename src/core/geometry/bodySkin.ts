import { surfaceArea } from './area.ts';
import { evaluateGridPoints, type SurfacePoints } from './evaluate.ts';
import { spanBorders } from './quadrature.ts';
import type { Surface } from './surface.ts';

/** A surface as triangles, fine enough to look smooth. */
interface Skin {
	readonly points: SurfacePoints;
	/** Points in a row. */
	readonly across: number;
	readonly indices: Uint32Array;
	/** mm2 */
	readonly area: number;
}

/** Fields across and up that a whole face is drawn with, at least. */
const LEAST_FIELDS = 32;
const MOST_FIELDS = 160;

/** Surfaces never change, so that each is turned into triangles once. */
const known = new WeakMap<Surface, Skin>();

/** The triangles of a surface, mm, made once for each surface. */
export function bodySkin(surface: Surface): Skin {
	const kept = known.get(surface);
	if (kept) return kept;
	const us = fields(surface.knotsU, surface.degreeU);
	const vs = fields(surface.knotsV, surface.degreeV);
	const points = evaluateGridPoints(surface, us, vs);
	const [nu, nv] = [us.length - 1, vs.length - 1];
	const indices = new Uint32Array(nu * nv * 6);
	for (let j = 0, k = 0; j < nv; j++)
		for (let i = 0; i < nu; i++) {
			const a = j * us.length + i;
			const b = a + us.length;
			for (const index of [a, a + 1, b + 1, a, b + 1, b]) indices[k++] = index;
		}
	const skin = { points, across: us.length, indices, area: surfaceArea(surface) };
	known.set(surface, skin);
	return skin;
}

/** Parameters of the fields' borders: all knots, so that creases stay sharp, and even divisions between. */
function fields(knots: Float64Array, degree: number): Float64Array {
	const spans = spanBorders(knots, degree);
	const count = spans.length - 1;
	if (count > MOST_FIELDS)
		return Float64Array.from(
			{ length: MOST_FIELDS + 1 },
			(_, k) => spans[0]! + ((spans[count]! - spans[0]!) * k) / MOST_FIELDS
		);
	const each = degree === 1 ? 1 : Math.ceil(LEAST_FIELDS / count);
	return Float64Array.from({ length: count * each + 1 }, (_, k) => {
		const s = Math.min(count - 1, Math.floor(k / each));
		return spans[s]! + ((spans[s + 1]! - spans[s]!) * (k - s * each)) / each;
	});
}
