import { hypot, norm } from '../../elementary/index.ts';
import { eachSound, markFailed } from '../sound.ts';
import type { Builder } from '../builder.ts';
import { option, ref, refOrNone, value, valueOr } from '../fields.ts';
import { normalAt } from '../fillOutline.ts';
import { lengthOf } from '../measures.ts';
import type { Block, HostSink, Line } from '../program.ts';
import { group } from '../../units/print.ts';
import { stepKind } from '../stepKind.ts';
import { COINCIDENT_MM, SMOOTH_JOIN_SINE } from '../../tolerances.ts';
import { placeOn } from './lines.ts';
import { closedLine } from './sheets.ts';
import { cross, minus, pointAt } from '../../geometry/vectors.ts';
import type { Point } from '../../geometry/curve.ts';

/** Pieces of one host at most, so that a slip in a formula does not fill the memory. */
const MOST_PIECES = 10_000;

/** Pieces or points along a line. */
export const repeat = stepKind({
	kind: 'repeat',
	group: 'pieces',
	makes: 'pieces',
	label: 'Repeat along a line',
	help: 'Pieces or points along a line; steps “on” it run for each: by number, of a fixed length with gaps, or at a spacing at most. They know index, count and share (0 at the start, 1 at the end)',
	fields: {
		of: ref(['line'], 'Line'),
		gives: option({ pieces: 'Pieces', points: 'Points' }, 'Gives'),
		by: option({ count: 'Number', length: 'Fixed length', spacing: 'Spacing at most' }, 'By'),
		amount: value('count', 'Number, length or spacing', '', 5),
		gap: valueOr('length', 0, 'Gap', 'Between pieces')
	},
	compile({ of, gives, by, amount, gap }, b) {
		const named = b.line(of, 2);
		const line = named.closed ? opened(b, named) : named;
		const a = b.slot(amount, by === 'count' ? 'count' : 'length', 'Number, length or spacing');
		const g = b.slot(gap, 'length', 'Gap');
		const code = b.fault(
			`no piece fits, or more than ${group(MOST_PIECES, 0)} would; right would be a number of 1 or more, or a length above 0 that fits the line`
		);
		const { mask } = b;
		const point = new Float64Array(3);
		b.pieces(
			gives === 'pieces' ? { kind: 'edge', corners: 2 } : { kind: 'node', corners: 0 },
			['index', 'count', 'share'],
			(block, out) => {
				eachSound(block, mask, (h) => {
					const length = lengthOf(block, line, h);
					const [asked, between] = [block.columns[a]![h]!, block.columns[g]![h]!];
					const count =
						by === 'count'
							? Math.round(asked)
							: by === 'spacing'
								? countAtMost(length, asked)
								: Math.floor((length + between + COINCIDENT_MM) / (asked + between));
					const size = by === 'length' ? asked : (length - (count - 1) * between) / count;
					if (!(count >= 1 && count <= MOST_PIECES && size > 0)) return markFailed(block, h, mask, code);
					// Pieces of a fixed length stand in the middle of the line.
					const first = by === 'length' ? (length - count * size - (count - 1) * between) / 2 : 0;
					const places =
						gives === 'pieces'
							? Array.from({ length: count }, (_, k) => first + k * (size + between))
							: Array.from({ length: count + (by === 'length' || named.closed ? 0 : 1) }, (_, k) =>
									by === 'length' ? first + k * (size + between) + size / 2 : (k * length) / count
								);
					places.forEach((start, k) => {
						for (const place of gives === 'pieces' ? [start, start + size] : [start]) {
							placeOn(block.points, (block.from + h) * block.stride, line, place, point, 0);
							out.points.push3(point[0]!, point[1]!, point[2]!);
						}
						pushHost(block, h, out, [
							k + 1,
							places.length,
							length > 0 ? (start + (gives === 'pieces' ? size / 2 : 0)) / length : 0
						]);
					});
				});
			}
		);
	}
});

/** Pieces no longer than asked that a length needs; one that is a whole number of them within tolerance needs no piece more. */
export const countAtMost = (length: number, asked: number): number => Math.ceil((length - COINCIDENT_MM) / asked);

/** A closed line as an open one that ends where it starts. */
function opened(b: Builder, line: Line): Line {
	const open = b.take(line.count + 1);
	b.op(({ points, stride, from, count }) => {
		for (let h = 0; h < count; h++) {
			const base = (from + h) * stride;
			points.copyWithin(base + open.first * 3, base + line.first * 3, base + (line.first + line.count) * 3);
			points.copyWithin(base + (open.first + line.count) * 3, base + line.first * 3, base + line.first * 3 + 3);
		}
	});
	return open;
}

/** Adds a host whose points are there already, with its outer host's normal. */
function pushHost(block: Block, h: number, out: HostSink, own: readonly number[]): void {
	out.normals.push3(...normalAt(block, h));
	out.rows.push(block.from + h);
	own.forEach((value, k) => out.own[k]!.push(value));
}

/** Every side, corner or spoke of a line. */
export const each = stepKind({
	kind: 'each',
	group: 'pieces',
	makes: 'pieces',
	label: 'For each side or corner',
	help: 'The sides or corners of a line, or the spokes from a point to its corners; steps “on” it run for each. They know index and count',
	fields: {
		of: ref(['line'], 'Line'),
		what: option(
			{
				sides: 'Sides',
				corners: 'Corners',
				spokes: 'Spokes to the corners',
				gaps: 'Spokes halfway between the corners'
			},
			'Gives'
		),
		from: refOrNone(['point'], 'Spokes from', 'The middle of the line when left out')
	},
	compile({ of, what, from }, b) {
		const line = b.line(of, what === 'corners' ? 1 : 2);
		const hub = from === undefined ? undefined : b.point(from);
		const { mask } = b;
		const onSides = what === 'sides' || what === 'gaps';
		const n = onSides && !line.closed ? line.count - 1 : line.count;
		b.pieces(
			what === 'corners' ? { kind: 'node', corners: 0 } : { kind: 'edge', corners: 2 },
			['index', 'count'],
			(block, out) => {
				const { points, stride } = block;
				eachSound(block, mask, (h) => {
					const base = (block.from + h) * stride;
					const push = (k: number) => {
						const o = base + (line.first + (k % line.count)) * 3;
						out.points.push3(points[o]!, points[o + 1]!, points[o + 2]!);
					};
					for (let k = 0; k < n; k++) {
						if (what === 'spokes' || what === 'gaps') pushMiddle(block, base, hub ?? line, out);
						if (what === 'gaps') pushBisector(block, h, base, line, k, out);
						else push(k);
						if (what === 'sides') push(k + 1);
						pushHost(block, h, out, [k + 1, n]);
					}
				});
			},
			line.spokes === true && !onSides
		);
	}
});

/** The mean of a line's points. */
function pushMiddle({ points }: Block, base: number, { first, count }: Line, out: HostSink): void {
	const middle: [number, number, number] = [0, 0, 0];
	for (let k = first; k < first + count; k++)
		for (let c = 0; c < 3; c++) middle[c]! += points[base + k * 3 + c]! / count;
	out.points.push3(...middle);
}

/**
 * From the hub, which has just been added, halfway between the ways to two corners, half as far as they are on average.
 * Between ways that run against each other it is the way to their left seen from outside.
 */
function pushBisector(block: Block, h: number, base: number, { first, count }: Line, k: number, out: HostSink): void {
	const { points } = block;
	const hub = out.points.length - 3;
	const from = pointAt(out.points.values, hub);
	const wayTo = (corner: number) => minus(pointAt(points, base + (first + (corner % count)) * 3), from);
	const [u, v] = [wayTo(k), wayTo(k + 1)];
	const [lu, lv] = [norm(u), norm(v)];
	const n = normalAt(block, h);
	const turn =
		[0, 1, 2].reduce(
			(sum, c) => sum + n[c]! * (u[(c + 1) % 3]! * v[(c + 2) % 3]! - u[(c + 2) % 3]! * v[(c + 1) % 3]!),
			0
		) /
		(lu * lv);
	const left = [n[1] * u[2]! - n[2] * u[1]!, n[2] * u[0]! - n[0] * u[2]!, n[0] * u[1]! - n[1] * u[0]!];
	const straight = Math.abs(turn) < SMOOTH_JOIN_SINE;
	const way = [0, 1, 2].map((c) => (straight ? left[c]! / lu : (u[c]! / lu + v[c]! / lv) * Math.sign(turn)));
	const size = norm(way);
	const reach = (lu + lv) / 4;
	out.points.push3(
		from[0]! + (way[0]! / size) * reach,
		from[1]! + (way[1]! / size) * reach,
		from[2]! + (way[2]! / size) * reach
	);
}

/** The host divided again. */
export const divide = stepKind({
	kind: 'divide',
	group: 'pieces',
	makes: 'pieces',
	label: 'Divide',
	help: 'A line of four corners divided again into fields; steps “on” it run for each. They know i and j (from 1, across and up), columns and rows',
	fields: {
		of: ref(['line'], 'Outline', 'A closed line of four corners'),
		by: option({ number: 'Numbers', spacing: 'Sizes at most' }, 'By'),
		across: value('count', 'Across', 'How many fields, or how wide at most', 2),
		up: value('count', 'Up', 'How many fields, or how high at most', 2)
	},
	compile({ of, by, across, up }, b) {
		const line = closedLine(b, of);
		if (line.count !== 4) throw b.fail(`four corners can be divided again; “${of}” has ${line.count}`);
		const quantity = by === 'number' ? 'count' : 'length';
		const [x, y] = [b.slot(across, quantity, 'Across'), b.slot(up, quantity, 'Up')];
		const code = b.fault(`its numbers must be 1 or more and make ${group(MOST_PIECES, 0)} fields at most`);
		const { mask } = b;
		b.pieces({ kind: 'cell', corners: 4 }, ['i', 'j', 'columns', 'rows'], (block, out) => {
			const { points, stride } = block;
			eachSound(block, mask, (h) => {
				const o = (block.from + h) * stride + line.first * 3;
				const side = (p: number, q: number) =>
					hypot(
						points[o + q * 3]! - points[o + p * 3]!,
						points[o + q * 3 + 1]! - points[o + p * 3 + 1]!,
						points[o + q * 3 + 2]! - points[o + p * 3 + 2]!
					);
				const number = (asked: number, length: number) =>
					by === 'number' ? Math.round(asked) : countAtMost(length, asked);
				const columns = number(block.columns[x]![h]!, Math.max(side(0, 1), side(3, 2)));
				const rows = number(block.columns[y]![h]!, Math.max(side(0, 3), side(1, 2)));
				if (!(columns >= 1 && rows >= 1 && columns * rows <= MOST_PIECES)) return markFailed(block, h, mask, code);
				const along = (s: number, t: number, c: number) =>
					(1 - s) * (1 - t) * points[o + c]! +
					s * (1 - t) * points[o + 3 + c]! +
					s * t * points[o + 6 + c]! +
					(1 - s) * t * points[o + 9 + c]!;
				const at = (i: number, j: number): Point => {
					const [s, t] = [i / columns, j / rows];
					return [along(s, t, 0), along(s, t, 1), along(s, t, 2)];
				};
				for (let j = 0; j < rows; j++)
					for (let i = 0; i < columns; i++) {
						const corners = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)] as const;
						pushCell(block, h, out, corners, [i + 1, j + 1, columns, rows]);
					}
			});
		});
	}
});

/** Adds a host of four corners with the normal of its own mean plane; the outer host's where it has none. */
export function pushCell(
	block: Block,
	h: number,
	out: HostSink,
	[p, q, r, s]: readonly [Point, Point, Point, Point],
	own: readonly number[]
): void {
	for (const [x, y, z] of [p, q, r, s]) out.points.push3(x, y, z);
	const n = cross(minus(r, p), minus(s, q));
	const size = norm(n);
	if (size > 0) out.normals.push3(n[0] / size, n[1] / size, n[2] / size);
	else out.normals.push3(...normalAt(block, h));
	out.rows.push(block.from + h);
	own.forEach((value, k) => out.own[k]!.push(value));
}
