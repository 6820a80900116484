import { withinRing, type FlatRing } from '../../core/settingout/flatBorder.ts';
import { growRing } from '../../core/tiling/openings/rings.ts';
import type { FlatView } from '../../core/view/flatView.ts';

type Laid = Pick<FlatView, 'bounds' | 'border' | 'openings'>;
type Box = readonly [x0: number, y0: number, x1: number, y1: number];

/** Places that are tried along the longer side of a face. */
const TRIED = 24;
/** Kept free around openings, mm. */
const GAP = 200;

/** The middle of the flat face. */
export const middleOf = ({ bounds: [x0, y0, x1, y1] }: Pick<Laid, 'bounds'>): [number, number] => [
	Math.round((x0 + x1) / 2),
	Math.round((y0 + y1) / 2)
];

/**
 * Where an opening of a size finds room: the place nearest to the middle of the flat face at which it lies on the face and
 * on no other opening; the middle itself where there is none. The place is that of the middle of its lower side.
 */
export function roomFor(laid: Laid, width: number, height: number): [number, number] {
	const [x0, y0, x1, y1] = laid.bounds;
	const [mx, my] = middleOf(laid);
	const ring = ringOf(laid.border);
	const taken = laid.openings.filter((o) => o.role === 'opening').flatMap((o) => o.framed.map(boxOf));
	const step = Math.max(x1 - x0, y1 - y0) / TRIED;
	const places: [number, number][] = [];
	for (let i = -TRIED; i <= TRIED; i++)
		for (let j = -TRIED; j <= TRIED; j++) places.push([Math.round(mx + i * step), Math.round(my + j * step)]);
	const far = ([x, y]: readonly [number, number]) => Math.hypot(x - mx, y - my);
	const fits = ([x, y]: readonly [number, number]) => {
		const box: Box = [x - width / 2, y, x + width / 2, y + height];
		const corners = [
			[box[0], box[1]],
			[box[2], box[1]],
			[box[2], box[3]],
			[box[0], box[3]]
		] as const;
		return corners.every(([cx, cy]) => withinRing(ring, cx, cy)) && !taken.some((other) => overlap(box, other));
	};
	return places.sort((a, b) => far(a) - far(b)).find(fits) ?? [mx, my];
}

/** A border begins so far outside, mm, since the sides of cells are chords of a border that may be hollow. */
const OUTSIDE_MM = 50;

/** The face's own border about the middle of the flat face, as the points of a border that leaves nothing out yet. */
export function ownBorder(laid: Laid): [number, number][] {
	const [mx, my] = middleOf(laid);
	return growRing(straightened(ringOf(laid.border)), OUTSIDE_MM).map(([x, y]) => [
		Math.round((x - mx) * 10) / 10,
		Math.round((y - my) * 10) / 10
	]);
}

const ringOf = (border: Float32Array): FlatRing =>
	Array.from({ length: border.length / 2 }, (_, k): [number, number] => [border[k * 2]!, border[k * 2 + 1]!]);

function boxOf(ring: FlatRing): Box {
	const [xs, ys] = [ring.map((p) => p[0]), ring.map((p) => p[1])];
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

const overlap = (a: Box, b: Box) => a[0] < b[2] + GAP && a[2] > b[0] - GAP && a[1] < b[3] + GAP && a[3] > b[1] - GAP;

/** How far a point may be off the line between its neighbours and still be left out, mm. */
const STRAIGHT_MM = 0.5;

/** A closed line without the points that lie on the way between those that stay: none is farther off than `STRAIGHT_MM`. */
function straightened(ring: FlatRing): [number, number][] {
	const kept: [number, number][] = [];
	for (let k = 0; k < ring.length;) {
		kept.push([...ring[k]!]);
		let next = k + 1;
		while (next < ring.length && allNear(ring, k, next + 1)) next++;
		k = next;
	}
	return kept;
}

function allNear(ring: FlatRing, from: number, to: number): boolean {
	const [ax, ay] = ring[from]!;
	const [bx, by] = ring[to % ring.length]!;
	const size = Math.hypot(bx - ax, by - ay);
	for (let k = from + 1; k < to; k++) {
		const [x, y] = ring[k % ring.length]!;
		const along = size > 0 ? ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / size : -1;
		const off = size > 0 ? Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / size : Infinity;
		if (off > STRAIGHT_MM || along < 0 || along > size) return false;
	}
	return true;
}
