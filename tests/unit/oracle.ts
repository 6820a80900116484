import { createRequire } from 'node:module';
import type { Surface } from '../../src/core/geometry/surface.ts';

interface VerbSurface {
	derivatives(u: number, v: number, order: number): number[][][];
	normal(u: number, v: number): number[];
	point(u: number, v: number): number[];
}

// The package looks for a browser's window when it loads.
(globalThis as { window?: unknown }).window ??= globalThis;
const verb = createRequire(import.meta.url)('verb-nurbs') as {
	geom: {
		NurbsSurface: {
			byKnotsControlPointsWeights(
				degreeU: number,
				degreeV: number,
				knotsU: number[],
				knotsV: number[],
				points: number[][][],
				weights: number[][]
			): VerbSurface;
		};
	};
};

/** The same surface in the independent package `verb-nurbs`, whose control points are listed by u first. */
export function verbSurface(surface: Surface): VerbSurface {
	const { countU, countV, control } = surface;
	const each = <T>(make: (k: number) => T) =>
		Array.from({ length: countU }, (_, u) => Array.from({ length: countV }, (__, v) => make((v * countU + u) * 4)));
	return verb.geom.NurbsSurface.byKnotsControlPointsWeights(
		surface.degreeU,
		surface.degreeV,
		[...surface.knotsU],
		[...surface.knotsV],
		each((k) => [0, 1, 2].map((c) => control[k + c]! / control[k + 3]!)),
		each((k) => control[k + 3]!)
	);
}
