import { parseLength } from '../units/length.ts';
import { printQuantity } from '../units/print.ts';
import type { LengthUnit } from '../units/quantity.ts';

export interface ListedModule {
	readonly times: number;
	/** mm */
	readonly width: number;
}

/**
 * Reads widths one after the other: `1200, 900, 4 x 1500, 900`. Parts are parted by commas or semicolons; a
 * number without a unit is in `unit`. Answers the widths, or words on what is wrong where.
 */
export function parseModules(text: string, unit: LengthUnit): { modules: ListedModule[] } | { error: string } {
	const modules: ListedModule[] = [];
	const parts = text.split(/[,;\n]/).map((p) => p.trim());
	for (const [k, part] of parts.entries()) {
		const match = /^(?:(\d+)\s*[x×*]\s*)?(.+)$/i.exec(part);
		if (!match) return { error: `Width ${k + 1} is empty. Right would be a list such as ${EXAMPLE[unit]}.` };
		const length = parseLength(match[2]!, unit);
		if ('error' in length) return { error: `Width ${k + 1}, “${part}”: ${length.error}` };
		const times = Number(match[1] ?? 1);
		if (times < 1 || length.mm <= 0)
			return { error: `Width ${k + 1}, “${part}”, must be above 0 and occur at least once.` };
		modules.push({ times, width: length.mm });
	}
	return { modules };
}

const EXAMPLE: Readonly<Record<LengthUnit, string>> = {
	mm: '1200, 900, 4 x 1500, 900',
	m: '1.2, 0.9, 4 x 1.5, 0.9',
	'ft-in': `4', 3', 4 x 5', 3'`
};

/** A list as `parseModules` reads it. */
export const printModules = (modules: readonly ListedModule[], unit: LengthUnit): string =>
	modules
		.map(({ times, width }) => (times > 1 ? `${times} x ` : '') + printQuantity(width, 'length', unit).text)
		.join(', ');
