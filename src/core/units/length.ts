import type { LengthUnit } from './quantity.ts';

export const MM_PER_INCH = 25.4;
export const MM_PER_FOOT = 304.8;

const MM_PER_UNIT: Readonly<Record<string, number>> = {
	mm: 1,
	cm: 10,
	m: 1000,
	in: MM_PER_INCH,
	'"': MM_PER_INCH,
	'″': MM_PER_INCH,
	ft: MM_PER_FOOT,
	"'": MM_PER_FOOT,
	'′': MM_PER_FOOT
};

const UNIT = `mm|cm|m|in|ft|"|″|'|′`;
/** A number with an optional fraction: 1500, 1.5, 1 1/2, 1/2, 1-1/2; digits may be grouped by blanks. */
const NUMBER = String.raw`(?:\d+(?:[    ]\d{3})*(?:[.,]\d+)?|[.,]\d+)(?:\s*\/\s*\d+|[\s-]+\d+\s*\/\s*\d+)?`;
const TERM = new RegExp(String.raw`^\s*(${NUMBER})\s*(${UNIT})?`, 'i');

/**
 * Reads a length in mm: `1500`, `1.5 m`, `1 500 mm`, `5'-6 1/2"`, `5 ft 6 in`. A number without a unit
 * is in `unit` (feet with feet and inches). Answers the value, or words on what would be right.
 */
export function parseLength(text: string, unit: LengthUnit): { mm: number } | { error: string } {
	const example = unit === 'ft-in' ? `5' 6" or 1500 mm` : `1500 mm, 1.5 m or 5' 6"`;
	const error = { error: `“${text.trim()}” is not a length. Right would be ${example}.` };
	if (/\d,\d{3}(?!\d)/.test(text)) return { error: `“${text.trim()}” can be read in two ways. Write 1500 or 1.5.` };
	const negative = /^\s*[-−]/.test(text);
	let rest = text.trim().replace(/^[-−]\s*/, '');
	let mm = 0;
	let lastSize = Infinity;
	let first = true;
	while (rest !== '') {
		const match = TERM.exec(rest);
		if (!match) return error;
		const number = readNumber(match[1]!);
		const bare = unit === 'mm' ? 1 : unit === 'm' ? 1000 : first ? MM_PER_FOOT : MM_PER_INCH;
		const size = match[2] ? MM_PER_UNIT[match[2].toLowerCase()]! : bare;
		// Terms must shrink (feet, then inches), and only the first may leave out its unit in metric.
		if (size >= lastSize || (!first && !match[2] && unit !== 'ft-in')) return error;
		mm += number * size;
		lastSize = size;
		first = false;
		rest = rest
			.slice(match[0].length)
			.replace(/^\s*-?\s*(?=[\d.,])/, '')
			.trimStart();
	}
	if (first || !Number.isFinite(mm)) return error;
	return { mm: negative ? -mm : mm };
}

function readNumber(text: string): number {
	const fraction = /(\d+)\s*\/\s*(\d+)$/.exec(text);
	const whole = fraction ? text.slice(0, fraction.index).replace(/-\s*$/, '') : text;
	const value = whole.trim() === '' ? 0 : Number(whole.replace(/\s/g, '').replace(',', '.'));
	return fraction ? value + Number(fraction[1]) / Number(fraction[2]) : value;
}
