import { hypot } from '../elementary/index.ts';
import { ZygasterError } from '../errors.ts';
import { PatchCursor } from '../geometry/patches.ts';
import { COINCIDENT_MM, PARALLEL_SINE } from '../tolerances.ts';
import { group } from '../units/print.ts';
import { developmentOf, findFlat, type ChartedFace } from './development.ts';
import { isPlain, layLines } from './layLines.ts';
import type { ShareTable } from './lengthChart.ts';
import { measureFace, measureOf, nearest, type FaceMeasure } from './measures.ts';
import type { Direction, Lay, Spacing } from './spacing.ts';

/** A named height, mm. */
export interface LevelHeight {
	readonly id: string;
	readonly name: string;
	readonly height: number;
}

export type DirectionName = 'across' | 'up';

/** One direction of a face, divided. */
export interface LaidDirection {
	readonly count: number;
	/** Values of the direction's measure at the lines, rising from 0 to 1; both borders are lines. */
	readonly values: Float64Array;
	readonly table: ShareTable;
	/** The measure that the lines are level sets of, where they are not shares of the face itself. */
	readonly measure?: FaceMeasure;
	/** Where the lines are on the row (or column) that modules are laid on, mm from its start. */
	readonly lines?: Float64Array;
	readonly notes: readonly string[];
}

/** Lays one direction. Throws a ZygasterError with code `setting-out` where it does not fit. */
export function layDirection(
	face: ChartedFace,
	name: DirectionName,
	direction: Direction,
	levels: readonly LevelHeight[]
): LaidDirection {
	const { spacing } = direction;
	const table =
		direction.measure === 'parameter' ? parameterTable(face, name) : face.chart.tables[name === 'across' ? 0 : 1];
	if (isPlain(spacing)) {
		const length = referenceLength(face, name, direction);
		const lines = layLines(
			{ ...direction, spacing },
			length,
			name === 'across' ? face.ends.closedAcross : face.ends.closedUp
		);
		const values = lines.map((p) => p / length);
		values[values.length - 1] = 1;
		return { count: lines.length - 1, values, lines, table, notes: [] };
	}
	if (spacing.kind === 'curve') return layCurve(face, name, spacing, table);
	return layMeasure(face, name, direction, levels);
}

/** Length of the row (or column) that modules are laid on, mm. */
export function referenceLength(
	{ chart }: Pick<ChartedFace, 'chart'>,
	name: DirectionName,
	{ along }: Pick<Direction, 'along'>
): number {
	const lengths = name === 'across' ? chart.rowLengths : chart.columnLengths;
	const last = lengths.length - 1;
	const length = {
		start: lengths[0]!,
		middle: lengths[last >> 1]!,
		end: lengths[last]!,
		longest: Math.max(...lengths)
	}[along];
	if (length < COINCIDENT_MM)
		throw new ZygasterError(
			'setting-out',
			`The ${name === 'across' ? 'row' : 'column'} that modules are laid on has run to a point. Right would be the longest one.`
		);
	return length;
}

/** Shares of the surface's own parameter. */
function parameterTable({ chart }: ChartedFace, name: DirectionName): ShareTable {
	const { us, vs } = chart.shares;
	const along = name === 'across' ? us : vs;
	const range = along.at(-1)! - along[0]!;
	const count = us.length * vs.length;
	const value = new Float64Array(count);
	for (let k = 0; k < count; k++) {
		const t = name === 'across' ? us[k % us.length]! : vs[Math.floor(k / us.length)]!;
		value[k] = (t - along[0]!) / range;
	}
	const slope = new Float64Array(count).fill(1 / range);
	const none = new Float64Array(count);
	return { value, byU: name === 'across' ? slope : none, byV: name === 'up' ? slope : none, byUV: none };
}

/** Lines through points at equal lengths along a line drawn on the developed view. */
function layCurve(
	face: ChartedFace,
	name: DirectionName,
	spacing: Extract<Spacing, { kind: 'curve' }>,
	table: ShareTable
): LaidDirection {
	const { points, divisions } = spacing;
	const steps = points.slice(1).map((p, k) => hypot(p[0] - points[k]![0], p[1] - points[k]![1]));
	const total = steps.reduce((a, b) => a + b, 0);
	if (total < COINCIDENT_MM)
		throw new ZygasterError(
			'setting-out',
			'The line that the grid goes through has no length. Right would be a line from one side of the face to the other.'
		);
	const cursor = new PatchCursor(face.chart.shares);
	const shares: number[] = [];
	for (let k = 0; k <= divisions; k++) {
		const at = pointAlong(points, steps, (total * k) / divisions);
		const found = findFlat(developmentOf(face), at[0], at[1]);
		if (!found) continue;
		cursor.evaluate(found.u, found.v);
		shares.push(cursor.out[name === 'across' ? 0 : 1]!);
	}
	const length = referenceLength(face, name, { along: 'longest' });
	const inside = shares
		.sort((a, b) => a - b)
		.filter(
			(s, k) =>
				s * length > COINCIDENT_MM &&
				(1 - s) * length > COINCIDENT_MM &&
				(k === 0 || (s - shares[k - 1]!) * length > COINCIDENT_MM)
		);
	if (inside.length === 0)
		throw new ZygasterError(
			'setting-out',
			`The line that the grid goes through meets the face nowhere between its borders ${name}. Right would be a line that runs ${name} the face.`
		);
	const values = Float64Array.from([0, ...inside, 1]);
	return { count: values.length - 1, values, table, lines: values.map((s) => s * length), notes: [] };
}

function pointAlong(
	points: readonly (readonly [number, number])[],
	steps: readonly number[],
	way: number
): [number, number] {
	let left = way;
	let k = 0;
	while (k < steps.length - 1 && left > steps[k]!) left -= steps[k++]!;
	const share = steps[k]! > 0 ? left / steps[k]! : 0;
	const [a, b] = [points[k]!, points[k + 1]!];
	return [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];
}

/** Lines along the level sets of a measure, with the borders before the first and after the last. */
function layMeasure(
	face: ChartedFace,
	name: DirectionName,
	direction: Direction,
	levels: readonly LevelHeight[]
): LaidDirection {
	const measure = measureFace(face.surface, face.chart, measureOf(direction.spacing)!, name);
	const { least, greatest, sign } = measure;
	const { places, notes } = placesOf(direction.spacing, measure, levels);
	const gap = Math.max(COINCIDENT_MM, direction.leastRemainder);
	const margin = measure.measure.period ? PARALLEL_SINE : gap;
	const inside = [...new Set(places)]
		.filter((p) => p > least + margin && p < greatest - margin)
		.sort((a, b) => sign * (a - b));
	if (inside.length === 0)
		throw new ZygasterError(
			'setting-out',
			`None of the ${measure.measure.name} cuts this face: it runs from ${show(least, measure)} to ${show(greatest, measure)}. Right would be some between.`
		);
	const scale = sign / (greatest - least);
	const values = Float64Array.from([0, ...inside.map((p) => (p - (sign > 0 ? least : greatest)) * scale), 1]);
	return { count: values.length - 1, values, table: measure.table, measure, notes };
}

function placesOf(
	spacing: Spacing,
	measure: FaceMeasure,
	levels: readonly LevelHeight[]
): { places: number[]; notes: string[] } {
	if (spacing.kind === 'levels') return levelPlaces(spacing, measure, levels);
	const { lay } = spacing as { lay: Lay };
	const { period } = measure.measure;
	if (lay.kind === 'list') return { places: lay.at.flatMap((p) => turns(p, measure)), notes: [] };
	const from = Math.ceil((measure.least - lay.first) / lay.every);
	const to = Math.floor((measure.greatest - lay.first) / lay.every);
	const most = period ? Math.min(to, from + Math.round(period / lay.every) - 1) : to;
	if (to - from > 1_000_000)
		throw new ZygasterError(
			'setting-out',
			`${group(to - from, 0)} planes would cut this face. Right would be a wider spacing.`
		);
	return {
		places: Array.from({ length: Math.max(0, most - from + 1) }, (_, k) => lay.first + (from + k) * lay.every),
		notes: []
	};
}

/** A place as it occurs on the face: a bearing may be counted from another turn. */
function turns(place: number, { least, greatest, measure }: FaceMeasure): number[] {
	if (!measure.period) return [place];
	const near = nearest(place, (least + greatest) / 2, measure.period);
	return [near];
}

function levelPlaces(
	{ levels: wanted, divisions }: Extract<Spacing, { kind: 'levels' }>,
	{ least, greatest }: FaceMeasure,
	levels: readonly LevelHeight[]
) {
	const missing = wanted.filter((id) => !levels.some((l) => l.id === id));
	if (missing.length)
		throw new ZygasterError(
			'setting-out',
			`There is no level “${missing.join('”, “')}”; known: ${levels.map((l) => l.id).join(', ') || 'none'}.`
		);
	const used = levels.filter((l) => wanted.length === 0 || wanted.includes(l.id)).sort((a, b) => a.height - b.height);
	const heights = used.flatMap(({ height }, k) => {
		const next = used[k + 1];
		return next
			? Array.from({ length: divisions }, (_, d) => height + ((next.height - height) * d) / divisions)
			: [height];
	});
	const outside = wanted.length
		? used.filter((l) => l.height < least - COINCIDENT_MM || l.height > greatest + COINCIDENT_MM)
		: [];
	const notes = outside.map(
		(l) =>
			`Level “${l.name}” at ${mm(l.height)} does not reach this face, which runs from ${mm(least)} to ${mm(greatest)}; it is left out.`
	);
	return { places: heights, notes };
}

const mm = (length: number) => `${group(length, 0)} mm`;
const show = (value: number, { measure }: FaceMeasure) =>
	measure.period ? `${group((value * 180) / Math.PI, 1)}°` : mm(value);
