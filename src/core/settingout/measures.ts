import { atan2, cos, sin } from '../elementary/index.ts';
import { ZygasterError } from '../errors.ts';
import { evaluateGrid } from '../geometry/evaluate.ts';
import type { Point } from '../geometry/curve.ts';
import { PatchCursor } from '../geometry/patches.ts';
import { surfacePatches } from '../geometry/surfacePatches.ts';
import type { Surface } from '../geometry/surface.ts';
import { COINCIDENT_MM, LEVEL_SLOPE } from '../tolerances.ts';
import type { LengthChart, ShareTable } from './lengthChart.ts';
import type { Spacing } from './spacing.ts';

/** A number at every point of space whose level sets cut a face into lines. */
export interface Measure {
	/** Value at a point, and its slopes by x, y and z. */
	readonly at: (p: Point) => { readonly value: number; readonly slope: Point };
	/** Values this far apart are the same; none for mm. */
	readonly period?: number;
	/** What it is, for messages: `levels`. */
	readonly name: string;
}

/** The measure whose level sets a spacing follows; none for spacings along the face itself. */
export function measureOf(spacing: Spacing): Measure | undefined {
	switch (spacing.kind) {
		case 'levels':
			return planes([0, 0, 1], 'levels');
		case 'planes':
			return spacing.upright
				? planes([sin(spacing.bearing), cos(spacing.bearing), 0], 'planes')
				: planes([0, 0, 1], 'planes');
		case 'radial':
			return bearings(spacing.x, spacing.y);
		default:
			return undefined;
	}
}

const planes = (normal: Point, name: string): Measure => ({
	at: (p) => ({ value: p[0] * normal[0] + p[1] * normal[1] + p[2] * normal[2], slope: normal }),
	name
});

/** Bearing seen from an upright axis, clockwise from north. */
const bearings = (x: number, y: number): Measure => ({
	at: (p) => {
		const [a, b] = [p[0] - x, p[1] - y];
		const square = Math.max(a * a + b * b, COINCIDENT_MM);
		return { value: atan2(a, b), slope: [b / square, -a / square, 0] };
	},
	period: 2 * Math.PI,
	name: 'radial planes'
});

/** A measure over a face, from 0 to 1 over the values that occur, rising along its direction. */
export interface FaceMeasure {
	readonly table: ShareTable;
	/** Least and greatest value on the face. */
	readonly least: number;
	readonly greatest: number;
	/** +1 where the measure rises along the direction, -1 where it falls. */
	readonly sign: 1 | -1;
	readonly measure: Measure;
}

/** Tabulates a measure. Throws a ZygasterError where it rises and falls along the direction. */
export function measureFace(
	surface: Surface,
	{ shares }: LengthChart,
	measure: Measure,
	direction: 'across' | 'up'
): FaceMeasure {
	const { us, vs } = shares;
	const { position, du, dv, duv } = evaluateGrid(surface, us, vs);
	const count = us.length * vs.length;
	const table = {
		value: new Float64Array(count),
		byU: new Float64Array(count),
		byV: new Float64Array(count),
		byUV: new Float64Array(count)
	};
	for (let k = 0; k < count; k++) {
		const { value, slope } = measure.at([position[k * 3]!, position[k * 3 + 1]!, position[k * 3 + 2]!]);
		const along = (d: Float64Array) => d[k * 3]! * slope[0] + d[k * 3 + 1]! * slope[1] + d[k * 3 + 2]! * slope[2];
		const before = k % us.length > 0 ? k - 1 : k - us.length;
		table.value[k] = measure.period && before >= 0 ? nearest(value, table.value[before]!, measure.period) : value;
		table.byU[k] = along(du);
		table.byV[k] = along(dv);
		table.byUV[k] = along(duv);
	}
	const slopes = direction === 'across' ? table.byU : table.byV;
	const steepest = slopes.reduce((m, s) => Math.max(m, Math.abs(s)), 0);
	const rises = slopes.every((s) => s > -LEVEL_SLOPE * steepest);
	if (steepest === 0 || (!rises && !slopes.every((s) => s < LEVEL_SLOPE * steepest)))
		throw new ZygasterError(
			'setting-out',
			`The ${measure.name} do not cut this face one after the other ${direction}: it ${steepest === 0 ? 'lies along them' : 'turns back on its way'}. Right would be a spacing along the face, or planes that each line ${direction} crosses once.`
		);
	return normalised(table, rises ? 1 : -1, measure);
}

function normalised(table: ShareTable, sign: 1 | -1, measure: Measure): FaceMeasure {
	const least = table.value.reduce((m, x) => Math.min(m, x), Infinity);
	const greatest = table.value.reduce((m, x) => Math.max(m, x), -Infinity);
	const scale = sign / (greatest - least);
	const offset = sign > 0 ? least : greatest;
	return {
		table: {
			value: table.value.map((x) => (x - offset) * scale),
			byU: table.byU.map((x) => x * scale),
			byV: table.byV.map((x) => x * scale),
			byUV: table.byUV.map((x) => x * scale)
		},
		least,
		greatest,
		sign,
		measure
	};
}

/** The value nearest to another among those a period apart. */
export const nearest = (value: number, to: number, period: number) =>
	value + Math.round((to - value) / period) * period;

/** Steps of Newton's method that bring a node from the chart's cubic pieces onto the plane itself. */
const POLISH_STEPS = 3;

/**
 * Moves points (`us`, `vs`) so that their measures have exactly the values `target`, each kept along the other
 * direction's chart. Points on a border of their own direction (value not between 0 and 1) stay. In place.
 */
export function polishInPlace(
	surface: Surface,
	chart: LengthChart,
	measures: readonly [FaceMeasure | undefined, FaceMeasure | undefined],
	target: (place: number, direction: 0 | 1) => number,
	us: Float64Array,
	vs: Float64Array
): void {
	const points = new PatchCursor(surfacePatches(surface));
	const shares = new PatchCursor(chart.shares);
	const [u0, u1] = [chart.shares.us[0]!, chart.shares.us.at(-1)!];
	const [v0, v1] = [chart.shares.vs[0]!, chart.shares.vs.at(-1)!];
	const row = new Float64Array(6);
	for (let k = 0; k < us.length; k++) {
		const targets = [target(k, 0), target(k, 1)];
		for (let step = 0; step < POLISH_STEPS; step++) {
			const [u, v] = [us[k]!, vs[k]!];
			shares.evaluate(u, v);
			points.evaluate(u, v);
			for (let d = 0; d < 2; d++) residualInPlace(row, d, measures[d], targets[d]!, shares.out, points.out);
			const stuck = [u === u0 || u === u1, v === v0 || v === v1];
			const [a, b, r, c, e, q] = row as unknown as number[] as [number, number, number, number, number, number];
			// On a border only the way along it is left.
			const scale = stuck[0] || stuck[1] ? 0 : 1 / (a * e - b * c);
			const goU = stuck[0] ? 0 : stuck[1] ? r / a : (r * e - b * q) * scale;
			const goV = stuck[1] ? 0 : stuck[0] ? q / e : (a * q - r * c) * scale;
			us[k] = Math.max(u0, Math.min(u1, u + goU));
			vs[k] = Math.max(v0, Math.min(v1, v + goV));
		}
	}
}

/** Slopes by u and v of one direction's measure and what it is short of its target: three numbers from `3 d` on. */
function residualInPlace(
	row: Float64Array,
	d: number,
	face: FaceMeasure | undefined,
	target: number,
	shares: Float64Array,
	h: Float64Array
): void {
	if (!face) {
		row[3 * d] = shares[2 + d]!;
		row[3 * d + 1] = shares[4 + d]!;
		row[3 * d + 2] = target - shares[d]!;
		return;
	}
	const { measure, least, greatest, sign } = face;
	const w = 1 / h[3]!;
	const p: Point = [h[0]! * w, h[1]! * w, h[2]! * w];
	const { value, slope } = measure.at(p);
	const scale = sign / (greatest - least);
	const wanted = (sign > 0 ? least : greatest) + target / scale;
	const by = (o: number) =>
		scale *
		w *
		(slope[0] * (h[o]! - h[o + 3]! * p[0]) +
			slope[1] * (h[o + 1]! - h[o + 3]! * p[1]) +
			slope[2] * (h[o + 2]! - h[o + 3]! * p[2]));
	row[3 * d] = by(4);
	row[3 * d + 1] = by(8);
	row[3 * d + 2] = scale * (wanted - (measure.period ? nearest(value, wanted, measure.period) : value));
}
