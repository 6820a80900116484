import type { Axis } from '../../kit/axes.ts';
import { hypot } from '../../elementary/index.ts';
import type { Mesh } from '../../kit/mesh.ts';
import { withinRing } from '../../settingout/flatBorder.ts';
import { neighboursOf, NO_TRIANGLE } from '../../mesh/triangleMesh.ts';
import { SAME_FLAT_MM } from '../../tolerances.ts';
import type { Ring } from '../../tiling/openings/rings.ts';
import { connectedPieces } from './meshPieces.ts';
import { flatten, type TakenOff } from './takenOff.ts';

/** A corner of a piece of a triangle, in space and in the cell's plane, and whether the side from it on is an outer one of the sheet. */
interface Corner {
	readonly at: Axis;
	readonly flat: Ring[number];
	readonly outer: boolean;
}

export interface TrimmedSheet {
	readonly mesh: Mesh;
	/** Length of its outline, mm. */
	readonly outline: number;
}

/**
 * What is left of a thin sheet, piece by piece; nothing is told where nothing is taken off it. Its triangles are parted
 * along the lines that took something off, however steep they stand to the cell. O(triangles x sides of the lines).
 */
export function trimSheet(mesh: Mesh, { frame, pieces }: TakenOff): TrimmedSheet[] | undefined {
	const { positions, triangles } = mesh;
	const { neighbours } = neighboursOf(triangles);
	const rings = pieces.flatMap((p) => [p.outer, ...p.holes]);
	const gone = ([x, y]: Ring[number]) =>
		pieces.some((p) => withinRing(p.outer, x, y) && !p.holes.some((h) => withinRing(h, x, y)));
	const left: Corner[][] = [];
	let takes = false;
	for (let t = 0; t < triangles.length; t += 3) {
		const corners = [0, 1, 2].map((k): Corner => {
			const o = triangles[t + k]! * 3;
			return {
				at: [positions[o]!, positions[o + 1]!, positions[o + 2]!],
				flat: flatten(frame, positions, o),
				outer: neighbours[t + k] === NO_TRIANGLE
			};
		});
		let parts = [corners];
		for (const ring of rings)
			ring.forEach((a, k) => (parts = parts.flatMap((part) => partAlong(part, a, ring[(k + 1) % ring.length]!))));
		const kept = parts.filter((part) => !gone(middleOf(part)));
		takes ||= kept.length < parts.length;
		left.push(...kept);
	}
	if (!takes) return undefined;
	const points = new Points();
	const kept: number[] = [];
	const lengths: { readonly point: number; readonly length: number }[] = [];
	for (const corners of left) {
		const numbers = corners.map((c) => points.number(c.at));
		for (let k = 1; k + 1 < corners.length; k++) kept.push(numbers[0]!, numbers[k]!, numbers[k + 1]!);
		const middle = middleOf(corners);
		corners.forEach((a, k) => {
			const b = corners[(k + 1) % corners.length]!;
			if (a.outer || gone(beyond(a.flat, b.flat, middle)))
				lengths.push({
					point: numbers[k]!,
					length: hypot(a.at[0] - b.at[0], a.at[1] - b.at[1], a.at[2] - b.at[2])
				});
		});
	}
	return connectedPieces({ positions: points.positions(), triangles: Uint32Array.from(kept) }).map((piece) => {
		const own = new Set<number>();
		for (let k = 0; k < piece.positions.length; k += 3)
			own.add(points.number([piece.positions[k]!, piece.positions[k + 1]!, piece.positions[k + 2]!]));
		return { mesh: piece, outline: lengths.reduce((sum, l) => sum + (own.has(l.point) ? l.length : 0), 0) };
	});
}

const middleOf = (corners: readonly Corner[]): Ring[number] => {
	const sum = corners.reduce<[number, number]>(([x, y], { flat }) => [x + flat[0], y + flat[1]], [0, 0]);
	return [sum[0] / corners.length, sum[1] / corners.length];
};

/** A place just beyond the middle of a side, seen from a place on the near side. */
function beyond(a: Ring[number], b: Ring[number], from: Ring[number]): Ring[number] {
	const [x, y] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
	const length = hypot(x - from[0], y - from[1]);
	const by = length > 0 ? SAME_FLAT_MM / length : 0;
	return [x + (x - from[0]) * by, y + (y - from[1]) * by];
}

/** A convex piece parted by the line through two points, where the way between them meets it. */
function partAlong(corners: Corner[], a: Ring[number], b: Ring[number]): Corner[][] {
	const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
	const length = hypot(dx, dy);
	if (length === 0) return [corners];
	const offs = corners.map(({ flat }) => (dx * (flat[1] - a[1]) - dy * (flat[0] - a[0])) / length);
	const alongs = corners.map(({ flat }) => (dx * (flat[0] - a[0]) + dy * (flat[1] - a[1])) / length);
	if (!offs.some((o) => o > SAME_FLAT_MM) || !offs.some((o) => o < -SAME_FLAT_MM)) return [corners];
	const crossings: number[] = [];
	const sides: [Corner[], Corner[]] = [[], []];
	corners.forEach((corner, k) => {
		const next = (k + 1) % corners.length;
		const [o, p] = [offs[k]!, offs[next]!];
		const other = corners[next]!;
		if (o >= 0) sides[0].push(corner);
		if (o <= 0) sides[1].push(corner);
		if (o === 0) crossings.push(alongs[k]!);
		if (o * p >= 0) return;
		const s = o / (o - p);
		crossings.push(alongs[k]! + (alongs[next]! - alongs[k]!) * s);
		const cut = {
			at: corner.at.map((x, c) => x + (other.at[c]! - x) * s) as unknown as Axis,
			flat: [
				corner.flat[0] + (other.flat[0] - corner.flat[0]) * s,
				corner.flat[1] + (other.flat[1] - corner.flat[1]) * s
			] as const
		};
		// On the side that is left the way goes on along the cut; on the one that is entered along the side.
		sides[o > 0 ? 0 : 1].push({ ...cut, outer: false });
		sides[o > 0 ? 1 : 0].push({ ...cut, outer: corner.outer });
	});
	if (Math.max(...crossings) < -SAME_FLAT_MM || Math.min(...crossings) > length + SAME_FLAT_MM) return [corners];
	return sides.filter((s) => s.length > 2);
}

/** Points by their places, numbered as they come; those that rounding parts are one. */
class Points {
	private readonly known = new Map<string, number>();
	private readonly all: number[] = [];

	number(at: Axis): number {
		const key = at.map((x) => Math.round(x / SAME_FLAT_MM)).join();
		const there = this.known.get(key);
		if (there !== undefined) return there;
		this.known.set(key, this.all.length / 3);
		this.all.push(...at);
		return this.all.length / 3 - 1;
	}

	positions(): Float64Array {
		return Float64Array.from(this.all);
	}
}
