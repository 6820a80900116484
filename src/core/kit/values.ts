import type { Kit } from './schema.ts';
import type { KitValues } from './evaluate.ts';

export interface ClampedValue {
	readonly parameter: string;
	readonly label: string;
	readonly asked: number;
	readonly used: number;
}

/** Defaults filled in, every value held between its least and greatest, and what was held back. */
export function settleValues(
	kit: Kit,
	given: Readonly<Record<string, number>>
): { values: KitValues; clamped: ClampedValue[] } {
	const clamped: ClampedValue[] = [];
	const values: Record<string, number> = {};
	for (const { name, label, default: preset, least, greatest } of kit.parameters) {
		const asked = given[name] ?? preset;
		const used = Math.min(greatest, Math.max(least, asked));
		if (used !== asked) clamped.push({ parameter: name, label, asked, used });
		values[name] = used;
	}
	return { values, clamped };
}
