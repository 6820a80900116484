import { acos } from '../../elementary/index.ts';
import type { Mesh } from '../../kit/mesh.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { SCALES, type Sheet, type SheetView } from '../../project/sheets.ts';
import { ONE_SIDED, partsOf, pieceMarks } from '../../schedule/parts.ts';
import { drawPiece, type PieceDrawing } from '../../schedule/pieceDrawing.ts';
import { flatPattern } from '../../schedule/flatPattern.ts';
import { typeMeshes } from '../../schedule/types/drawTypes.ts';
import { typesOf, type PieceType } from '../../schedule/types/pieceTypes.ts';
import { group, printFull } from '../../units/print.ts';
import { addPattern, isWorthDrawing } from './typePattern.ts';
import { boxPath, fitted, INK, noItems, SOFT, type Area, type PageItems } from './page.ts';

/** Pieces across and up on a page that lies across. */
const GRID: Readonly<Record<number, readonly [number, number]>> = { 1: [1, 1], 4: [2, 2], 12: [4, 3] };
/** mm: of the lines of words below a piece, between them, and around a piece. */
const [WORDS, LINE, AROUND] = [1.8, 3.4, 4];
/** mm on paper that a side must have for its length to be written. */
const LEAST_SIDE = 14;
/** Corners of an outline whose angles are written, at most: more make it round. */
const MOST_ANGLES = 12;
/** Marks of pieces that a page with one piece lists, at most. */
const MOST_MARKS = 60;

/** Pages with more pieces have no room for them laid flat, too. */
const MOST_WITH_PATTERN = 4;

type TypesView = Extract<SheetView, { kind: 'types' }>;

/** The pieces of a sheet of types, page by page: outline with lengths and angles, what it is, how many, and their marks. */
export function typePages(project: Project, model: Model, sheet: Sheet, view: TypesView, area: Area): PageItems[] {
	const { types, typeOf } = typesOf(model.faces, project.types);
	const wanted = [...types.keys()].filter((t) => !view.role || types[t]!.role === view.role);
	const shown = wanted.slice(0, view.most);
	const meshes = typeMeshes(model.faces, project.types, shown);
	const marks = marksOf(model, typeOf, new Set(shown));
	const [across, up] = sheet.across ? GRID[view.perPage]! : [...GRID[view.perPage]!].reverse();
	const [width, height] = [area.width / across!, area.height / up!];
	const pages: PageItems[] = [];
	shown.forEach((t, k) => {
		const at = k % view.perPage;
		if (at === 0) pages.push(noItems());
		const box = {
			x: area.x + (at % across!) * width,
			y: area.y + area.height - (Math.floor(at / across!) + 1) * height,
			width,
			height
		};
		addType(pages.at(-1)!, project, model, types[t]!, meshes[k], marks.get(t) ?? [], box, view.perPage);
	});
	if (pages.length === 0) pages.push(noItems());
	if (shown.length === 0)
		pages[0]!.notes.push(view.role ? `There is no piece of the role “${view.role}”.` : 'There is no piece yet.');
	else if (shown.length < wanted.length)
		pages.at(-1)!.notes.push(`${group(wanted.length - shown.length, 0)} more types are not on these pages.`);
	return pages;
}

/** Marks of the pieces of some types. */
function marksOf(model: Model, typeOf: readonly Int32Array[], wanted: ReadonlySet<number>): Map<number, string[]> {
	const marks = new Map<number, string[]>();
	model.faces.forEach((face, f) => {
		let own: readonly string[] | undefined;
		typeOf[f]!.forEach((t, r) => {
			if (!wanted.has(t)) return;
			own ??= pieceMarks(face);
			const list = marks.get(t) ?? [];
			marks.set(t, list);
			if (list.length < MOST_MARKS) list.push(own[r]!);
		});
	});
	return marks;
}

function addType(
	items: PageItems,
	project: Project,
	model: Model,
	type: PieceType,
	mesh: Mesh | undefined,
	marks: readonly string[],
	box: Area,
	perPage: number
): void {
	const { paths, texts } = items;
	const drawing = mesh && drawPiece(mesh);
	paths.push(boxPath(box, { colour: SOFT, weight: 0.13 }));
	const { columns, part, parts } = partsOf(model.faces[type.face]!);
	const value = (name: string) => columns[name]?.[type.row] ?? 0;
	const material = project.materials.find((m) => m.id === type.material)?.name ?? type.material;
	const unit = project.units;
	const lines = [
		`${type.kit}, ${type.part} · ${material}`,
		[
			drawing && `${[drawing.width, drawing.height, drawing.depth].map((v) => group(v, 1)).join(' × ')} mm`,
			value('area') > 0 && printFull(value('area'), 'area', unit),
			`${group(value('weight'), 2)} kg`,
			type.count > 1 && `within ${group(type.deviation, 2)} mm`
		]
			.filter(Boolean)
			.join(' · '),
		...wrapped(marks, type.count, perPage === 1 ? 8 : 1, box.width - 2 * AROUND)
	];
	texts.push({ x: box.x + AROUND, y: box.y + box.height - 6, height: 3, text: type.mark, bold: true, colour: INK });
	texts.push({
		x: box.x + box.width - AROUND,
		y: box.y + box.height - 6,
		height: 2.4,
		text: `${group(type.count, 0)} ×`,
		anchor: 'end',
		colour: INK
	});
	lines.forEach((text, k) =>
		texts.push({
			x: box.x + AROUND,
			y: box.y + AROUND + (lines.length - 1 - k) * LINE,
			height: WORDS,
			text: fitted(text, WORDS, box.width - 2 * AROUND),
			colour: INK
		})
	);
	if (!mesh || !drawing) return;
	const words = AROUND + lines.length * LINE + 2;
	const whole = { x: box.x + 12, y: box.y + words + 6, width: box.width - 24, height: box.height - words - 20 };
	const pattern =
		perPage <= MOST_WITH_PATTERN && ONE_SIDED.has(parts[part[type.row]!]!.part.kind)
			? flatPattern(mesh, value('area'))
			: undefined;
	const flat = pattern && isWorthDrawing(pattern) ? pattern : undefined;
	const room = flat ? { ...whole, width: whole.width / 2 - AROUND } : whole;
	if (flat) addPattern(items, flat, { ...room, x: whole.x + whole.width / 2 + AROUND }, unit);
	const scale = SCALES.find((s) => drawing.width / s <= room.width && drawing.height / s <= room.height);
	if (scale === undefined) return;
	texts.push({
		x: box.x + box.width - AROUND,
		y: box.y + box.height - 9.5,
		height: 1.6,
		text: `1 : ${scale}`,
		anchor: 'end',
		colour: SOFT
	});
	const left = room.x + (room.width - drawing.width / scale) / 2;
	const low = room.y + (room.height - drawing.height / scale) / 2;
	const placed: number[][] = [];
	for (let k = 0; k < drawing.lines.length; k += 4)
		placed.push(Array.from(drawing.lines.subarray(k, k + 4), (v, c) => (c % 2 ? low : left) + v / scale));
	paths.push({ lines: placed, colour: INK, weight: 0.25 });
	addLengths(items, drawing, scale, left, low, project);
}

/** Marks in so many lines, with how many more there are. */
function wrapped(marks: readonly string[], count: number, most: number, width: number): string[] {
	const lines: string[] = [];
	let line = '';
	let listed = 0;
	for (const mark of marks) {
		const next = line ? `${line}, ${mark}` : mark;
		if (fitted(`${next} +00 000`, WORDS, width) !== `${next} +00 000` && line) {
			if (lines.length + 1 >= most) break;
			lines.push(line);
			line = mark;
		} else line = next;
		listed++;
	}
	const more = count - listed;
	return [...lines, line + (more > 0 ? ` +${group(more, 0)}` : '')].filter(Boolean);
}

interface Corner {
	readonly x: number;
	readonly y: number;
}

/** Lengths along the sides of what a piece's lines span, and the angles at its corners. */
function addLengths(
	{ texts }: PageItems,
	{ lines }: PieceDrawing,
	scale: number,
	left: number,
	low: number,
	{ units }: Project
): void {
	const hull = hullOf(lines);
	const middle = hull.reduce((sum, p) => ({ x: sum.x + p.x / hull.length, y: sum.y + p.y / hull.length }), {
		x: 0,
		y: 0
	});
	const on = (p: Corner) => [left + p.x / scale, low + p.y / scale] as const;
	hull.forEach((a, k) => {
		const b = hull[(k + 1) % hull.length]!;
		const length = far(a, b);
		if (length / scale < LEAST_SIDE) return;
		const [x, y] = on({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
		const upright = Math.abs(b.y - a.y) > Math.abs(b.x - a.x);
		// Outside of it: the outline runs anticlockwise.
		const [ox, oy] = [((b.y - a.y) / length) * 2.4, (-(b.x - a.x) / length) * 2.4];
		texts.push({
			x: x + ox + (upright ? 0.7 : 0),
			y: y + oy - (upright ? 0 : 0.7),
			height: 1.5,
			text: printFull(length, 'length', units),
			anchor: 'middle',
			colour: INK,
			...(upright ? { turn: Math.PI / 2 } : {})
		});
	});
	if (hull.length > MOST_ANGLES) return;
	hull.forEach((p, k) => {
		const [before, after] = [hull[(k + hull.length - 1) % hull.length]!, hull[(k + 1) % hull.length]!];
		const [la, lb] = [far(p, before), far(p, after)];
		if (Math.min(la, lb) / scale < LEAST_SIDE) return;
		const cosine = ((before.x - p.x) * (after.x - p.x) + (before.y - p.y) * (after.y - p.y)) / (la * lb);
		const [x, y] = on(p);
		const [mx, my] = on(middle);
		const off = Math.sqrt((mx - x) * (mx - x) + (my - y) * (my - y)) || 1;
		texts.push({
			x: x + ((mx - x) / off) * 5.5,
			y: y + ((my - y) / off) * 5.5 - 0.6,
			height: 1.2,
			text: `${group((acos(Math.max(-1, Math.min(1, cosine))) * 180) / Math.PI, 1)}°`,
			anchor: 'middle',
			colour: SOFT
		});
	});
}

const far = (a: Corner, b: Corner) => Math.sqrt((a.x - b.x) * (a.x - b.x) + (a.y - b.y) * (a.y - b.y));

/** mm: corners nearer to a straight side than this are none. */
const STRAIGHT = 0.5;

/** What the ends of lines span, anticlockwise. Source: Andrew's monotone chain, 1979. */
function hullOf(lines: Float64Array): Corner[] {
	const points: Corner[] = [];
	for (let k = 0; k < lines.length; k += 2) points.push({ x: lines[k]!, y: lines[k + 1]! });
	points.sort((a, b) => a.x - b.x || a.y - b.y);
	const half = (list: readonly Corner[]) => {
		const chain: Corner[] = [];
		for (const p of list) {
			while (chain.length > 1) {
				const [a, b] = [chain.at(-2)!, chain.at(-1)!];
				const side = (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);
				if (side > STRAIGHT * Math.max(far(a, p), 1)) break;
				chain.pop();
			}
			chain.push(p);
		}
		return chain.slice(0, -1);
	};
	return [...half(points), ...half(points.reverse())];
}
