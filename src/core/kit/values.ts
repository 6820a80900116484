import type { Kit } from './schema.ts';

/** A kit's values after defaults and clamping, by parameter name; columns by host where they differ. */
export type KitValues = Readonly<Record<string, number | Float64Array>>;
/** Values as they are given: numbers, or texts for texts and materials. */
export type GivenValues = Readonly<Record<string, number | string>>;

export interface ClampedValue {
	readonly parameter: string;
	readonly label: string;
	readonly asked: number;
	readonly used: number;
}

export interface SettledValues {
	readonly values: Readonly<Record<string, number>>;
	/** Texts, materials and choices in words, by parameter. */
	readonly texts: Readonly<Record<string, string>>;
	/** Parameters that have a value given, so that their formulas do not hold. */
	readonly given: ReadonlySet<string>;
	/** What was held back. */
	readonly clamped: readonly ClampedValue[];
}

/** Defaults filled in, and every value held between its least and greatest. */
export function settleValues(kit: Kit, asked: GivenValues): SettledValues {
	const clamped: ClampedValue[] = [];
	const values: Record<string, number> = {};
	const texts: Record<string, string> = {};
	for (const parameter of kit.parameters) {
		const { name, label } = parameter;
		const wanted = asked[name] ?? parameter.default;
		if (parameter.quantity === 'text' || parameter.quantity === 'material') {
			texts[name] = String(wanted);
			continue;
		}
		const [least, greatest] =
			parameter.quantity === 'choice' ? [0, parameter.choices.length - 1] : [parameter.least, parameter.greatest];
		const number = Number(wanted);
		values[name] = Math.min(greatest, Math.max(least, Number.isFinite(number) ? number : parameter.default));
		if (parameter.quantity === 'choice') texts[name] = parameter.choices[values[name]!]!;
		if (values[name] !== number) clamped.push({ parameter: name, label, asked: number, used: values[name]! });
	}
	return { values, texts, given: new Set(Object.keys(asked)), clamped };
}
