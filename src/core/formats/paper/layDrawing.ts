import { KINDS, type Drawing, type DrawnText } from '../../drawing/drawing.ts';
import { SCALES, type Sheet } from '../../project/sheets.ts';
import type { LengthUnit } from '../../units/quantity.ts';
import { group, printFull } from '../../units/print.ts';
import { ACCENT, boxPath, INK, textWidth, type Area, type PageItems } from './page.ts';

/** mm on paper: of marks at least and at most, of other texts. */
const [LEAST_MARK, MOST_MARK, WORDS] = [1.2, 2.5, 2.2];
/** mm on paper that sizes and the names of levels take up beside the drawing. */
const [SIZES_ROOM, LEVELS_ROOM] = [14, 34];

/** What stands beside a drawing. */
export interface Beside {
	readonly sizes: boolean;
	/** Levels across upright pictures: what each is called and how high it is, mm. */
	readonly levels: readonly { readonly name: string; readonly height: number }[];
	readonly marks: boolean;
}

/** Which part of a drawing is measured: what is drawn, without its texts. */
export function extentOf({ layers }: Drawing): Drawing['bounds'] | undefined {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const { lines, kind } of layers)
		if (kind !== 'levels')
			for (const { points } of lines)
				for (let k = 0; k < points.length; k += 2) {
					x0 = Math.min(x0, points[k]!);
					x1 = Math.max(x1, points[k]!);
					y0 = Math.min(y0, points[k + 1]!);
					y1 = Math.max(y1, points[k + 1]!);
				}
	return x0 <= x1 ? [x0, y0, x1, y1] : undefined;
}

/** The room that is left for a drawing itself. */
function roomWithin(area: Area, { sizes, levels }: Beside): Area {
	const below = sizes ? SIZES_ROOM : 0;
	const left = levels.length ? LEVELS_ROOM : below;
	const right = levels.length ? below : 0;
	return { x: area.x + left, y: area.y + below, width: area.width - left - right, height: area.height - below };
}

/** The scale that a drawing is at on a sheet: the one asked for where it fits, else the largest usual one that does. */
export function scaleFor(
	drawing: Drawing,
	area: Area,
	beside: Beside,
	asked: Sheet['scale']
): { readonly scale: number; readonly note?: string } {
	const [x0, y0, x1, y1] = extentOf(drawing) ?? [0, 0, 0, 0];
	const room = roomWithin(area, beside);
	const fits = (scale: number) => (x1 - x0) / scale <= room.width && (y1 - y0) / scale <= room.height;
	if (asked !== undefined && fits(asked)) return { scale: asked };
	const usual = SCALES.find(fits) ?? SCALES.at(-1)!;
	if (asked === undefined) return { scale: usual };
	const needs = `${group((x1 - x0) / asked, 0)} × ${group((y1 - y0) / asked, 0)} mm`;
	return {
		scale: usual,
		note: `At 1 : ${asked} it takes ${needs}, more than the paper has; it is drawn at 1 : ${usual}, which fits.`
	};
}

/** Puts a drawing into the middle of an area at a scale, with the sizes over all and levels. Marks give way where there is no room. */
export function layDrawing(
	items: PageItems,
	drawing: Drawing,
	area: Area,
	scale: number,
	beside: Beside,
	unit: LengthUnit
): void {
	const extent = extentOf(drawing);
	if (!extent) return;
	const [x0, y0, x1, y1] = extent;
	const room = roomWithin(area, beside);
	const left = room.x + (room.width - (x1 - x0) / scale) / 2;
	const low = room.y + (room.height - (y1 - y0) / scale) / 2;
	const x = (v: number) => left + (v - x0) / scale;
	const y = (v: number) => low + (v - y0) / scale;
	const onPaper = (points: readonly number[]) => points.map((v, k) => (k % 2 ? y(v) : x(v)));
	const taken = new Taken();
	for (const { kind, lines } of drawing.layers) {
		const { colour, weight } = KINDS[kind];
		const dash = kind === 'levels' ? { dash: [6, 1.5, 1, 1.5] } : {};
		const filled = new Map<string, number[][]>();
		for (const { fill, points } of lines) {
			if (!fill) continue;
			const areas = filled.get(fill) ?? [];
			filled.set(fill, areas);
			areas.push(onPaper(points));
		}
		for (const [fill, areas] of filled) items.paths.push({ lines: areas, closed: true, fill });
		for (const closed of [true, false]) {
			const own = lines.filter((l) => l.closed === closed).map((l) => onPaper(l.points));
			if (own.length) items.paths.push({ lines: own, closed, colour, weight, ...dash });
		}
	}
	const add = (text: DrawnText, height: number, bold: boolean) => {
		const half = textWidth(text.text, height) / 2;
		const [tx, ty] = [x(text.x), y(text.y)];
		if (!taken.take(tx - half, ty - height / 2, tx + half, ty + height / 2)) return;
		const plate = { x: tx - half - 0.6, y: ty - height / 2 - 0.8, width: 2 * half + 1.2, height: height + 1.6 };
		if (bold) items.paths.push(boxPath(plate, { fill: '#ffffff' }));
		items.texts.push({ x: tx, y: ty - height / 2, height, text: text.text, anchor: 'middle', bold, colour: INK });
	};
	// Titles are placed before marks, which give way to them.
	// Those below the drawing stand below its sizes.
	const below = y0 - (beside.sizes ? OFF + TITLE_OFF : TITLE_OFF) * scale;
	for (const { kind, texts } of drawing.layers)
		if (kind === 'titles') for (const t of texts) add(t.y < y0 ? { ...t, y: below } : t, WORDS, true);
	if (beside.levels.length) addLevels(items, beside.levels, extent, x, y);
	else nameLevels(items, drawing, x, y);
	if (beside.marks)
		for (const { kind, texts } of drawing.layers)
			if (kind === 'marks')
				for (const t of texts) {
					const height = Math.min(MOST_MARK, t.height / scale);
					if (height >= LEAST_MARK) add(t, height, false);
				}
	if (beside.sizes) addSizes(items, extent, x, y, unit, beside.levels.length > 0);
}

/** Levels across an upright picture, named at its left. */
function addLevels(
	items: PageItems,
	levels: Beside['levels'],
	[x0, , x1]: Drawing['bounds'],
	x: (v: number) => number,
	y: (v: number) => number
): void {
	const { weight } = KINDS.levels;
	let last = -Infinity;
	for (const { name, height } of [...levels].sort((a, b) => a.height - b.height)) {
		const at = y(height);
		items.paths.push({
			lines: [[x(x0) - LEVELS_ROOM + 2, at, x(x1) + 4, at]],
			colour: ACCENT,
			weight,
			dash: [6, 1.5, 1, 1.5]
		});
		// Names that would stand on each other are left out; the lines are there.
		if (at - last < WORDS * 1.6) continue;
		last = at;
		const sign = height < 0 ? '−' : '+';
		items.texts.push({
			x: x(x0) - LEVELS_ROOM + 2,
			y: at + 0.8,
			height: 1.8,
			text: `${name} ${sign}${group(Math.abs(height) / 1000, 3)}`,
			colour: ACCENT
		});
	}
}

/** Levels of faces laid flat, named where they begin. */
function nameLevels(items: PageItems, { layers }: Drawing, x: (v: number) => number, y: (v: number) => number): void {
	for (const { kind, lines } of layers) {
		if (kind !== 'levels') continue;
		const starts = new Map<string, readonly [number, number]>();
		for (const { points, mark = '' } of lines)
			for (let k = 0; k < points.length; k += 2) {
				const there = starts.get(mark);
				if (!there || points[k]! < there[0]) starts.set(mark, [points[k]!, points[k + 1]!]);
			}
		for (const [text, at] of starts)
			items.texts.push({ x: x(at[0]) + 0.5, y: y(at[1]) + 0.6, height: 1.5, text, colour: ACCENT });
	}
}

/** mm: from the drawing, or its sizes, to the names of faces. */
const TITLE_OFF = 4;
/** mm: from the drawing to its sizes, how far lines reach beyond, and the strokes at their ends. */
const [OFF, OVER, STROKE] = [7, 1.5, 1.2];

/** The width below and the height at one side, between lines that lead to what they measure. */
function addSizes(
	items: PageItems,
	[x0, y0, x1, y1]: Drawing['bounds'],
	x: (v: number) => number,
	y: (v: number) => number,
	unit: LengthUnit,
	atRight: boolean
): void {
	const [left, right, low, high] = [x(x0), x(x1), y(y0), y(y1)];
	const below = low - OFF;
	const out = atRight ? 1 : -1;
	const side = atRight ? right : left;
	const beside = side + out * OFF;
	items.paths.push({
		lines: [
			[left, low - 1.5, left, below - OVER],
			[right, low - 1.5, right, below - OVER],
			[left - OVER, below, right + OVER, below],
			[left - STROKE, below - STROKE, left + STROKE, below + STROKE],
			[right - STROKE, below - STROKE, right + STROKE, below + STROKE],
			[side + out * 1.5, low, beside + out * OVER, low],
			[side + out * 1.5, high, beside + out * OVER, high],
			[beside, low - OVER, beside, high + OVER],
			[beside - STROKE, low - STROKE, beside + STROKE, low + STROKE],
			[beside - STROKE, high - STROKE, beside + STROKE, high + STROKE]
		],
		colour: INK,
		weight: 0.18
	});
	const text = (value: number) => printFull(value, 'length', unit);
	const look = { height: WORDS, anchor: 'middle' as const, colour: INK };
	items.texts.push({ x: (left + right) / 2, y: below + 1, text: text(x1 - x0), ...look });
	items.texts.push({ x: beside - 1, y: (low + high) / 2, text: text(y1 - y0), turn: Math.PI / 2, ...look });
}

/** Boxes on paper that have a text already. */
class Taken {
	private readonly boxes = new Map<string, (readonly [number, number, number, number])[]>();

	/** Takes a box where nothing else is. */
	take(x0: number, y0: number, x1: number, y1: number): boolean {
		const keys: string[] = [];
		for (let i = Math.floor(x0 / FIELD); i <= Math.floor(x1 / FIELD); i++)
			for (let j = Math.floor(y0 / FIELD); j <= Math.floor(y1 / FIELD); j++) keys.push(`${i} ${j}`);
		const meets = (b: readonly [number, number, number, number]) => b[0] < x1 && b[2] > x0 && b[1] < y1 && b[3] > y0;
		if (keys.some((key) => this.boxes.get(key)?.some(meets))) return false;
		for (const key of keys) this.boxes.set(key, [...(this.boxes.get(key) ?? []), [x0, y0, x1, y1]]);
		return true;
	}
}
/** mm */
const FIELD = 10;
