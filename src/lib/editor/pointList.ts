import { parseLength } from '../../core/units/length.ts';
import { printQuantity } from '../../core/units/print.ts';
import type { LengthUnit } from '../../core/units/quantity.ts';

/** Reads points, one a line: `1200, 900`. Answers them, or words on what is wrong in which line. */
export function parsePoints(text: string, unit: LengthUnit): { points: [number, number][] } | { error: string } {
	const points: [number, number][] = [];
	for (const [k, line] of text.trim().split(/\n/).entries()) {
		const parts = line.split(/[,;]/);
		if (parts.length !== 2)
			return { error: `Line ${k + 1}, “${line.trim()}”, is no point. Right would be two lengths, such as 1200, 900.` };
		const read = parts.map((p) => parseLength(p, unit));
		const wrong = read.find((r) => 'error' in r);
		if (wrong && 'error' in wrong) return { error: `Line ${k + 1}: ${wrong.error}` };
		points.push(read.map((r) => ('mm' in r ? r.mm : 0)) as [number, number]);
	}
	return { points };
}

export const printPoints = (points: readonly (readonly [number, number])[], unit: LengthUnit): string =>
	points.map((p) => p.map((x) => printQuantity(x, 'length', unit).text).join(', ')).join('\n');
