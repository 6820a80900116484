import type { Quantity } from '../../units/quantity.ts';

/** What a number measures, as powers of length and angle. */
export interface Dimension {
	readonly length: number;
	readonly angle: number;
	/** A number written without a unit: beside a length it counts as mm. */
	readonly bare?: boolean;
	/** Written as 0, which needs no unit. */
	readonly zero?: boolean;
}

export const PLAIN: Dimension = { length: 0, angle: 0 };
export const LENGTH: Dimension = { length: 1, angle: 0 };
export const AREA: Dimension = { length: 2, angle: 0 };
export const ANGLE: Dimension = { length: 0, angle: 1 };

const OF_QUANTITY: Readonly<Record<Quantity, Dimension>> = {
	length: LENGTH,
	area: AREA,
	volume: { length: 3, angle: 0 },
	angle: ANGLE,
	mass: PLAIN,
	ratio: PLAIN,
	count: PLAIN,
	curvature: { length: -1, angle: 0 },
	gaussian: { length: -2, angle: 0 },
	money: PLAIN
};

export const dimensionOf = (quantity: Quantity): Dimension => OF_QUANTITY[quantity];

export const sameDimension = (a: Dimension, b: Dimension) => a.length === b.length && a.angle === b.angle;

/** The dimension of two numbers that are added or compared; nothing where they do not go together. */
export function together(a: Dimension, b: Dimension): Dimension | undefined {
	if (sameDimension(a, b)) return a.bare ? b : a;
	for (const [x, y] of [
		[a, b],
		[b, a]
	] as const)
		if (x.zero || (x.bare && sameDimension(y, LENGTH))) return y;
	return undefined;
}

/** Whether a number may stand where a quantity is wanted. */
export const fits = (dimension: Dimension, quantity: Quantity): boolean =>
	sameDimension(together(dimension, dimensionOf(quantity)) ?? { length: NaN, angle: 0 }, dimensionOf(quantity));

/** In words, for messages. */
export function dimensionInWords({ length, angle, bare }: Dimension): string {
	if (bare) return 'a number without a unit';
	if (length === 0 && angle === 0) return 'a plain number';
	if (angle === 0) return { 1: 'a length', 2: 'an area', 3: 'a volume' }[length] ?? `a length to the power ${length}`;
	if (length === 0 && angle === 1) return 'an angle';
	return `a length to the power ${length} with an angle to the power ${angle}`;
}
