import type { Point } from './curve.ts';

export const dot = (a: Point, b: Point) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const cross = (a: Point, b: Point): Point => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0]
];

export const scaled = (a: Point, by: number): Point => [a[0] * by, a[1] * by, a[2] * by];

export const plus = (a: Point, b: Point): Point => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];

export const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** The point at an offset of a list of coordinates, stride 3. */
export const pointAt = (p: ArrayLike<number>, o: number): Point => [p[o]!, p[o + 1]!, p[o + 2]!];

/** The way from the point at one offset of a list of coordinates to that at another. */
export const wayAt = (p: ArrayLike<number>, from: number, to: number): Point => [
	p[to]! - p[from]!,
	p[to + 1]! - p[from + 1]!,
	p[to + 2]! - p[from + 2]!
];
