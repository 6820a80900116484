import earcut from 'earcut';
import { cos, hypot, norm, sin, square } from '../../elementary/index.ts';
import { COINCIDENT_MM, ON_SIDE, SAME_FLAT_MM } from '../../tolerances.ts';
import { voronoiCells } from '../../tiling/irregular/voronoiCells.ts';
import { randomFrom } from '../../tiling/random.ts';
import type { Axis } from '../axes.ts';
import { eachSound, markFailed } from '../builder.ts';
import { option, partFields, ref, value, valueOr, whole } from '../fields.ts';
import { normalAt, ringOf } from '../fillOutline.ts';
import { insetLoop } from '../insetLoop.ts';
import { trueLength } from '../measures.ts';
import type { LooseSink } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { closedLine } from './sheets.ts';

type Point2 = readonly [number, number];

/** A plate with many openings. */
export const screen = stepKind({
	kind: 'screen',
	group: 'parts',
	makes: 'part',
	label: 'Screen',
	help: 'A plate with many openings: in squares, hexagons or irregular fields, graded from its lower to its upper side',
	fields: {
		...partFields,
		outline: ref(['line'], 'Outline', 'A closed line'),
		tiles: option({ squares: 'Squares', hexagons: 'Hexagons', voronoi: 'Irregular' }, 'Fields'),
		spacing: value('length', 'Spacing', 'From field to field', 200),
		opening: option({ field: 'As the field', round: 'Round' }, 'Openings'),
		share: value('ratio', 'Open share', 'Of a field, at the lower side', 0.4),
		shareEnd: valueOr('ratio', -1, 'Open share, upper side', 'The same as below when less than 0'),
		margin: valueOr('length', 50, 'Margin', 'Without openings, along the outline'),
		thickness: value('length', 'Thickness', 'To the inside', 5),
		seed: whole(0, 1_000_000, 1, 'Random seed', 'Of irregular fields')
	},
	compile(step, b) {
		const outline = closedLine(b, step.outline);
		const slots = {
			spacing: b.slot(step.spacing, 'length', 'Spacing'),
			share: b.slot(step.share, 'ratio', 'Open share'),
			shareEnd: b.slot(step.shareEnd, 'ratio', 'Open share, upper side'),
			margin: b.slot(step.margin, 'length', 'Margin'),
			thickness: b.slot(step.thickness, 'length', 'Thickness')
		};
		const code = b.fault(
			`no openings can be laid: right would be a spacing above 0 with less than ${MOST_FIELDS} fields, a margin that leaves room, and an open share from 0 to below 1`
		);
		const { mask } = b;
		b.parts.push({
			step,
			mask,
			geometry: {
				kind: 'loose',
				generate(block, out, quantities) {
					const of = (slot: number, h: number) => block.columns[slot]![h]!;
					eachSound(block, mask, (h) => {
						const row = block.from + h;
						const [start, end] = [of(slots.share, h), of(slots.shareEnd, h)];
						const made = layScreen(ringOf(block, outline, h), normalAt(block, h), {
							tiles: step.tiles,
							opening: step.opening,
							spacing: of(slots.spacing, h),
							share: start,
							shareEnd: end < 0 ? start : end,
							margin: of(slots.margin, h),
							seed: step.seed + block.hosts.ids[row]!
						});
						if (!made) return markFailed(block, h, mask, code);
						const thickness = of(slots.thickness, h);
						putScreen(out, row, made, thickness);
						quantities.area[row] = areaOfMesh(made) - made.roundOff;
						quantities.length[row] = trueLength(block, outline, h);
						quantities.volume[row] = (flatAreaOfMesh(made) - made.roundOff) * thickness;
						quantities.pieces[row] = 1;
					});
				}
			}
		});
	}
});

/** Fields of one screen at most. */
const MOST_FIELDS = 5000;
/** Pieces around a round opening. */
const ROUND = 16;
/** How much larger a circle is than the regular polygon in it, as a share of that. */
const ROUND_SHARE = (2 * Math.PI) / (ROUND * sin((2 * Math.PI) / ROUND)) - 1;
/** Ratio. Fields of which the outline leaves less than this have no opening. */
const LEAST_FIELD = 0.6;

interface ScreenValues {
	readonly tiles: 'squares' | 'hexagons' | 'voronoi';
	readonly opening: 'field' | 'round';
	readonly spacing: number;
	readonly share: number;
	readonly shareEnd: number;
	readonly margin: number;
	readonly seed: number;
}

interface Laid {
	/** Stride 3. */
	readonly points: number[];
	readonly triangles: number[];
	/** Numbers of points around the outside, then around each opening, with the material on their left. */
	readonly loops: readonly (readonly number[])[];
	readonly normal: Axis;
	/** How much larger round openings are than the polygons that draw them, mm2. */
	roundOff: number;
}

/** Lays the fields in the mean plane, along the outline's first side; nothing where they cannot be laid. */
function layScreen(ring: Float64Array, normal: Axis, values: ScreenValues): Laid | undefined {
	const { spacing, share, shareEnd, margin } = values;
	if (!(spacing > 0 && share >= 0 && share < 1 && shareEnd >= 0 && shareEnd < 1 && margin >= 0)) return undefined;
	const plane = planeOf(ring, normal);
	const outer = plane.flat;
	const inner = margin > 0 ? insetLoop(outer, margin) : outer;
	if (!inner) return undefined;
	const tiles = layTiles(inner, values);
	if (!tiles) return undefined;
	const laid: Laid & { loops: number[][] } = { points: [], triangles: [], loops: [], normal, roundOff: 0 };
	const add = (p: Point2) => {
		laid.points.push(...plane.lift(p));
		return laid.points.length / 3 - 1;
	};
	const outside = outer.map(add);
	laid.loops.push(outside);
	if (margin > 0) bandBetween(laid.triangles, outside, inner.map(add));
	const [low, high] = [Math.min(...inner.map((p) => p[1])), Math.max(...inner.map((p) => p[1]))];
	for (const { polygon, whole } of tiles) {
		const centre = centroidOf(polygon);
		const open = share + (shareEnd - share) * ((centre[1] - low) / (high - low || 1));
		const rim = polygon.map(add);
		const hole =
			whole && open > 0
				? values.opening === 'round'
					? roundHole(polygon, centre, open)
					: polygon.map(([x, y]): Point2 => [
							centre[0] + (x - centre[0]) * Math.sqrt(open),
							centre[1] + (y - centre[1]) * Math.sqrt(open)
						])
				: undefined;
		if (!hole) {
			for (let k = 1; k + 1 < rim.length; k++) laid.triangles.push(rim[0]!, rim[k]!, rim[k + 1]!);
			continue;
		}
		const edge = hole.map(add);
		if (values.opening === 'field') bandBetween(laid.triangles, rim, edge);
		else {
			laid.roundOff += ROUND_SHARE * Math.abs(areaOf(hole));
			const all = [...rim, ...edge];
			const triangles = earcut([...polygon, ...hole].flat(), [polygon.length]);
			for (let t = 0; t < triangles.length; t += 3)
				laid.triangles.push(
					...turned([...polygon, ...hole], triangles[t]!, triangles[t + 1]!, triangles[t + 2]!).map((k) => all[k]!)
				);
		}
		laid.loops.push(edge.reverse());
	}
	return laid;
}

function turned(points: readonly Point2[], a: number, b: number, c: number): [number, number, number] {
	const [p, q, r] = [points[a]!, points[b]!, points[c]!];
	return (q[0] - p[0]) * (r[1] - p[1]) < (q[1] - p[1]) * (r[0] - p[0]) ? [a, c, b] : [a, b, c];
}

function bandBetween(triangles: number[], outer: readonly number[], inner: readonly number[]): void {
	outer.forEach((a, k) => {
		const next = (k + 1) % outer.length;
		triangles.push(a, outer[next]!, inner[next]!, a, inner[next]!, inner[k]!);
	});
}

function roundHole(polygon: readonly Point2[], centre: Point2, open: number): Point2[] {
	let room = Infinity;
	polygon.forEach(([x, y], k) => {
		const [nx, ny] = polygon[(k + 1) % polygon.length]!;
		const side = hypot(nx - x, ny - y);
		// Corners that fall together have no side between them.
		if (side > SAME_FLAT_MM)
			room = Math.min(room, Math.abs((nx - x) * (centre[1] - y) - (ny - y) * (centre[0] - x)) / side);
	});
	const radius = Math.min(room * 0.98, Math.sqrt((open * Math.abs(areaOf(polygon))) / Math.PI));
	return Array.from(
		{ length: ROUND },
		(_, k) =>
			[
				centre[0] + radius * cos((2 * Math.PI * k) / ROUND),
				centre[1] + radius * sin((2 * Math.PI * k) / ROUND)
			] as const
	);
}

interface Tile {
	readonly polygon: readonly Point2[];
	readonly whole: boolean;
}

/** The fields within a closed line, clipped to it. */
function layTiles(inner: readonly Point2[], { tiles, spacing, seed }: ScreenValues): Tile[] | undefined {
	const xs = inner.map((p) => p[0]);
	const ys = inner.map((p) => p[1]);
	const [x0, y0] = [Math.min(...xs), Math.min(...ys)];
	const [width, height] = [Math.max(...xs) - x0, Math.max(...ys) - y0];
	if (!((width * height) / square(spacing) < MOST_FIELDS)) return undefined;
	const found =
		tiles === 'squares'
			? squares(width, height, spacing)
			: tiles === 'hexagons'
				? hexagons(width, height, spacing)
				: irregular(width, height, spacing, seed);
	return found.flatMap((tile) => {
		const moved = tile.map(([x, y]): Point2 => [x + x0, y + y0]);
		const polygon = clipTo(inner, moved);
		const area = Math.abs(areaOf(polygon));
		return polygon.length >= 3 && area > 0 ? [{ polygon, whole: area >= LEAST_FIELD * Math.abs(areaOf(moved)) }] : [];
	});
}

/** Whole squares in the middle, so that both borders are alike. */
function squares(width: number, height: number, s: number): Point2[][] {
	const [columns, rows] = [Math.ceil(width / s), Math.ceil(height / s)];
	const [x0, y0] = [(width - columns * s) / 2, (height - rows * s) / 2];
	return Array.from({ length: columns * rows }, (_, k) => {
		const [x, y] = [x0 + (k % columns) * s, y0 + Math.floor(k / columns) * s];
		return [
			[x, y],
			[x + s, y],
			[x + s, y + s],
			[x, y + s]
		] as Point2[];
	});
}

function hexagons(width: number, height: number, s: number): Point2[][] {
	const radius = s / Math.sqrt(3);
	const cells: Point2[][] = [];
	const rows = Math.ceil(height / (1.5 * radius)) + 1;
	for (let r = 0; r <= rows; r++)
		for (let c = -1; c <= Math.ceil(width / s) + 1; c++) {
			const [x, y] = [c * s + (r % 2) * (s / 2), r * 1.5 * radius];
			cells.push(
				Array.from(
					{ length: 6 },
					(_, k) => [x + radius * sin((Math.PI / 3) * -k), y + radius * cos((Math.PI / 3) * -k)] as const
				)
			);
		}
	return cells;
}

function irregular(width: number, height: number, s: number, seed: number): Point2[][] {
	const random = randomFrom(seed);
	const [columns, rows] = [Math.max(1, Math.round(width / s)), Math.max(1, Math.round(height / s))];
	// One seed a square, anywhere but near its sides, so that no two come close.
	const seeds = Array.from({ length: columns * rows }, (_, k): Point2 => [
		((k % columns) + 0.15 + 0.7 * random()) * (width / columns),
		(Math.floor(k / columns) + 0.15 + 0.7 * random()) * (height / rows)
	]);
	return seeds.length < 3
		? squares(width, height, s)
		: (voronoiCells(seeds, { width, height, closedAcross: false, closedUp: false }) as Point2[][]);
}

/** What a convex field leaves of a line (Sutherland & Hodgman 1974). */
function clipTo(line: readonly Point2[], field: readonly Point2[]): Point2[] {
	let kept = [...line];
	for (let k = 0; k < field.length && kept.length; k++) {
		const [a, b] = [field[k]!, field[(k + 1) % field.length]!];
		// Corners that fall together up to rounding have no side between them.
		if (hypot(b[0] - a[0], b[1] - a[1]) < SAME_FLAT_MM) continue;
		const side = ([x, y]: Point2) => (b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]);
		const next: Point2[] = [];
		kept.forEach((p, i) => {
			const q = kept[(i + 1) % kept.length]!;
			const [d, e] = [side(p), side(q)];
			if (d >= 0) next.push(p);
			if (d * e < 0) next.push([p[0] + ((q[0] - p[0]) * d) / (d - e), p[1] + ((q[1] - p[1]) * d) / (d - e)]);
		});
		kept = next;
	}
	return kept;
}

const areaOf = (ring: readonly Point2[]) =>
	ring.reduce(
		(twice, [x, y], k) => twice + x * ring[(k + 1) % ring.length]![1] - y * ring[(k + 1) % ring.length]![0],
		0
	) / 2;

function centroidOf(ring: readonly Point2[]): Point2 {
	let [x, y, twice] = [0, 0, 0];
	ring.forEach(([px, py], k) => {
		const [qx, qy] = ring[(k + 1) % ring.length]!;
		const cross = px * qy - qx * py;
		x += (px + qx) * cross;
		y += (py + qy) * cross;
		twice += cross;
	});
	return [x / (3 * twice), y / (3 * twice)];
}

/** The outline in its mean plane, along its first side, and the way back to the surface between its corners. */
function planeOf(ring: Float64Array, normal: Axis): { flat: Point2[]; lift: (p: Point2) => [number, number, number] } {
	const n = ring.length / 3;
	const at = (k: number): [number, number, number] => [ring[k * 3]!, ring[k * 3 + 1]!, ring[k * 3 + 2]!];
	const o = at(0);
	const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
	const first = at(1).map((x, c) => x - o[c]!) as [number, number, number];
	const off = dot(first, normal);
	const along = first.map((x, c) => x - off * normal[c]!) as [number, number, number];
	const size = norm(along);
	const right = along.map((x) => x / size) as [number, number, number];
	const up = [
		normal[1] * right[2] - normal[2] * right[1],
		normal[2] * right[0] - normal[0] * right[2],
		normal[0] * right[1] - normal[1] * right[0]
	] as const;
	const local = Array.from({ length: n }, (_, k) => at(k).map((x, c) => x - o[c]!));
	const flat = local.map((p): Point2 => [dot(p, right), dot(p, up)]);
	const heights = local.map((p) => dot(p, normal));
	const level = Math.max(...heights.map(Math.abs)) < COINCIDENT_MM;
	return {
		flat,
		lift([x, y]) {
			const height = level ? 0 : meanValue(flat, heights, x, y);
			return [0, 1, 2].map((c) => o[c]! + right[c]! * x + up[c]! * y + normal[c]! * height) as [number, number, number];
		}
	};
}

/**
 * Values at a ring's corners carried over its inside, straight along its sides: mean value coordinates (Floater 2003),
 * with tan(a / 2) = (|p| |q| - p q) / (p x q) for the angle between two corners.
 */
function meanValue(ring: readonly Point2[], values: readonly number[], x: number, y: number): number {
	const n = ring.length;
	let scale = 0;
	for (const [px, py] of ring) scale = Math.max(scale, Math.abs(px - x) + Math.abs(py - y));
	let [sum, weights] = [0, 0];
	let [bx, by] = [ring[n - 1]![0] - x, ring[n - 1]![1] - y];
	let far = Math.sqrt(bx * bx + by * by);
	let before = 0;
	for (let k = 0; k <= n; k++) {
		const at = k % n;
		const [cx, cy] = [ring[at]![0] - x, ring[at]![1] - y];
		const size = Math.sqrt(cx * cx + cy * cy);
		if (size <= scale * ON_SIDE) return values[at]!;
		const cross = bx * cy - by * cx;
		const dot = bx * cx + by * cy;
		const last = (at + n - 1) % n;
		if (Math.abs(cross) <= scale * scale * ON_SIDE && dot <= 0)
			return (values[last]! * size + values[at]! * far) / (size + far);
		const half = (far * size - dot) / cross;
		if (k > 0) {
			// The corner before this one lies between the angle before it and the one just found.
			const weight = (before + half) / far;
			sum += weight * values[last]!;
			weights += weight;
		}
		before = half;
		[bx, by, far] = [cx, cy, size];
	}
	return sum / weights;
}

/** The front's triangles added up, mm2. */
function areaOfMesh({ points, triangles }: Laid): number {
	return sumTriangles(points, triangles, (x, y, z) => hypot(x, y, z));
}

/** The same as it lies in the mean plane. */
function flatAreaOfMesh({ points, triangles, normal }: Laid): number {
	return sumTriangles(points, triangles, (x, y, z) => x * normal[0] + y * normal[1] + z * normal[2]);
}

function sumTriangles(
	points: readonly number[],
	triangles: readonly number[],
	of: (x: number, y: number, z: number) => number
): number {
	let twice = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
		const [ux, uy, uz] = [points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!];
		const [vx, vy, vz] = [points[c]! - points[a]!, points[c + 1]! - points[a + 1]!, points[c + 2]! - points[a + 2]!];
		twice += of(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
	}
	return twice / 2;
}

/** Puts front, back and the walls of outline and openings into a sink. */
function putScreen(out: LooseSink, row: number, { points, triangles, loops, normal }: Laid, thickness: number): void {
	out.rows.push(row);
	out.positionStart.push(out.positions.length);
	out.triangleStart.push(out.triangles.length);
	for (const x of points) out.positions.push(x);
	for (const t of triangles) out.triangles.push(t);
	if (thickness > 0) {
		const total = points.length / 3;
		points.forEach((x, k) => out.positions.push(x - normal[k % 3]! * thickness));
		for (let t = 0; t < triangles.length; t += 3)
			out.triangles.push3(triangles[t]! + total, triangles[t + 2]! + total, triangles[t + 1]! + total);
		for (const loop of loops)
			loop.forEach((a, k) => {
				const b = loop[(k + 1) % loop.length]!;
				out.triangles.push3(a, a + total, b + total);
				out.triangles.push3(a, b + total, b);
			});
	}
}
