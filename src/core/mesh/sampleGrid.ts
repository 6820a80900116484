import { hypot, norm } from '../elementary/index.ts';
import { loopLength } from './borders.ts';
import type { LaidFace, Pole } from './layOver.ts';
import { MISSED_SHARE } from '../tolerances.ts';

/** Fields of the coarse grid by which lengths are evened out. */
const COARSE = 48;

/** Parameters at which a laid face is taken, evenly spread by mean true length. */
export interface GridLines {
	readonly us: Float64Array;
	readonly vs: Float64Array;
	/** Mean length of the rows and of the columns, mm. */
	readonly across: number;
	readonly up: number;
}

/** Mean true length of rows and columns from the start borders on, at even parameters; mm. */
export interface MeanLengths {
	readonly across: Float64Array;
	readonly up: Float64Array;
}

export const totalOf = (running: Float64Array) => running[COARSE]!;

/** Measures a laid face on a coarse grid. */
export function meanLengths(laid: LaidFace): MeanLengths {
	const even = Float64Array.from({ length: COARSE + 1 }, (_, k) => k / COARSE);
	// Around a seam the last column is the first again.
	const points = sampleLaid(laid, laid.closedAcross ? even.slice(0, -1) : even, even);
	const width = laid.closedAcross ? COARSE : COARSE + 1;
	const at = (i: number, j: number) => (j * width + (i % width)) * 3;
	const far = (a: number, b: number) =>
		hypot(points[a]! - points[b]!, points[a + 1]! - points[b + 1]!, points[a + 2]! - points[b + 2]!);
	const mean = (length: (k: number, line: number) => number) => {
		const running = new Float64Array(COARSE + 1);
		for (let k = 0; k < COARSE; k++) {
			let sum = 0;
			for (let line = 0; line <= COARSE; line++) sum += length(k, line);
			running[k + 1] = running[k]! + sum / (COARSE + 1);
		}
		return running;
	};
	return { across: mean((i, j) => far(at(i, j), at(i + 1, j))), up: mean((j, i) => far(at(i, j), at(i, j + 1))) };
}

/** The lines of an evened grid. On a closed face the last column stands before the first. */
export function evenLines(
	{ across, up }: MeanLengths,
	closedAcross: boolean,
	columns: number,
	rows: number
): GridLines {
	const spread = (running: Float64Array, n: number, closed: boolean) =>
		Float64Array.from({ length: n }, (_, k) => inverse(running, (totalOf(running) * k) / (closed ? n : n - 1)));
	return {
		us: spread(across, columns, closedAcross),
		vs: spread(up, rows, false),
		across: totalOf(across),
		up: totalOf(up)
	};
}

/** Share at which a running length reaches a value. */
function inverse(running: Float64Array, value: number): number {
	let k = 0;
	while (k < COARSE - 1 && running[k + 1]! < value) k++;
	const step = running[k + 1]! - running[k]!;
	return Math.min(1, (k + (step > 0 ? (value - running[k]!) / step : 0)) / COARSE);
}

/** Where parameters stand among lines: a whole line and the share on to the next. */
export function placeAmong(lines: Float64Array, value: number, closed: boolean): number {
	let [low, high] = [0, lines.length];
	while (high - low > 1) {
		const middle = (low + high) >> 1;
		if (lines[middle]! <= value) low = middle;
		else high = middle;
	}
	const next = low + 1 < lines.length ? lines[low + 1]! : closed ? 1 : lines[low]! + 1;
	return low + (value - lines[low]!) / (next - lines[low]!);
}

/** Points on the mesh at every pair of `us` x `vs`, both rising within [0, 1]; mm, stride 3, row by row. */
export function sampleLaid(laid: LaidFace, us: Float64Array, vs: Float64Array): Float64Array {
	const points = new Float64Array(us.length * vs.length * 3);
	const [low, high] = capShares(laid);
	// Rows in the parameters of the mesh's own vertices; those of the caps lie outside [0, 1].
	const inner = vs.map((v) => (v - low) / (1 - low - high));
	fillFromTriangles(laid, us, inner, points);
	if (laid.poles)
		inner.forEach((v, j) => {
			if (v > 0 && v < 1) return;
			const { bottom, top } = laid.poles!;
			us.forEach((u, i) => {
				const k = (j * us.length + i) * 3;
				if (v <= 0) towardsPole(laid, bottom, u, low === 0 ? 0 : -v * ((1 - low - high) / low), points, k);
				else towardsPole(laid, top, 1 - u, high === 0 ? 0 : (v - 1) * ((1 - low - high) / high), points, k);
			});
		});
	return points;
}

/** Parameters of the mesh's vertices, caps counted in. */
export function vertexShares(laid: LaidFace): { u: Float64Array; v: Float64Array } {
	const [low, high] = capShares(laid);
	return { u: laid.u, v: laid.v.map((v) => low + v * (1 - low - high)) };
}

/** Shares of the way up that lie between a ball's ends and the rings around them. */
function capShares({ poles, mesh }: LaidFace): [number, number] {
	if (!poles) return [0, 0];
	const reach = ({ position, ring }: Pole) =>
		ring.vertices.reduce((sum, v) => sum + norm([0, 1, 2].map((c) => mesh.positions[v * 3 + c]! - position[c]!)), 0) /
		ring.vertices.length;
	const [low, high] = [reach(poles.bottom), reach(poles.top)];
	const way = norm([0, 1, 2].map((c) => poles.top.position[c]! - poles.bottom.position[c]!)) * (Math.PI / 2);
	return [low / way, high / way];
}

/** On the straight line from the ring, at its share `u`, to the pole: `t` from 0 at the ring to 1. */
function towardsPole({ mesh }: LaidFace, pole: Pole, u: number, t: number, points: Float64Array, k: number): void {
	const { vertices, running } = pole.ring;
	const way = (u % 1) * loopLength(pole.ring);
	let i = 0;
	while (i < vertices.length - 1 && running[i + 1]! < way) i++;
	const s = (way - running[i]!) / (running[i + 1]! - running[i]!);
	const [a, b] = [vertices[i]! * 3, vertices[(i + 1) % vertices.length]! * 3];
	for (let c = 0; c < 3; c++) {
		const ring = mesh.positions[a + c]! * (1 - s) + mesh.positions[b + c]! * s;
		points[k + c] = ring + (pole.position[c]! - ring) * Math.min(1, t);
	}
}

/** Each point from the triangle that holds it best. O(triangles + points). */
function fillFromTriangles(
	{ mesh, normals, u, v, jump }: LaidFace,
	us: Float64Array,
	vs: Float64Array,
	points: Float64Array
): void {
	const { positions, triangles } = mesh;
	const held = new Float64Array(us.length * vs.length).fill(-Infinity);
	for (let s = 0; s < triangles.length; s += 3) {
		const [a, b, c] = [triangles[s]!, triangles[s + 1]!, triangles[s + 2]!];
		const [ua, ub, uc] = [u[a]! + (jump?.[s] ?? 0), u[b]! + (jump?.[s + 1] ?? 0), u[c]! + (jump?.[s + 2] ?? 0)];
		const [va, vb, vc] = [v[a]!, v[b]!, v[c]!];
		const area = (ub - ua) * (vc - va) - (uc - ua) * (vb - va);
		if (!(Math.abs(area) > 0)) continue;
		const [j0, j1] = within(vs, Math.min(va, vb, vc), Math.max(va, vb, vc));
		const [least, most] = [Math.min(ua, ub, uc), Math.max(ua, ub, uc)];
		// A triangle over the seam holds points at both ends of the rows.
		for (let turn = 0; turn <= (most > 1 ? 1 : 0); turn++) {
			const [i0, i1] = within(us, least - turn, most - turn);
			for (let j = j0; j < j1; j++)
				for (let i = i0; i < i1; i++) {
					const [pu, pv] = [us[i]! + turn - ua, vs[j]! - va];
					const wb = (pu * (vc - va) - (uc - ua) * pv) / area;
					const wc = ((ub - ua) * pv - pu * (vb - va)) / area;
					const worst = Math.min(wb, wc, 1 - wb - wc);
					const k = j * us.length + i;
					if (worst <= held[k]!) continue;
					held[k] = worst;
					curvedPoint(positions, normals, [a, b, c], [1 - wb - wc, wb, wc], points, k * 3);
				}
		}
	}
}

/** Indices of the lines from `least` to `most`, both included but for rounding; the second is exclusive. */
function within(lines: Float64Array, least: number, most: number): [number, number] {
	const first = (value: number) => {
		let [low, high] = [0, lines.length];
		while (low < high) {
			const middle = (low + high) >> 1;
			if (lines[middle]! < value) low = middle + 1;
			else high = middle;
		}
		return low;
	};
	return [first(least - MISSED_SHARE), first(most + MISSED_SHARE)];
}

/** How far a point is moved from the triangle towards the tangent planes at its corners: half is right for a ball. */
const CURVING = 0.5;

/**
 * A point of a triangle bent as its corners' normals tell, so that the face passes where the mesh's
 * vertices do and not where its chords cut short. Source: Boubekeur & Alexa, Phong Tessellation, 2008.
 */
function curvedPoint(
	positions: Float64Array,
	normals: Float64Array,
	corners: readonly [number, number, number],
	weights: readonly [number, number, number],
	points: Float64Array,
	k: number
): void {
	for (let x = 0; x < 3; x++) {
		let sum = 0;
		for (let i = 0; i < 3; i++) sum += positions[corners[i]! * 3 + x]! * weights[i]!;
		points[k + x] = sum;
	}
	const [px, py, pz] = [points[k]!, points[k + 1]!, points[k + 2]!];
	for (let i = 0; i < 3; i++) {
		const o = corners[i]! * 3;
		const [nx, ny, nz] = [normals[o]!, normals[o + 1]!, normals[o + 2]!];
		const off = (positions[o]! - px) * nx + (positions[o + 1]! - py) * ny + (positions[o + 2]! - pz) * nz;
		const by = CURVING * weights[i]! * off;
		points[k]! += nx * by;
		points[k + 1]! += ny * by;
		points[k + 2]! += nz * by;
	}
}
