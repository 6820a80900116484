import { ZygasterError } from '../errors.ts';
import type { PartRole } from '../kit/fields.ts';
import type { Model } from '../project/pipeline.ts';
import type { Project } from '../project/schema.ts';
import { flatPattern, type FlatPattern } from '../schedule/flatPattern.ts';
import { ONE_SIDED, partsOf } from '../schedule/parts.ts';
import { typeMeshes } from '../schedule/types/drawTypes.ts';
import { typesOf, type PieceType } from '../schedule/types/pieceTypes.ts';
import { group } from '../units/print.ts';
import { boundsOf, type Drawing, type DrawnLine, type DrawnText } from './drawing.ts';

/** mm: between patterns, and the height of what is written below them. */
const [GAP, TEXT] = [150, 25];
/** Of bends. */
const BEND_TEXT = 12;
/** A row is so many times as long as a square of all patterns would be. */
const ROW = 1.4;

/** A type of thin pieces with the pattern that it is cut by. */
export interface CutType {
	readonly type: PieceType;
	/** Nothing where its parts would lie on each other. */
	readonly pattern: FlatPattern | undefined;
	readonly material: string;
	/** mm. */
	readonly thickness: number;
}

export interface CutChoice {
	/** Of all roles when left out. */
	readonly role?: PartRole | undefined;
	/** So many types, the first first; all when left out. */
	readonly most?: number | undefined;
}

/** The types of thin pieces. O(triangles of their pieces). */
export function cutTypes(project: Project, { faces }: Pick<Model, 'faces'>, { role, most }: CutChoice = {}): CutType[] {
	const { types } = typesOf(faces, project.types);
	const partOf = ({ face, row }: PieceType) => {
		const table = partsOf(faces[face]!);
		return { table, part: table.parts[table.part[row]!]!.part };
	};
	const wanted = [...types.keys()]
		.filter((t) => ONE_SIDED.has(partOf(types[t]!).part.kind) && (role === undefined || types[t]!.role === role))
		.slice(0, most);
	const names = new Map(project.materials.map((m) => [m.id, m.name]));
	return typeMeshes(faces, project.types, wanted).map((mesh, k) => {
		const type = types[wanted[k]!]!;
		const { columns } = partOf(type).table;
		const area = columns.area![type.row]!;
		return {
			type,
			pattern: mesh && flatPattern(mesh, area),
			material: names.get(type.material) ?? type.material,
			thickness: area > 0 ? columns.volume![type.row]! / area : 0
		};
	});
}

/**
 * The thin pieces as they are cut, one of each type, in rows, at their true size: outlines and holes, lines to
 * be bent along, and what each is. Throws a ZygasterError with code `empty` where there is none.
 */
export function cutDrawing(project: Project, model: Pick<Model, 'faces'>, choice: CutChoice = {}): Drawing {
	const all = cutTypes(project, model, choice);
	if (all.length === 0)
		throw new ZygasterError(
			'empty',
			choice.role ? `There is no thin piece of the role “${choice.role}”.` : 'There is no thin piece to be cut.'
		);
	const cuts: DrawnLine[] = [];
	const bends: DrawnLine[] = [];
	const angles: DrawnText[] = [];
	const marks: DrawnText[] = [];
	const patterns = all.flatMap(({ pattern }) => (pattern ? [pattern] : []));
	const square = Math.sqrt(patterns.reduce((sum, p) => sum + (p.width + GAP) * (p.height + 2 * GAP), 0));
	const length = Math.max(square * ROW, ...patterns.map((p) => p.width));
	let [x, y, tallest] = [0, 0, 0];
	for (const { type, pattern, material, thickness } of all) {
		if (!pattern) continue;
		if (x > 0 && x + pattern.width > length) [x, y, tallest] = [0, y - tallest - 2 * GAP, 0];
		// Rows run downwards from 0.
		const [dx, dy] = [x, y - pattern.height];
		const flat = (points: FlatPattern['cuts'][number]) => points.flatMap(([px, py]) => [px + dx, py + dy]);
		pattern.cuts.forEach((line, k) => {
			const { points, ...arcs } = pattern.arcs[k] ?? { points: line };
			cuts.push({ points: flat(points), closed: true, mark: type.mark, ...arcs });
		});
		for (const { from, to, angle } of pattern.bends) {
			bends.push({ points: flat([from, to]), closed: false });
			angles.push({
				x: (from[0] + to[0]) / 2 + dx,
				y: (from[1] + to[1]) / 2 + dy + BEND_TEXT,
				height: BEND_TEXT,
				text: bendWords(angle)
			});
		}
		const words = `${type.mark}  ${group(type.count, 0)} ×  ${material} ${group(thickness, 1)} mm`;
		marks.push({ x: dx + pattern.width / 2, y: dy - GAP / 2, height: TEXT, text: words });
		x += pattern.width + GAP;
		tallest = Math.max(tallest, pattern.height);
	}
	const left = all.filter((c) => !c.pattern).map((c) => c.type.mark);
	if (left.length)
		marks.push({
			x: length / 2,
			y: y - tallest - 2 * GAP,
			height: TEXT,
			text: `Not laid flat, since parts would lie on each other: ${left.join(', ')}`
		});
	const layers = [
		{ name: 'cut', kind: 'cut' as const, lines: cuts, texts: [] },
		{ name: 'bends', kind: 'bends' as const, lines: bends, texts: angles },
		{ name: 'marks', kind: 'marks' as const, lines: [], texts: marks }
	];
	return { title: `${project.name}, sheets to be cut`, layers, bounds: boundsOf(layers) };
}

/** How far a sheet is bent, and which way as it is seen. */
export const bendWords = (angle: number): string =>
	`${group((Math.abs(angle) * 180) / Math.PI, 1)}° ${angle > 0 ? 'back' : 'front'}`;
