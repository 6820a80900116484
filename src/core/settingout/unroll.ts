import { atan2, cos, norm, sin, wholePower } from '../elementary/index.ts';
import { evaluateGrid, type SurfaceSamples } from '../geometry/evaluate.ts';
import type { Point } from '../geometry/curve.ts';
import { GAUSS_POINTS, GAUSS_WEIGHTS } from '../geometry/quadrature.ts';
import type { Surface } from '../geometry/surface.ts';
import { cross, dot, scaled } from '../geometry/vectors.ts';
import { COINCIDENT_MM } from '../tolerances.ts';
import type { ShareTable } from './lengthChart.ts';

/**
 * Lays a face flat by rolling the plane over it: along its middle column, then along every row from there.
 * Lengths and turnings within the face (geodesic curvatures) of those lines are kept; on a face that can be
 * developed all lines keep theirs. Source: do Carmo, Differential Geometry of Curves and Surfaces, 4-4.
 * Answers x and y at the panel borders `us` x `vs`, the middle row level.
 */
export function unroll(surface: Surface, us: Float64Array, vs: Float64Array): [ShareTable, ShareTable] {
	const middle = (us.length - 1) >> 1;
	const column = rollColumn(surface, us[middle]!, vs);
	const level = column.angle[(vs.length - 1) >> 1]!;
	const size = us.length * vs.length;
	const table = (): ShareTable => ({
		value: new Float64Array(size),
		byU: new Float64Array(size),
		byV: new Float64Array(size),
		byUV: new Float64Array(size)
	});
	const [x, y] = [table(), table()];
	const corners = evaluateGrid(surface, us, vs);
	const between = evaluateGrid(surface, gaussBetween(us), vs);
	for (let j = 0; j < vs.length; j++) {
		const ends = frameAt(corners, j * us.length + middle, vs, j);
		const row = rollRow(between, us, vs, j, middle, column.angle[j]! - level + ends.between);
		const [cosine, sine] = [cos(level), sin(level)];
		const [px, py] = [column.x[j]! * cosine + column.y[j]! * sine, column.y[j]! * cosine - column.x[j]! * sine];
		for (let i = 0; i < us.length; i++) {
			const k = j * us.length + i;
			const frame = frameAt(corners, k, vs, j);
			// The way of v in the plane; that of u is behind it by the angle between them.
			const angle = row.angle[i]!;
			const [c, s] = [cos(angle), sin(angle)];
			const uAngle = angle - frame.between;
			x.value[k] = px + row.x[i]!;
			y.value[k] = py + row.y[i]!;
			x.byU[k] = frame.lengthU * cos(uAngle);
			y.byU[k] = frame.lengthU * sin(uAngle);
			x.byV[k] = frame.lengthV * c;
			y.byV[k] = frame.lengthV * s;
			x.byUV[k] = frame.mixedAlong * c - frame.mixedAside * s;
			y.byUV[k] = frame.mixedAlong * s + frame.mixedAside * c;
		}
	}
	return [x, y];
}

/** What a row or column needs at a sample: lengths of the derivatives, the angle from u to v, the mixed derivative beside v. */
function frameAt(samples: SurfaceSamples, k: number, vs?: Float64Array, j = 0) {
	const at = (a: Float64Array): Point => [a[k * 3]!, a[k * 3 + 1]!, a[k * 3 + 2]!];
	const [du, dv, duv] = [at(samples.du), at(samples.dv), at(samples.duv)];
	const [lengthU, lengthV] = [norm(du), norm(dv)];
	// Where the row has run to a point, u runs as on the rows beside it.
	const pole = lengthU < COINCIDENT_MM && vs !== undefined;
	const wayU = pole ? scaled(duv, j === 0 ? 1 : -1) : du;
	const normal = cross(wayU, dv);
	const size = norm(normal) || 1;
	const asideV = scaled(cross(scaled(normal, 1 / size), dv), 1 / (lengthV || 1));
	return {
		du,
		duv,
		lengthU,
		lengthV,
		normal: scaled(normal, 1 / size),
		between: atan2(size, dot(wayU, dv)),
		mixedAlong: dot(duv, dv) / (lengthV || 1),
		mixedAside: dot(duv, asideV)
	};
}

/** The plane rolled along the middle column: its places, and the angle of u there. */
function rollColumn(surface: Surface, u: number, vs: Float64Array) {
	const samples = evaluateGrid(surface, Float64Array.of(u), gaussBetween(vs));
	return roll(vs, 0, 0, (g) => {
		const f = frameAt(samples, g);
		const asideU = scaled(cross(f.normal, f.du), 1 / (f.lengthU || 1));
		return { turning: dot(f.duv, asideU) / (f.lengthU || 1), speed: f.lengthV, ahead: f.between };
	});
}

/** The plane rolled along a row, from its middle both ways: places seen from there, and the angle of v. */
function rollRow(
	between: SurfaceSamples,
	us: Float64Array,
	vs: Float64Array,
	j: number,
	middle: number,
	start: number
) {
	const stride = (us.length - 1) * 4;
	return roll(us, middle, start, (g) => {
		const f = frameAt(between, j * stride + g, vs, j);
		return { turning: f.mixedAside / (f.lengthV || 1), speed: f.lengthU, ahead: -f.between };
	});
}

interface Rolling {
	/** How fast the frame turns, how fast the line runs, and how far ahead of the frame it points. */
	readonly turning: number;
	readonly speed: number;
	readonly ahead: number;
}

/** Integrates angle and place at the panel borders, both ways from the border `from`. */
function roll(borders: Float64Array, from: number, start: number, at: (g: number) => Rolling) {
	const n = borders.length;
	const [angle, x, y] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
	angle[from] = start;
	const panel = (p: number) => {
		const width = borders[p + 1]! - borders[p]!;
		const samples = [0, 1, 2, 3].map((g) => at(p * 4 + g));
		const turned = (weights: readonly number[]) =>
			width * samples.reduce((sum, s, g) => sum + weights[g]! * s.turning, 0);
		return { width, samples, inner: INNER_WEIGHTS.map(turned), whole: turned(GAUSS_WEIGHTS) };
	};
	const go = (p: number, known: number, next: number, sign: number) => {
		const { width, samples, inner, whole } = panel(p);
		const base = sign > 0 ? angle[known]! : angle[known]! - whole;
		let [dx, dy] = [0, 0];
		samples.forEach(({ speed, ahead }, g) => {
			const a = base + inner[g]! + ahead;
			dx += GAUSS_WEIGHTS[g]! * speed * cos(a);
			dy += GAUSS_WEIGHTS[g]! * speed * sin(a);
		});
		angle[next] = angle[known]! + sign * whole;
		x[next] = x[known]! + sign * width * dx;
		y[next] = y[known]! + sign * width * dy;
	};
	for (let p = from; p + 1 < n; p++) go(p, p, p + 1, 1);
	for (let p = from - 1; p >= 0; p--) go(p, p + 1, p, -1);
	return { angle, x, y };
}

function gaussBetween(borders: Float64Array): Float64Array {
	const inner = new Float64Array((borders.length - 1) * 4);
	for (let p = 0; p + 1 < borders.length; p++)
		for (let g = 0; g < 4; g++) inner[p * 4 + g] = borders[p]! + (borders[p + 1]! - borders[p]!) * GAUSS_POINTS[g]!;
	return inner;
}

/** Weights that integrate the cubic through the four Gauss points from 0 to each of them. */
const INNER_WEIGHTS: readonly (readonly number[])[] = GAUSS_POINTS.map((end) =>
	GAUSS_POINTS.map((_, g) => {
		// The basis polynomial of point g in powers, then its integral.
		let powers = [1];
		GAUSS_POINTS.forEach((other, k) => {
			if (k === g) return;
			const scale = 1 / (GAUSS_POINTS[g]! - other);
			const next = Array<number>(powers.length + 1).fill(0);
			powers.forEach((c, m) => {
				next[m]! += -other * c * scale;
				next[m + 1]! += c * scale;
			});
			powers = next;
		});
		return powers.reduce((sum, c, m) => sum + (c * wholePower(end, m + 1)) / (m + 1), 0);
	})
);
