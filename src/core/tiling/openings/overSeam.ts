import { hypot } from '../../elementary/index.ts';
import { moveOverSeam, type Development } from '../../settingout/development.ts';
import { CHORD_MM } from '../../tolerances.ts';
import type { Ring } from './rings.ts';

/** Where a line lies: as it is, or over the seam, seen from the other side. */
export type Way = 0 | 1 | -1;
type At = Ring[number];

/** Times that a side is halved at most. */
const HALVINGS = 8;

/** Lines as they lie and, on a face with a seam, what of them goes on over it; where each lies. What goes around the face lies on both sides. */
export function withCopies(
	seam: Development | undefined,
	rings: readonly (readonly [ring: Ring, around: number])[]
): (readonly [ring: Ring, way: Way])[] {
	return rings.flatMap(([ring, around]) => [
		[ring, 0] as const,
		...(seam ? ([1, -1] as const).map((way) => [copyOver(seam, ring, way), around ? 0 : way] as const) : [])
	]);
}

/** A line over the seam, where what is straight on this side may be bent. */
function copyOver(seam: Development, ring: Ring, way: 1 | -1): Ring {
	const moved = ([x, y]: At) => moveOverSeam(seam, x, y, way);
	return ring.flatMap((a, k) => bentSide(a, ring[(k + 1) % ring.length]!, moved, 0));
}

/** A side from its start on, moved, in chords that stay within CHORD_MM of it; without its end. */
function bentSide(a: At, b: At, moved: (p: At) => At, halved: number): At[] {
	const at = (t: number): At => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
	const [p, q] = [moved(a), moved(b)];
	const off = (t: number) => {
		const [x, y] = moved(at(t));
		return hypot(x - p[0] - (q[0] - p[0]) * t, y - p[1] - (q[1] - p[1]) * t);
	};
	// Not in the middle, where a bend may turn over.
	if (halved === HALVINGS || (off(0.35) < CHORD_MM && off(0.65) < CHORD_MM)) return [p];
	return [...bentSide(a, at(0.5), moved, halved + 1), ...bentSide(at(0.5), b, moved, halved + 1)];
}

/**
 * A cell that a line reaches over the seam, laid beside that line by its corners: nodes on the seam then lie where those of
 * the cells on the other side lie, and both are cut in the same points. Where lines reach over it from both sides, cells
 * at the end are laid before the start. Any other cell as it is.
 */
export function besideSeam(seam: Development, met: readonly Way[], ring: Ring): Ring {
	const back = met.includes(1) ? -1 : met.includes(-1) && !met.includes(0) ? 1 : 0;
	return back === 0 ? ring : ring.map(([x, y]) => moveOverSeam(seam, x, y, back));
}
