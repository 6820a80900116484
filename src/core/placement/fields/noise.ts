import { randomAt } from '../../tiling/random.ts';

/** Even over its ends: value, slope and bend go on from one lattice cell into the next. */
const fade = (t: number) => t * t * t * (t * (t * 6 - 15) + 10);
const between = (a: number, b: number, t: number) => a + (b - a) * t;

/**
 * Smooth noise from 0 to 1 at a point in space: random numbers on a lattice of `size`, mm, and a quintic between them.
 * Source: value noise as in K. Perlin's lattice noise of 2002 with numbers in place of gradients (from memory).
 */
export function noiseAt(seed: number, size: number, x: number, y: number, z: number): number {
	const at = [x / size, y / size, z / size];
	const [i, j, k] = at.map(Math.floor) as [number, number, number];
	const [u, v, w] = [fade(at[0]! - i), fade(at[1]! - j), fade(at[2]! - k)];
	const value = (a: number, b: number, c: number) => randomAt(seed, i + a, j + b, k + c);
	const row = (b: number, c: number) => between(value(0, b, c), value(1, b, c), u);
	return between(between(row(0, 0), row(1, 0), v), between(row(0, 1), row(1, 1), v), w);
}
