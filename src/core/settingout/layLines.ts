import { ZygasterError } from '../errors.ts';
import { COINCIDENT_MM } from '../tolerances.ts';
import { group } from '../units/print.ts';
import type { Direction, Remainder, Spacing } from './spacing.ts';

/** A spacing that divides a length by itself, without asking where the face stands. */
type PlainSpacing = Extract<Spacing, { kind: 'count' | 'module' | 'at-most' | 'list' | 'off' }>;

export const isPlain = (spacing: Spacing): spacing is PlainSpacing =>
	['count', 'module', 'at-most', 'list', 'off'].includes(spacing.kind);

/**
 * Where a length is divided, mm from its start, rising; the first is 0, the last is `length`. On a closed
 * direction a shift moves the seam instead and is left out here. Throws a ZygasterError with code
 * `setting-out` where modules do not fit.
 */
export function layLines(
	direction: Direction & { spacing: PlainSpacing },
	length: number,
	closed = false
): Float64Array {
	const { spacing, from, leastRemainder } = direction;
	const base = linesOf(spacing, direction.multiple, length, closed);
	const shifted = closed ? base.lines : shiftLines(base, direction, length);
	const inside = shifted.filter((p) => p > COINCIDENT_MM && p < length - COINCIDENT_MM);
	const lines = mergeNarrow([0, ...inside, length], leastRemainder);
	return Float64Array.from(from === 'start' ? lines : lines.map((p) => length - p).reverse());
}

/** How far the seam of a closed direction moves for a shift, mm. */
export function seamShift(direction: Direction, length: number): number {
	const { spacing, shift, shiftShare, from } = direction;
	const module = isPlain(spacing) ? (linesOf(spacing, direction.multiple, length, true).module ?? 0) : 0;
	return (shift + shiftShare * module) * (from === 'start' ? 1 : -1);
}

interface Base {
	readonly lines: readonly number[];
	/** What the pattern repeats after, where it does. */
	readonly module?: number;
}

function linesOf(spacing: PlainSpacing, multiple: number, length: number, closed: boolean): Base {
	switch (spacing.kind) {
		case 'off':
			return { lines: [0, length] };
		case 'count':
			return evenLines(upTo(spacing.count, multiple), length);
		case 'at-most':
			return evenLines(upTo(Math.ceil((length - COINCIDENT_MM) / spacing.module), multiple), length);
		case 'module': {
			const { module, remainder } = spacing;
			const whole = Math.floor((length + COINCIDENT_MM) / module);
			if (whole < 1)
				throw fault(
					`a module of ${mm(module)} is longer than the face, which measures ${mm(length)}. Right would be at most ${mm(length)}`
				);
			if (remainder === 'shared') return evenLines(Math.max(multiple, whole - (whole % multiple)), length);
			const start = offsetOf(remainder, length - whole * module, closed);
			return { lines: Array.from({ length: whole + 1 }, (_, k) => start + k * module), module };
		}
		case 'list': {
			const widths = spacing.modules.flatMap(({ times, width }) => Array<number>(times).fill(width));
			const total = widths.reduce((a, b) => a + b, 0);
			const left = length - total;
			const shared = spacing.remainder === 'shared';
			if (left < -COINCIDENT_MM && !shared)
				throw fault(
					`the list adds up to ${mm(total)}, the face measures ${mm(length)}: ${mm(-left)} too much. Right would be fewer or narrower widths, or the remainder shared out`
				);
			const scale = shared ? length / total : 1;
			let at = shared ? 0 : offsetOf(spacing.remainder, left, closed);
			return { lines: [at, ...widths.map((w) => (at += w * scale))] };
		}
	}
}

const evenLines = (count: number, length: number): Base => ({
	lines: Array.from({ length: count + 1 }, (_, k) => (k * length) / count),
	module: length / count
});

/** The next multiple from a count on. */
const upTo = (count: number, multiple: number) => Math.ceil(Math.max(1, count) / multiple) * multiple;

/** Where the first whole module begins. Around a closed face both sides of the seam are one. */
const offsetOf = (remainder: Remainder, left: number, closed: boolean) =>
	remainder === 'start' ? left : remainder === 'both' && !closed ? left / 2 : 0;

/** Moves the lines; a pattern that repeats goes on in both directions. */
function shiftLines({ lines, module }: Base, { shift, shiftShare }: Direction, length: number): readonly number[] {
	const by = shift + shiftShare * (module ?? 0);
	if (by === 0) return lines;
	const inner = lines.slice(1, -1).map((p) => p + by);
	if (module === undefined) return inner;
	const first = (((lines[0]! + by) % module) + module) % module;
	return Array.from({ length: Math.ceil(length / module) + 1 }, (_, k) => first + k * module);
}

function mergeNarrow(lines: number[], least: number): number[] {
	if (lines.length > 2 && lines[1]! - lines[0]! < least - COINCIDENT_MM) lines.splice(1, 1);
	if (lines.length > 2 && lines.at(-1)! - lines.at(-2)! < least - COINCIDENT_MM) lines.splice(-2, 1);
	return lines;
}

const mm = (length: number) => `${group(length, 0)} mm`;

const fault = (message: string) => new ZygasterError('setting-out', `This division does not fit: ${message}.`);
