import { square } from '../elementary/index.ts';
import { evaluateGridSpeeds } from '../geometry/evaluate.ts';
import {
	creasesOf,
	GAUSS_POINTS,
	GAUSS_WEIGHTS,
	halvedPanels,
	panelBorders,
	withCreases
} from '../geometry/quadrature.ts';
import type { PatchGrid } from '../geometry/patches.ts';
import { swapDirections, type Surface } from '../geometry/surface.ts';
import { CHART_MM, CHART_SEPARABLE, COINCIDENT_MM, SAME_PANEL } from '../tolerances.ts';

/**
 * A share of true length over the parameters of a face, tabulated at the panel corners with its exact
 * derivatives. Arrays have index `j * us.length + i`.
 */
export interface ShareTable {
	readonly value: Float64Array;
	readonly byU: Float64Array;
	readonly byV: Float64Array;
	readonly byUV: Float64Array;
}

/**
 * Where a point lies along the row and the column through it, by true length: component 0 is 0 at the
 * start border and 1 at the end border of the row, component 1 likewise along the column. Bicubic
 * Hermite interpolation of exact values and derivatives.
 */
export interface LengthChart {
	/** What `shares` is made of, across and up. */
	readonly tables: readonly [ShareTable, ShareTable];
	readonly shares: PatchGrid;
	/** True lengths of the rows at the panel borders `shares.vs`, mm. */
	readonly rowLengths: Float64Array;
	/** True lengths of the columns at the panel borders `shares.us`, mm. */
	readonly columnLengths: Float64Array;
	/** How fast those lengths change, by v and by u. */
	readonly rowSlopes: Float64Array;
	readonly columnSlopes: Float64Array;
	/** True when the share across depends on u alone and the share up on v alone: the nodes form a tensor grid. */
	readonly separable: boolean;
}

/**
 * Measures a face: as finely as its shares are right to within the model's tolerance. At creases the borders of panels
 * stand twice, since shares change at other rates on both sides. Cost: some thousand surface points, whatever the
 * number of cells.
 */
export function chartLengths(surface: Surface): LengthChart {
	let us = panelBorders(surface.knotsU, surface.degreeU);
	let vs = panelBorders(surface.knotsV, surface.degreeV);
	const [creasesU, creasesV] = [creasesOf(surface.knotsU, surface.degreeU), creasesOf(surface.knotsV, surface.degreeV)];
	for (;;) {
		const { tables, ...measured } = measure(surface, withCreases(us, creasesU), withCreases(vs, creasesV));
		// The nodes of faces whose rows are alike are found exactly, without the chart.
		const separable = isSeparable(tables);
		const finer = (
			[
				['u', us],
				['v', vs]
			] as const
		).map(([direction, borders]) => {
			let finest = borders;
			let off = separable
				? 0
				: Math.max(offCoarser(tables, measured, direction, 0), offCoarser(tables, measured, direction, 1));
			for (; off > CHART_MM && finest.length <= MOST_PANELS; off /= FOURTH_POWER) finest = halvedPanels(finest);
			return finest;
		}) as [Float64Array, Float64Array];
		if (finer[0] === us && finer[1] === vs) return chartOf(tables, measured);
		[us, vs] = finer;
	}
}

/** What errors fall by where panels are half as wide. */
const FOURTH_POWER = 16;

/** Panels of a direction above which a face is not measured more finely. */
const MOST_PANELS = 80;

/**
 * How far a chart of twice as wide panels would be off in a direction, mm, over 16: about what this one is off, since
 * errors fall with the fourth power. 0 where panels cannot be taken by twos.
 */
function offCoarser(
	tables: LengthChart['tables'],
	{ shares: { us, vs }, rowLengths, columnLengths }: Measured,
	direction: 'u' | 'v',
	component: 0 | 1
): number {
	const { value, byU, byV } = tables[component];
	const n = us.length;
	const borders = direction === 'u' ? us : vs;
	const [stride, others, slope] = direction === 'u' ? [1, vs.length, byU] : [n, n, byV];
	let most = 0;
	for (let other = 0; other < others; other++) {
		const start = direction === 'u' ? other * n : other;
		for (let k = 0; k + 2 < borders.length; k++) {
			const [h, l] = [borders[k + 2]! - borders[k]!, borders[k + 1]! - borders[k]!];
			// Only the middle of two panels that are as wide tells.
			if (!(l > 0) || Math.abs(h - 2 * l) > l * SAME_PANEL) continue;
			const [a, m, b] = [start + k * stride, start + (k + 1) * stride, start + (k + 2) * stride];
			const between = (value[a]! + value[b]!) / 2 + ((slope[a]! - slope[b]!) * h) / 8;
			const length = component === 0 ? rowLengths[Math.floor(m / n)]! : columnLengths[m % n]!;
			most = Math.max(most, (Math.abs(between - value[m]!) * length) / FOURTH_POWER);
		}
	}
	return most;
}

function measure(surface: Surface, us: Float64Array, vs: Float64Array): Measured & Pick<LengthChart, 'tables'> {
	const rows = measureRows(surface, us, vs);
	const columns = measureRows(swapDirections(surface), vs, us);
	const up = transposeTable(columns.table, vs.length, us.length);
	return {
		tables: [rows.table, up],
		shares: { us, vs },
		rowLengths: rows.lengths,
		columnLengths: columns.lengths,
		rowSlopes: rows.slopes,
		columnSlopes: columns.slopes
	};
}

const isSeparable = (tables: LengthChart['tables']) => isFlat(tables[0].byV) && isFlat(tables[1].byU);

type Measured = Pick<LengthChart, 'rowLengths' | 'columnLengths' | 'rowSlopes' | 'columnSlopes'> & {
	readonly shares: Pick<PatchGrid, 'us' | 'vs'>;
};

/** A chart of any two measures, tabulated at the panel borders of a measured face. */
export function chartOf(tables: readonly [ShareTable, ShareTable], measured: Measured): LengthChart {
	const { us, vs } = measured.shares;
	return { ...measured, tables, shares: hermitePatches(us, vs, tables), separable: isSeparable(tables) };
}

/** Bicubic Hermite patches through tables of values and derivatives. */
export function hermitePatches(us: Float64Array, vs: Float64Array, tables: readonly ShareTable[]): PatchGrid {
	const nu = us.length;
	const factors = new Float64Array((nu - 1) * (vs.length - 1) * tables.length * 16);
	/** Cubics along u below and above, of the values and of what they change by upwards: four powers each. */
	const along = new Float64Array(16);
	let o = 0;
	for (let j = 0; j + 1 < vs.length; j++)
		for (let i = 0; i + 1 < nu; i++) {
			const k = j * nu + i;
			const [hu, hv] = [us[i + 1]! - us[i]!, vs[j + 1]! - vs[j]!];
			for (const { value, byU, byV, byUV } of tables) {
				hermiteInto(along, 0, value[k]!, value[k + 1]!, byU[k]! * hu, byU[k + 1]! * hu);
				hermiteInto(along, 4, value[k + nu]!, value[k + nu + 1]!, byU[k + nu]! * hu, byU[k + nu + 1]! * hu);
				hermiteInto(along, 8, byV[k]!, byV[k + 1]!, byUV[k]! * hu, byUV[k + 1]! * hu);
				hermiteInto(along, 12, byV[k + nu]!, byV[k + nu + 1]!, byUV[k + nu]! * hu, byUV[k + nu + 1]! * hu);
				for (let m = 0; m < 4; m++, o += 4)
					hermiteInto(factors, o, along[m]!, along[4 + m]!, along[8 + m]! * hv, along[12 + m]! * hv);
			}
		}
	return { us, vs, degreeU: 3, degreeV: 3, components: tables.length, factors };
}

function hermiteInto(out: Float64Array, o: number, f0: number, f1: number, s0: number, s1: number): void {
	out[o] = f0;
	out[o + 1] = s0;
	out[o + 2] = 3 * (f1 - f0) - 2 * s0 - s1;
	out[o + 3] = 2 * (f0 - f1) + s0 + s1;
}

/** The cubic on [0, 1] with these values and slopes at its ends, in powers. */
export const hermitePowers = (f0: number, f1: number, s0: number, s1: number) => [
	f0,
	s0,
	3 * (f1 - f0) - 2 * s0 - s1,
	2 * (f0 - f1) + s0 + s1
];

function measureRows(surface: Surface, us: Float64Array, vs: Float64Array) {
	const nu = us.length;
	const inner = new Float64Array((nu - 1) * 4);
	for (let i = 0; i + 1 < nu; i++)
		for (let g = 0; g < 4; g++) inner[i * 4 + g] = us[i]! + (us[i + 1]! - us[i]!) * GAUSS_POINTS[g]!;
	const between = evaluateGridSpeeds(surface, inner, vs);
	const corners = evaluateGridSpeeds(surface, us, vs);
	const size = nu * vs.length;
	const table = {
		value: new Float64Array(size),
		byU: new Float64Array(size),
		byV: new Float64Array(size),
		byUV: new Float64Array(size)
	};
	const lengths = new Float64Array(vs.length);
	const slopes = new Float64Array(vs.length);
	for (let j = 0; j < vs.length; j++) {
		const row = integrateRow(between.du, between.duv, us, j);
		lengths[j] = row.length;
		// A row that has shrunk to a point takes its shares from the rows beside it, by the mixed derivative.
		const pole = row.length < COINCIDENT_MM;
		const shares = pole ? integrateRow(between.duv, between.duv, us, j) : row;
		slopes[j] = pole ? (j === 0 ? shares.length : -shares.length) : row.lengthByV;
		const velocity = pole ? corners.duv : corners.du;
		for (let i = 0; i < nu; i++) {
			const k = j * nu + i;
			const speed = lengthAt(velocity, k);
			const byU = speed / shares.length;
			table.value[k] = shares.running[i]! / shares.length;
			table.byU[k] = byU;
			if (pole) continue;
			const speedByV = dotAt(corners.du, corners.duv, k) / speed;
			table.byV[k] = (row.runningByV[i]! - table.value[k]! * row.lengthByV) / row.length;
			table.byUV[k] = (speedByV - byU * row.lengthByV) / row.length;
		}
	}
	return { table, lengths, slopes };
}

/** Running length of row `j` at each panel border, and its derivative by v. */
function integrateRow(du: Float64Array, duv: Float64Array, us: Float64Array, j: number) {
	const nu = us.length;
	const running = new Float64Array(nu);
	const runningByV = new Float64Array(nu);
	for (let i = 0; i + 1 < nu; i++) {
		const width = us[i + 1]! - us[i]!;
		let sum = 0;
		let sumByV = 0;
		for (let g = 0; g < 4; g++) {
			const k = j * (nu - 1) * 4 + i * 4 + g;
			const speed = lengthAt(du, k);
			sum += GAUSS_WEIGHTS[g]! * speed;
			if (speed > 0) sumByV += (GAUSS_WEIGHTS[g]! * dotAt(du, duv, k)) / speed;
		}
		running[i + 1] = running[i]! + width * sum;
		runningByV[i + 1] = runningByV[i]! + width * sumByV;
	}
	return { running, runningByV, length: running[nu - 1]!, lengthByV: runningByV[nu - 1]! };
}

const lengthAt = (a: Float64Array, k: number) =>
	Math.sqrt(square(a[k * 3]!) + square(a[k * 3 + 1]!) + square(a[k * 3 + 2]!));

const dotAt = (a: Float64Array, b: Float64Array, k: number) =>
	a[k * 3]! * b[k * 3]! + a[k * 3 + 1]! * b[k * 3 + 1]! + a[k * 3 + 2]! * b[k * 3 + 2]!;

function isFlat(derivative: Float64Array): boolean {
	return derivative.every((d) => Math.abs(d) < CHART_SEPARABLE);
}

/** A table measured with the directions changed over, turned back: its u is our v. */
function transposeTable(table: ShareTable, nu: number, nv: number): ShareTable {
	const turn = (from: Float64Array) => {
		const to = new Float64Array(from.length);
		for (let j = 0; j < nv; j++) for (let i = 0; i < nu; i++) to[i * nv + j] = from[j * nu + i]!;
		return to;
	};
	return {
		value: turn(table.value),
		byU: turn(table.byV),
		byV: turn(table.byU),
		byUV: turn(table.byUV)
	};
}
