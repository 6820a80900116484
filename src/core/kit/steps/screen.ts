import earcut from 'earcut';
import { cos, hypot, sin } from '../../elementary/index.ts';
import { SAME_FLAT_MM } from '../../tolerances.ts';
import type { Axis } from '../axes.ts';
import { eachSound, markFailed } from '../sound.ts';
import { option, partFields, ref, value, valueOr, whole } from '../fields.ts';
import { normalAt, ringOf } from '../fillOutline.ts';
import { insetLoop } from '../insetLoop.ts';
import { trueLength } from '../measures.ts';
import type { LooseSink } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { areaOf, centroidOf, layTiles, MOST_FIELDS, type FieldValues } from './screenFields.ts';
import { planeOf, type Point2 } from './screenPlane.ts';
import { closedLine } from './sheets.ts';

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

/** Pieces around a round opening. */
const ROUND = 16;
/** How much larger a circle is than the regular polygon in it, as a share of that. */
const ROUND_SHARE = (2 * Math.PI) / (ROUND * sin((2 * Math.PI) / ROUND)) - 1;

interface ScreenValues extends FieldValues {
	readonly opening: 'field' | 'round';
	readonly share: number;
	readonly shareEnd: number;
	readonly margin: number;
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
		plane.lift(laid.points, p[0], p[1]);
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
	for (let k = 0; k < outer.length; k++) {
		const next = k + 1 < outer.length ? k + 1 : 0;
		triangles.push(outer[k]!, outer[next]!, inner[next]!, outer[k]!, inner[next]!, inner[k]!);
	}
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
		const a = triangles[t]! * 3;
		const b = triangles[t + 1]! * 3;
		const c = triangles[t + 2]! * 3;
		const ux = points[b]! - points[a]!;
		const uy = points[b + 1]! - points[a + 1]!;
		const uz = points[b + 2]! - points[a + 2]!;
		const vx = points[c]! - points[a]!;
		const vy = points[c + 1]! - points[a + 1]!;
		const vz = points[c + 2]! - points[a + 2]!;
		twice += of(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
	}
	return twice / 2;
}

/** Puts front, back and the walls of outline and openings into a sink. */
function putScreen(out: LooseSink, row: number, { points, triangles, loops, normal }: Laid, thickness: number): void {
	out.rows.push(row);
	out.positionStart.push(out.positions.length);
	out.triangleStart.push(out.triangles.length);
	const total = points.length / 3;
	const walls = loops.reduce((n, loop) => n + loop.length, 0);
	const solid = thickness > 0;
	let p = out.positions.take(points.length * (solid ? 2 : 1));
	let t = out.triangles.take(solid ? (triangles.length + walls * 3) * 2 : triangles.length);
	const positions = out.positions.values;
	const corners = out.triangles.values;
	for (const x of points) positions[p++] = x;
	for (const k of triangles) corners[t++] = k;
	if (!solid) return;
	for (let k = 0; k < points.length; k++) positions[p++] = points[k]! - normal[k % 3]! * thickness;
	for (let k = 0; k < triangles.length; k += 3) {
		corners[t++] = triangles[k]! + total;
		corners[t++] = triangles[k + 2]! + total;
		corners[t++] = triangles[k + 1]! + total;
	}
	for (const loop of loops)
		for (let k = 0; k < loop.length; k++) {
			const a = loop[k]!;
			const b = loop[k + 1 < loop.length ? k + 1 : 0]!;
			corners[t++] = a;
			corners[t++] = a + total;
			corners[t++] = b + total;
			corners[t++] = a;
			corners[t++] = b + total;
			corners[t++] = b;
		}
}
