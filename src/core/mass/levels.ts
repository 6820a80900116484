import { ZygasterError } from '../errors.ts';
import type { Settled } from './shapeKind.ts';

/** Height of each level by its id, mm. */
export type LevelHeights = ReadonlyMap<string, number>;

/**
 * A copy of a value in which every height that hangs on a level is a number: the level's height, plus
 * what is added above it, less the height at which the mass itself stands. Throws a ZygasterError with
 * code `level` for a level that is not there.
 */
export function settleHeights<T>(value: T, levels: LevelHeights, standing = 0): Settled<T> {
	return settle(value, levels, standing) as Settled<T>;
}

function settle(value: unknown, levels: LevelHeights, standing: number): unknown {
	if (typeof value !== 'object' || value === null) return value;
	if (Array.isArray(value)) return value.map((v) => settle(v, levels, standing));
	const { level, above } = value as { level?: string; above?: number };
	if (typeof level !== 'string' || typeof above !== 'number')
		return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, settle(v, levels, standing)]));
	const at = levels.get(level);
	if (at === undefined)
		throw new ZygasterError('level', `there is no level “${level}”; known: ${[...levels.keys()].join(', ') || 'none'}`);
	return at + above - standing;
}
