import { norm, square } from '../elementary/index.ts';
import { evaluatePoints } from '../geometry/evaluate.ts';
import { fitSurface, type PointGrid } from '../geometry/fitted.ts';
import { COINCIDENT_MM, MESH_NEAR_MM, MESH_NEAR_SHARE } from '../tolerances.ts';
import type { LaidFace } from './layOver.ts';
import { evenLines, meanLengths, placeAmong, sampleLaid, totalOf, vertexShares, type GridLines } from './sampleGrid.ts';
import { areaVector, meshArea, type TriangleMesh } from './triangleMesh.ts';

/** A face of a mesh as a smooth face, and how well it was laid. */
export interface FittedFace extends PointGrid {
	/** mm2 */
	readonly meshArea: number;
	/** Longer over shorter way that a small square is laid, but for the worst hundredth of the area. */
	readonly stretch: number;
	/** Greatest distance of a vertex from the face, mm, measured square to it. */
	readonly deviation: number;
}

/** Sizes of grids that are tried, points in the longer direction. */
const SIZES = [16, 32, 64, 128, 192];
/** A finer grid must come nearer by this factor to be worth its size. */
const WORTH = 0.7;

/**
 * The smooth face through points of the mesh on the smallest grid that is near enough, but never with
 * more points than the mesh has vertices to tell of.
 */
export function fitFace(laid: LaidFace, original: TriangleMesh): FittedFace {
	const vertices = laid.mesh.positions.length / 3;
	const lengths = meanLengths(laid);
	const [across, up] = [totalOf(lengths.across), totalOf(lengths.up)];
	const wanted = Math.max(MESH_NEAR_MM, MESH_NEAR_SHARE * Math.max(across, up));
	let best: FittedFace | undefined;
	let bestLines: GridLines | undefined;
	for (const size of SIZES) {
		const columns = along(size, across / Math.max(across, up));
		const rows = along(size, up / Math.max(across, up));
		if (best && columns * rows > 2 * vertices) break;
		const lines = evenLines(lengths, laid.closedAcross, columns, rows);
		const grid = { columns, rows, closedAcross: laid.closedAcross, points: sampleLaid(laid, lines.us, lines.vs) };
		const deviation = deviationOf(laid, lines, grid);
		if (best && deviation > best.deviation * WORTH) break;
		best = { ...grid, deviation, meshArea: 0, stretch: 1 };
		bestLines = lines;
		if (deviation < wanted) break;
	}
	return { ...best!, meshArea: meshArea(original), stretch: stretchOf(laid, bestLines!) };
}

/** Points along a direction whose length is this share of the longer one. */
const along = (size: number, share: number) => Math.max(8, Math.round(size * share));

/** Parameters of each vertex on the fitted surface. */
function gridShares(laid: LaidFace, lines: GridLines, { columns, rows, closedAcross }: PointGrid) {
	const { u, v } = vertexShares(laid);
	return {
		us: u.map((x) => Math.min(1, placeAmong(lines.us, x, closedAcross) / (closedAcross ? columns : columns - 1))),
		vs: v.map((x) => Math.min(1, placeAmong(lines.vs, x, false) / (rows - 1)))
	};
}

function deviationOf(laid: LaidFace, lines: GridLines, grid: PointGrid): number {
	const { positions, triangles } = laid.mesh;
	const { us, vs } = gridShares(laid, lines, grid);
	const { position, normal } = evaluatePoints(fitSurface(grid), us, vs);
	let most = 0;
	// Vertices at no triangle are the ends of a ball, which the grid holds by itself.
	for (const vertex of triangles) {
		const o = vertex * 3;
		let off = 0;
		for (let c = 0; c < 3; c++) off += (position[o + c]! - positions[o + c]!) * normal[o + c]!;
		if (Math.abs(off) > most) most = Math.abs(off);
	}
	return most < COINCIDENT_MM ? 0 : most;
}

/** Share of the area that the figure for stretch leaves out. */
const WORST_SHARE = 0.01;

/** Ratio of the singular values of the map from the evened parameters to each triangle. */
function stretchOf(laid: LaidFace, lines: GridLines): number {
	const { mesh, jump, closedAcross } = laid;
	const { positions: p, triangles } = mesh;
	const shares = vertexShares(laid);
	const evenU = shares.u.map(
		(x) => (placeAmong(lines.us, x, closedAcross) / (lines.us.length - (closedAcross ? 0 : 1))) * lines.across
	);
	const evenV = shares.v.map((x) => (placeAmong(lines.vs, x, false) / (lines.vs.length - 1)) * lines.up);
	const ratios: [ratio: number, area: number][] = [];
	for (let s = 0; s < triangles.length; s += 3) {
		const [a, b, c] = [triangles[s]!, triangles[s + 1]!, triangles[s + 2]!];
		const turn = (k: number) => (jump?.[s + k] ?? 0) * lines.across;
		const [u1, v1] = [evenU[b]! + turn(1) - evenU[a]! - turn(0), evenV[b]! - evenV[a]!];
		const [u2, v2] = [evenU[c]! + turn(2) - evenU[a]! - turn(0), evenV[c]! - evenV[a]!];
		const scale = 1 / (u1 * v2 - u2 * v1);
		const column = (x: number, y: number) =>
			[0, 1, 2].map((i) => ((p[b * 3 + i]! - p[a * 3 + i]!) * x + (p[c * 3 + i]! - p[a * 3 + i]!) * y) * scale);
		const [du, dv] = [column(v2, -v1), column(-u2, u1)];
		const [e, f, g] = [dot(du, du), dot(du, dv), dot(dv, dv)];
		const root = Math.sqrt(square(e - g) / 4 + f * f);
		const ratio = Math.sqrt(((e + g) / 2 + root) / Math.max((e + g) / 2 - root, Number.MIN_VALUE));
		if (Number.isFinite(ratio)) ratios.push([ratio, norm(areaVector(mesh, s / 3))]);
	}
	ratios.sort(([x], [y]) => y - x);
	let left = WORST_SHARE * ratios.reduce((sum, [, area]) => sum + area, 0);
	return ratios.find(([, area]) => (left -= area) <= 0)?.[0] ?? 1;
}

const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
