import { FLAT_SHARE } from '../tolerances.ts';

/** What is drawn, by which its lines are as heavy, and its colours as plain, as its kind wants. */
export const KINDS = {
	border: { label: 'border', weight: 0.5, colour: '#1c2b2d', index: 7 },
	grid: { label: 'grid', weight: 0.18, colour: '#1c2b2d', index: 8 },
	openings: { label: 'openings', weight: 0.35, colour: '#b4541a', index: 1 },
	zones: { label: 'zones', weight: 0.5, colour: '#7a4f9a', index: 6 },
	levels: { label: 'levels', weight: 0.25, colour: '#2b7a73', index: 4 },
	marks: { label: 'marks', weight: 0.18, colour: '#1c2b2d', index: 7 },
	cut: { label: 'cut', weight: 0.5, colour: '#1c2b2d', index: 7 },
	bends: { label: 'bends', weight: 0.25, colour: '#b4541a', index: 1 },
	others: { label: 'other faces', weight: 0.18, colour: '#8a9596', index: 9 },
	titles: { label: 'titles', weight: 0.25, colour: '#1c2b2d', index: 7 }
} as const;
export type Kind = keyof typeof KINDS;

/** A layer: what is of one kind on one face. */
export interface Layer {
	readonly name: string;
	readonly kind: Kind;
	readonly lines: readonly DrawnLine[];
	readonly texts: readonly DrawnText[];
}

export interface DrawnLine {
	/** mm, stride 2. */
	readonly points: readonly number[];
	readonly closed: boolean;
	/** By side: the tangent of a quarter of the angle of its arc, above 0 to the left of the way (DXF’s measure); all are straight where left out. */
	readonly bulges?: readonly number[];
	/** What it is the outline of. */
	readonly mark?: string;
	/** What it is filled with, `#rrggbb`. */
	readonly fill?: string;
}

/** A text with its middle at a place. */
export interface DrawnText {
	readonly x: number;
	readonly y: number;
	/** Of capitals, mm. */
	readonly height: number;
	readonly text: string;
}

/** Lines and texts in a plane, mm, y upwards. */
export interface Drawing {
	readonly title: string;
	readonly layers: readonly Layer[];
	/** Least x and y, greatest x and y. */
	readonly bounds: readonly [number, number, number, number];
}

/** What a drawing takes in, with the height and about the width of its texts. */
export function boundsOf(layers: readonly Layer[]): Drawing['bounds'] {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	const take = (x: number, y: number) => {
		x0 = Math.min(x0, x);
		y0 = Math.min(y0, y);
		x1 = Math.max(x1, x);
		y1 = Math.max(y1, y);
	};
	for (const { lines, texts } of layers) {
		for (const { points } of lines) for (let k = 0; k < points.length; k += 2) take(points[k]!, points[k + 1]!);
		for (const { x, y, height, text } of texts) {
			const half = widthOf(text, height) / 2;
			take(x - half, y - height);
			take(x + half, y + height);
		}
	}
	return x0 <= x1 ? [x0, y0, x1, y1] : [0, 0, 0, 0];
}

/** Width of a letter over the height of capitals, about (practice). */
const LETTER = 0.85;
export const widthOf = (text: string, height: number): number => [...text].length * height * LETTER;

/** Heights of marks as a share of a cell's smaller side; a mark stays within the other share of its cell's width. */
const [MARK, WITHIN] = [0.22, 0.8];

/** A mark at the centre of gravity of a cell's outline (stride 2), as large as fits. */
export function markWithin(points: readonly number[], text: string): DrawnText {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	let [twice, x, y] = [0, 0, 0];
	const [ox, oy] = [points[0]!, points[1]!];
	for (let k = 0; k < points.length; k += 2) {
		const next = (k + 2) % points.length;
		const [ax, ay, bx, by] = [points[k]! - ox, points[k + 1]! - oy, points[next]! - ox, points[next + 1]! - oy];
		x0 = Math.min(x0, ax);
		x1 = Math.max(x1, ax);
		y0 = Math.min(y0, ay);
		y1 = Math.max(y1, ay);
		const area = ax * by - ay * bx;
		twice += area;
		x += (ax + bx) * area;
		y += (ay + by) * area;
	}
	// One that is seen on its edge has none.
	const flat = Math.abs(twice) < (x1 - x0) * (y1 - y0) * FLAT_SHARE;
	const [mx, my] = flat ? [(x0 + x1) / 2, (y0 + y1) / 2] : [x / (3 * twice), y / (3 * twice)];
	const size = Math.min(x1 - x0, y1 - y0) * MARK;
	return { x: ox + mx, y: oy + my, text, height: Math.min(size, ((x1 - x0) * WITHIN) / widthOf(text, 1)) };
}
