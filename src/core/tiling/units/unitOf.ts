import type { Tiling, TilingKind } from '../schema.ts';
import {
	basketWeave,
	diamonds,
	fans,
	herringbone,
	leaning,
	mixedSquares,
	partFilling,
	runningBond,
	staggered,
	triangles,
	turnedInside,
	twoSquares,
	undulating
} from './library.ts';
import { cairo, dodecagons, hexagons, octagons, rhombs, snubSquare, trihexagons } from './regular.ts';
import type { TilingUnit } from './unit.ts';

/** Tilings that are no repeating unit: their cells depend on the face, on chance, or on the project. */
type Other = 'rectangular' | 'random' | 'voronoi' | 'icosahedral' | 'own';
export type BuiltInKind = Exclude<TilingKind, Other>;
type Of<K extends TilingKind> = Extract<Tiling, { kind: K }>;

const UNITS: { readonly [K in BuiltInKind]: (tiling: Of<K>) => TilingUnit } = {
	'running-bond': ({ offset }) => runningBond(offset),
	rhomb: ({ fields, rows }) => leaning(fields, rows),
	part: ({ pattern, every, filled }) => partFilling(pattern, every, filled),
	// Diagonals that depend on the face are chosen field by field; as a picture they alternate.
	triangles: ({ diagonal }) => triangles(diagonal === 'shorter' || diagonal === 'flatter' ? 'alternating' : diagonal),
	staggered,
	fans,
	diamonds,
	hexagons,
	trihexagons,
	octagons: ({ corner }) => octagons(corner),
	dodecagons,
	'snub-square': snubSquare,
	rhombs,
	pentagons: cairo,
	herringbone: ({ length }) => herringbone(length),
	'basket-weave': ({ length }) => basketWeave(length),
	undulating: ({ rise }) => undulating(rise),
	'turned-inside': turnedInside,
	'two-squares': twoSquares,
	'mixed-squares': mixedSquares
};

/** The repeating unit of a built-in tiling; nothing for one that is none. */
export function unitOf(tiling: Tiling): TilingUnit | undefined {
	const make = (UNITS as Partial<Record<TilingKind, (tiling: Tiling) => TilingUnit>>)[tiling.kind];
	return make?.(tiling);
}
