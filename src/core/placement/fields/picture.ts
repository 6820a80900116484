import { contentOf } from '../../content.ts';
import type { Field } from './schema.ts';

export type Picture = Extract<Field['source'], { kind: 'picture' }>;

/** Bytes a point of a picture: red, green and blue from 0 to 255, row by row from the upper left one on. */
export const BYTES_A_POINT = 3;

/** Shares of red, green and blue in what is seen as bright. Source: Rec. ITU-R BT.709-6, item 3.2 (luma of the encoded values). */
const SHARES: Readonly<Record<Picture['channel'], readonly [number, number, number]>> = {
	brightness: [0.2126, 0.7152, 0.0722],
	red: [1, 0, 0],
	green: [0, 1, 0],
	blue: [0, 0, 1]
};

/**
 * Reads a picture at places from 0 to 1, from its lower left corner on: what its channel has there, 0 to 1, even between
 * the middles of four points. Beyond its edges it goes on anew where it repeats, else with what its edge has.
 * Throws a ZygasterError with code `content` where its points are not here.
 */
export function pictureReader({ pixels, width, height, channel, lay }: Picture): (s: number, t: number) => number {
	const bytes = contentOf(pixels);
	const [r, g, b] = SHARES[channel];
	const inside = (k: number, n: number) => (lay === 'repeat' ? ((k % n) + n) % n : Math.min(n - 1, Math.max(0, k)));
	const at = (x: number, y: number) => {
		const o = (inside(y, height) * width + inside(x, width)) * BYTES_A_POINT;
		return (r * bytes[o]! + g * bytes[o + 1]! + b * bytes[o + 2]!) / 255;
	};
	return (s, t) => {
		const x = s * width - 0.5;
		const y = (1 - t) * height - 0.5;
		const [i, j] = [Math.floor(x), Math.floor(y)];
		const [u, v] = [x - i, y - j];
		const upper = at(i, j) * (1 - u) + at(i + 1, j) * u;
		const lower = at(i, j + 1) * (1 - u) + at(i + 1, j + 1) * u;
		return upper * (1 - v) + lower * v;
	};
}
