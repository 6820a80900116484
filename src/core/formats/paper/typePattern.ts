import { hypot } from '../../elementary/index.ts';
import type { LengthUnit } from '../../units/quantity.ts';
import { bendWords } from '../../drawing/cutDrawing.ts';
import { SCALES } from '../../project/sheets.ts';
import type { ArcLine } from '../../schedule/arcLine.ts';
import type { Flat, FlatPattern } from '../../schedule/flatPattern.ts';
import { group, printFull } from '../../units/print.ts';
import { ACCENT, INK, SOFT, type Area, type PageItems } from './page.ts';

/** mm on paper: that a side must have for its length to be written, heights of sizes, and how far they stand off. */
const [LEAST_SIDE, SIZE, OFF] = [12, 1.5, 2.4];
/** Holes whose sizes are written, at most. */
const MOST_HOLES = 12;
/** Whether it says more than the piece as it is seen: it has holes, or is bent. */
export const isWorthDrawing = ({ cuts, bends }: FlatPattern): boolean => cuts.length > 1 || bends.length > 0;

/** Draws a piece laid flat within an area: outline with lengths, lines to be bent along with their angles, holes with their sizes. */
export function addPattern({ paths, texts }: PageItems, pattern: FlatPattern, room: Area, unit: LengthUnit): void {
	const scale = SCALES.find((s) => pattern.width / s <= room.width && pattern.height / s <= room.height);
	if (scale === undefined) return;
	const left = room.x + (room.width - pattern.width / scale) / 2;
	const low = room.y + (room.height - pattern.height / scale) / 2;
	const on = ([x, y]: Flat): Flat => [left + x / scale, low + y / scale];
	const write = (text: string, [x, y]: Flat, colour: string, turn?: number) =>
		texts.push({ x, y, height: SIZE, text, anchor: 'middle', colour, ...(turn ? { turn } : {}) });
	write(`Laid flat, from outside, 1 : ${scale}`, [room.x + room.width / 2, room.y + room.height + 5], SOFT);
	for (const line of pattern.cuts) paths.push({ lines: [line.flatMap(on)], closed: true, colour: INK, weight: 0.25 });
	for (const { from, to, angle } of pattern.bends) {
		const [a, b] = [on(from), on(to)];
		paths.push({ lines: [[...a, ...b]], colour: ACCENT, weight: 0.18, dash: [2, 1] });
		if (hypot(b[0] - a[0], b[1] - a[1]) < LEAST_SIDE) continue;
		const upright = Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0]);
		write(
			bendWords(angle),
			[(a[0] + b[0]) / 2 - (upright ? 0.7 : 0), (a[1] + b[1]) / 2 + (upright ? 0 : 0.7)],
			ACCENT,
			upright ? Math.PI / 2 : undefined
		);
	}
	const [outer, ...holes] = pattern.cuts;
	outer!.forEach((p, k) => {
		const q = outer![(k + 1) % outer!.length]!;
		const length = hypot(q[0] - p[0], q[1] - p[1]);
		if (length / scale < LEAST_SIDE) return;
		const [a, b] = [on(p), on(q)];
		const upright = Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0]);
		// Outside: the outline runs anticlockwise.
		const [ox, oy] = [((q[1] - p[1]) / length) * OFF, (-(q[0] - p[0]) / length) * OFF];
		write(
			printFull(length, 'length', unit),
			[(a[0] + b[0]) / 2 + ox + (upright ? 0.7 : 0), (a[1] + b[1]) / 2 + oy - (upright ? 0 : 0.7)],
			INK,
			upright ? Math.PI / 2 : undefined
		);
	});
	holes.slice(0, MOST_HOLES).forEach((hole, k) => {
		const [x0, y0, x1, y1] = boxOf(hole);
		write(holeWords(hole, pattern.arcs[k + 1], unit), on([(x0 + x1) / 2, (y0 + y1) / 2]), INK);
	});
	if (holes.length > MOST_HOLES)
		write(
			`${group(holes.length, 0)} holes, the first ${MOST_HOLES} with sizes`,
			[room.x + room.width / 2, room.y - 4],
			SOFT
		);
}

/** A hole's diameter where it is a circle, or its width and height as it lies. */
export function holeWords(hole: readonly Flat[], arcs: ArcLine | undefined, unit: LengthUnit): string {
	const length = (mm: number) => printFull(mm, 'length', unit);
	if (arcs?.points.length === 2) {
		const [[x, y], [toX, toY]] = arcs.points as [Flat, Flat];
		return `Ø ${length(hypot(toX - x, toY - y))}`;
	}
	const [x0, y0, x1, y1] = boxOf(hole);
	return `${length(x1 - x0)} × ${length(y1 - y0)}`;
}

function boxOf(points: readonly Flat[]): [number, number, number, number] {
	const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}
