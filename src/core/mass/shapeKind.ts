import type { Surface } from '../geometry/surface.ts';
import type { Height } from './fields.ts';

/** A value with every height that hangs on a level turned into mm. */
export type Settled<T> =
	T extends Exclude<Height, number>
		? number
		: T extends readonly (infer E)[]
			? Settled<E>[]
			: T extends object
				? { [K in keyof T]: Settled<T[K]> }
				: T;

/** One face of a shape, lying as the shape does. */
export interface ShapeFace {
	readonly id: string;
	/** What it is called until somebody renames it. */
	readonly name: string;
}

/** A fault at a place within a shape. */
export type ReportFault = (path: (string | number)[], message: string) => void;

/** Points around a hole, three numbers each. */
export type Hole = readonly (readonly number[])[];

/**
 * Everything that the pipeline needs of a kind of shape. `faces` and `surfaces` take a checked shape;
 * they throw a ZygasterError in the user's words where the numbers lead to no face.
 */
export interface ShapeKind<S> {
	readonly label: string;
	readonly help: string;
	readonly faces: (shape: Settled<S>) => ShapeFace[];
	/** Surface of each face, in the same order. */
	readonly surfaces: (shape: Settled<S>) => Surface[];
	/** Points (x, y, z) around the holes that each face was made with, in the same order, mm; a new face has them as openings. */
	readonly holes?: (shape: Settled<S>) => readonly Hole[][];
	/** What the schema cannot say. */
	readonly check?: (shape: Settled<S>, report: ReportFault) => void;
}

/** The single face of a shape that has one. */
export const ONE_FACE: ShapeFace[] = [{ id: 'skin', name: 'Skin' }];

/** `stem-1`, `stem-2`, ...; or the one face when there is but one. */
export const numberedFaces = (count: number, stem: string, name: string): ShapeFace[] =>
	count === 1
		? ONE_FACE
		: Array.from({ length: count }, (_, k) => ({ id: `${stem}-${k + 1}`, name: `${name} ${k + 1}` }));

/** Reports every place where a list of heights (`above` one another) or shares (`after`) does not rise. */
export function checkRising(
	values: readonly number[],
	path: (k: number) => (string | number)[],
	what: string,
	order: 'above' | 'after',
	report: ReportFault
): void {
	values.forEach((value, k) => {
		if (k > 0 && !(value > values[k - 1]!))
			report(
				path(k),
				`${what} ${k + 1} stands at ${round(value)}, not ${order} ${what} ${k} at ${round(values[k - 1]!)}`
			);
	});
}

const round = (x: number) => String(Math.round(x * 1000) / 1000);
