import type { Point } from './curve.ts';

export const dot = (a: Point, b: Point) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const cross = (a: Point, b: Point): Point => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0]
];

export const scaled = (a: Point, by: number): Point => [a[0] * by, a[1] * by, a[2] * by];

export const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
