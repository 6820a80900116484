import { SAME_FIELD } from '../../tolerances.ts';
import { hypot } from '../../elementary/index.ts';
import { ringArea } from '../openings/rings.ts';
import { tidy, type TilingUnit, type UnitPoint } from './unit.ts';

/** A corner of a unit's cell: one of the unit's vertices, so many units further across and up. */
export interface UnitCorner {
	readonly vertex: number;
	readonly across: number;
	readonly up: number;
	/** A neighbour's corner lies here on a side, which runs straight on. */
	readonly straight: boolean;
}

export interface PreparedCell {
	/** Index into `roles`. */
	readonly role: number;
	/** Anticlockwise from the lowest one, leftmost among those. */
	readonly corners: readonly UnitCorner[];
	/** Least x and y, greatest x and y. */
	readonly box: readonly [number, number, number, number];
	/** The row that it belongs to, counted within its unit, and units between its own and that row's. */
	readonly band: number;
	readonly bandUnit: number;
	/** Rank of its middle across within its row, and units between its own and the one that its middle is in. */
	readonly rank: number;
	readonly rankUnit: number;
}

/** A unit made ready for repeating: each vertex once, whatever units its cells name it from. */
export interface PreparedUnit {
	readonly width: number;
	readonly height: number;
	/** Within the unit: 0 or more, less than its width and height. */
	readonly vertices: readonly UnitPoint[];
	readonly cells: readonly PreparedCell[];
	readonly roles: readonly string[];
	readonly bands: number;
}

/** Finds the vertices that cells share, those on their sides, and the rows that cells stand in. O(cells2). */
export function prepareUnit(unit: TilingUnit): PreparedUnit {
	const { width, height } = unit;
	const rings = unit.cells.map(({ corners }) => startLow(corners.map(([x, y]): UnitPoint => [tidy(x), tidy(y)])));
	const vertices: UnitPoint[] = [];
	const cornerOf = ([x, y]: UnitPoint, straight: boolean): UnitCorner => {
		const [across, up] = [Math.floor(x / width + SAME_FIELD), Math.floor(y / height + SAME_FIELD)];
		const [bx, by] = [tidy(x - across * width), tidy(y - up * height)];
		let vertex = vertices.findIndex(([p, q]) => Math.abs(p - bx) < SAME_FIELD && Math.abs(q - by) < SAME_FIELD);
		if (vertex < 0) vertex = vertices.push([bx, by]) - 1;
		return { vertex, across, up, straight };
	};
	for (const ring of rings) for (const p of ring) cornerOf(p, false);
	const roles = [...new Set(unit.cells.map((c) => c.role))];
	const bands = bandsOf(rings, height);
	const middles = rings.map((ring) => middleOf(ring));
	const ranks = middles.map(([x, y], k) => ({
		k,
		x: x - Math.floor(x / width + SAME_FIELD) * width,
		y,
		band: bands.of[k]!.band
	}));
	ranks.sort(
		(a, b) =>
			a.band - b.band ||
			(Math.abs(a.x - b.x) < SAME_FIELD ? 0 : a.x - b.x) ||
			(Math.abs(a.y - b.y) < SAME_FIELD ? 0 : a.y - b.y) ||
			a.k - b.k
	);
	const cells = rings.map((ring, k): PreparedCell => {
		const xs = ring.map((p) => p[0]);
		const ys = ring.map((p) => p[1]);
		return {
			role: roles.indexOf(unit.cells[k]!.role),
			corners: withSidePoints(ring, vertices, width, height).map(({ at, straight }) => cornerOf(at, straight)),
			box: [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)],
			...{ band: bands.of[k]!.band, bandUnit: bands.of[k]!.unit },
			rank: ranks.findIndex((r) => r.k === k),
			rankUnit: Math.floor(middles[k]![0] / width + SAME_FIELD)
		};
	});
	return { width, height, vertices, cells, roles, bands: bands.count };
}

/** Anticlockwise, from the lowest corner, leftmost among those. */
function startLow(ring: UnitPoint[]): UnitPoint[] {
	const turned = ringArea(ring) < 0 ? [...ring].reverse() : ring;
	let first = 0;
	turned.forEach(([x, y], k) => {
		const [bx, by] = turned[first]!;
		if (y < by - SAME_FIELD || (Math.abs(y - by) < SAME_FIELD && x < bx)) first = k;
	});
	return [...turned.slice(first), ...turned.slice(0, first)];
}

/** The ring with the vertices of other cells that lie on its sides. */
function withSidePoints(
	ring: readonly UnitPoint[],
	vertices: readonly UnitPoint[],
	width: number,
	height: number
): { at: UnitPoint; straight: boolean }[] {
	return ring.flatMap((a, k) => {
		const b = ring[(k + 1) % ring.length]!;
		const before = ring[(k + ring.length - 1) % ring.length]!;
		const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
		const length = hypot(dx, dy);
		const on: { at: UnitPoint; way: number }[] = [];
		for (const [x, y] of vertices)
			for (
				let p = Math.floor((Math.min(a[0], b[0]) - x) / width);
				p <= Math.ceil((Math.max(a[0], b[0]) - x) / width);
				p++
			)
				for (
					let q = Math.floor((Math.min(a[1], b[1]) - y) / height);
					q <= Math.ceil((Math.max(a[1], b[1]) - y) / height);
					q++
				) {
					const at: UnitPoint = [x + p * width, y + q * height];
					const way = ((at[0] - a[0]) * dx + (at[1] - a[1]) * dy) / length;
					const off = Math.abs((at[0] - a[0]) * dy - (at[1] - a[1]) * dx) / length;
					if (off < SAME_FIELD && way > SAME_FIELD && way < length - SAME_FIELD) on.push({ at, way });
				}
		const turn = (a[0] - before[0]) * dy - (a[1] - before[1]) * dx;
		return [
			{ at: a, straight: Math.abs(turn) < SAME_FIELD * length },
			...on.sort((p, q) => p.way - q.way).map(({ at }) => ({ at, straight: true }))
		];
	});
}

/**
 * Rows of a unit: cells whose heights are the same, or lie within those of a taller one, are in one row; rows stand in the
 * order of their middles.
 */
function bandsOf(
	rings: readonly (readonly UnitPoint[])[],
	height: number
): { count: number; of: { band: number; unit: number }[] } {
	const spans = rings.map((ring) => {
		const ys = ring.map((p) => p[1]);
		return { low: Math.min(...ys), high: Math.max(...ys) };
	});
	const found: { low: number; high: number }[] = [];
	/** Units to move `span` by, so that it lies within `into`. */
	const unitsInto = (span: { low: number; high: number }, into: { low: number; high: number }) => {
		const k = Math.ceil((into.low - span.low) / height - SAME_FIELD);
		return span.high + k * height <= into.high + SAME_FIELD ? k : undefined;
	};
	for (const span of [...spans].sort((a, b) => b.high - b.low - (a.high - a.low) || a.low - b.low)) {
		if (found.some((f) => unitsInto(span, f) !== undefined)) continue;
		const units = Math.floor((span.low + span.high) / 2 / height + SAME_FIELD);
		found.push({ low: span.low - units * height, high: span.high - units * height });
	}
	found.sort((a, b) => a.low + a.high - b.low - b.high);
	const of = spans.map((span) => {
		const band = found.findIndex((f) => unitsInto(span, f) !== undefined);
		return { band, unit: 0 - unitsInto(span, found[band]!)! };
	});
	return { count: found.length, of };
}

/** Mean of the corners. */
function middleOf(ring: readonly UnitPoint[]): UnitPoint {
	return [ring.reduce((s, p) => s + p[0], 0) / ring.length, ring.reduce((s, p) => s + p[1], 0) / ring.length];
}
