import earcut from 'earcut';
import { cos, hypot, sin } from '../../elementary/index.ts';
import { CLEARLY_MORE, SAME_FLAT_MM } from '../../tolerances.ts';
import type { Axis } from '../axes.ts';
import { eachSound, markFailed } from '../sound.ts';
import { option, partFields, ref, value, valueOr, whole } from '../fields.ts';
import { normalAt, ringOf } from '../fillOutline.ts';
import { insetLoop } from '../insetLoop.ts';
import { trueLength } from '../measures.ts';
import { PairTable } from '../../pairTable.ts';
import { beginPlate } from '../plates.ts';
import type { PlateSink } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { areaOf, centroidOf, cornersAlong, layTiles, MOST_FIELDS, type FieldValues } from './screenFields.ts';
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
				kind: 'plates',
				generate(block, out, quantities) {
					const of = (slot: number, h: number) => block.columns[slot]![h]!;
					const known = new PairTable();
					eachSound(block, mask, (h) => {
						const row = block.from + h;
						const [start, end] = [of(slots.share, h), of(slots.shareEnd, h)];
						const made = layScreen(
							ringOf(block, outline, h),
							normalAt(block, h),
							{
								tiles: step.tiles,
								opening: step.opening,
								spacing: of(slots.spacing, h),
								share: start,
								shareEnd: end < 0 ? start : end,
								margin: of(slots.margin, h),
								seed: step.seed + block.hosts.ids[row]!
							},
							known
						);
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

/** The front of a screen. */
interface Laid {
	/** Each place once, mm, stride 3. */
	readonly places: number[];
	/** By point: its place. */
	readonly points: number[];
	readonly triangles: number[];
	/** Numbers of points around the outside, then around each opening, with the material on their left. */
	readonly loops: readonly (readonly number[])[];
	readonly normal: Axis;
	/** How much larger round openings are than the polygons that draw them, mm2. */
	roundOff: number;
}

/** Lays the fields in the mean plane, along the outline's first side; nothing where they cannot be laid. `known` is used for its places. */
function layScreen(ring: Float64Array, normal: Axis, values: ScreenValues, known: PairTable): Laid | undefined {
	const { spacing, share, shareEnd, margin } = values;
	if (!(spacing > 0 && share >= 0 && share < 1 && shareEnd >= 0 && shareEnd < 1 && margin >= 0)) return undefined;
	const plane = planeOf(ring, normal);
	const outer = plane.flat;
	const inner = margin > 0 ? insetLoop(outer, margin) : outer;
	if (!inner) return undefined;
	const tiles = layTiles(inner, values);
	if (!tiles) return undefined;
	const laid: Laid & { loops: number[][] } = {
		places: [],
		points: [],
		triangles: [],
		loops: [],
		normal,
		roundOff: 0
	};
	known.clear();
	const add = ([x, y]: Point2) => {
		let place = known.get(x, y);
		if (place < 0) {
			place = laid.places.length / 3;
			known.set(x, y, place);
			plane.lift(laid.places, x, y);
		}
		return laid.points.push(place) - 1;
	};
	// The margin, or the wall where there is none, has the corners of all fields beside it: without them there would be gaps.
	const chains = cornersAlong(inner, tiles).map((corners, k) => [inner[k]!, ...corners].map(add));
	if (margin > 0) {
		const outside = outer.map(add);
		laid.loops.push(outside);
		marginBetween(laid.triangles, outside, chains);
	} else laid.loops.push(chains.flat());
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
			const from = fanStart(polygon);
			const at = (k: number) => rim[(from + k) % rim.length]!;
			for (let k = 1; k + 1 < rim.length; k++) laid.triangles.push(rim[from]!, at(k), at(k + 1));
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

/** The corner of a convex line from which a fan has the least slim triangles: from one within a side some would have no area. */
function fanStart(ring: readonly Point2[]): number {
	const n = ring.length;
	let [best, most] = [0, 0];
	for (let from = 0; from < n && n > 3; from++) {
		let least = Infinity;
		for (let k = 1; k + 1 < n; k++)
			least = Math.min(least, Math.abs(areaOf([ring[from]!, ring[(from + k) % n]!, ring[(from + k + 1) % n]!])));
		if (least > most * CLEARLY_MORE) [best, most] = [from, least];
	}
	return best;
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

/** The strip between a line and chains of points along another one with as many sides. */
function marginBetween(triangles: number[], outer: readonly number[], inner: readonly (readonly number[])[]): void {
	outer.forEach((from, k) => {
		const next = (k + 1) % outer.length;
		const chain = [...inner[k]!, inner[next]![0]!];
		triangles.push(from, outer[next]!, chain.at(-1)!);
		for (let i = chain.length - 1; i > 0; i--) triangles.push(from, chain[i]!, chain[i - 1]!);
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

/** The front's triangles added up, mm2. */
function areaOfMesh(laid: Laid): number {
	return sumTriangles(laid, (x, y, z) => hypot(x, y, z));
}

/** The same as it lies in the mean plane. */
function flatAreaOfMesh(laid: Laid): number {
	const { normal } = laid;
	return sumTriangles(laid, (x, y, z) => x * normal[0] + y * normal[1] + z * normal[2]);
}

function sumTriangles({ places: p, points, triangles }: Laid, of: (x: number, y: number, z: number) => number): number {
	let twice = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const a = points[triangles[t]!]! * 3;
		const b = points[triangles[t + 1]!]! * 3;
		const c = points[triangles[t + 2]!]! * 3;
		const ux = p[b]! - p[a]!;
		const uy = p[b + 1]! - p[a + 1]!;
		const uz = p[b + 2]! - p[a + 2]!;
		const vx = p[c]! - p[a]!;
		const vy = p[c + 1]! - p[a + 1]!;
		const vz = p[c + 2]! - p[a + 2]!;
		twice += of(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
	}
	return twice / 2;
}

/** Puts the front of a screen into a sink, with how far it is from the back. */
function putScreen(
	out: PlateSink,
	row: number,
	{ places, points, triangles, loops, normal }: Laid,
	thickness: number
): void {
	const thick = Math.max(0, thickness);
	beginPlate(out, row, [normal[0] * thick, normal[1] * thick, normal[2] * thick]);
	for (const x of places) out.places.push(x);
	for (const place of points) out.points.push(place);
	for (const point of triangles) out.triangles.push(point);
	for (const loop of loops) {
		out.loops.push(loop.length);
		for (const point of loop) out.loops.push(point);
	}
}
