import { SIZE_CHANGED_MM } from '../tolerances.ts';
import type { LaidDirection } from './directions.ts';

/** What a division of a direction came to; lengths in mm on the row (or column) that it is laid on. */
export interface LaidFigures {
	readonly count: number;
	/** Narrowest and widest module, remainders left out. */
	readonly modules?: readonly [number, number];
	/** Width of the part module beside the start edge, and beside the end edge, where there is one. */
	readonly startRemainder?: number;
	readonly endRemainder?: number;
}

/** Figures of one direction; modules only where lines are laid along the face. */
export function laidFigures({ count, lines }: Pick<LaidDirection, 'count' | 'lines'>): LaidFigures {
	if (!lines) return { count };
	const widths = [...lines.slice(1)].map((p, k) => p - lines[k]!);
	// A first or last width that occurs nowhere else is a remainder.
	const alone = (k: number) =>
		widths.length > 1 &&
		!widths.some(
			(w, other) => other !== k && other > 0 && other < widths.length - 1 && Math.abs(w - widths[k]!) < SIZE_CHANGED_MM
		);
	const last = widths.length - 1;
	const pair = widths.length === 2 && Math.abs(widths[0]! - widths[1]!) < SIZE_CHANGED_MM;
	const [start, end] =
		widths.length < 3
			? [
					!pair && widths.length === 2 && widths[0]! < widths[1]!,
					!pair && widths.length === 2 && widths[1]! < widths[0]!
				]
			: [alone(0), alone(last)];
	const modules = widths.filter((_, k) => !(k === 0 && start) && !(k === last && end));
	return {
		count,
		// A face may have more strips than a call has arguments.
		modules: [modules.reduce((a, b) => Math.min(a, b), Infinity), modules.reduce((a, b) => Math.max(a, b), -Infinity)],
		...(start ? { startRemainder: widths[0]! } : {}),
		...(end ? { endRemainder: widths[last]! } : {})
	};
}
