import { inRuns } from '../placement/rules/conditions.ts';
import type { FaceModel } from '../project/faceResult.ts';
import type { Model } from '../project/pipeline.ts';
import type { Project } from '../project/schema.ts';
import { developmentOf, flattenPlaces } from '../settingout/development.ts';
import { flatBorder } from '../settingout/flatBorder.ts';
import { levelLine } from '../settingout/levelLines.ts';
import { cellMark } from '../tiling/marks.ts';
import {
	boundsOf,
	markWithin,
	widthOf,
	type DrawnLine,
	type DrawnText,
	type Drawing,
	type Kind,
	type Layer
} from './drawing.ts';

/** Between two faces, and between a face and its name, as shares of the height of the tallest. */
const [GAP, BELOW] = [0.12, 0.08];
/** Heights of titles as a share of the same. */
const TITLE = 0.03;

/** What cells of a face are filled with; nothing for those that are left white. */
export type CellFill = (face: FaceModel, cell: number) => string | undefined;

/**
 * All divided faces, or those of some keys, laid flat side by side, each with its cells and their marks, openings, levels and
 * its name, mm. O(corners).
 */
export function developedDrawing(
	project: Project,
	model: Model,
	keys: readonly string[] = [],
	fillOf: CellFill = () => undefined
): Drawing {
	const wanted = new Set(keys);
	const flats = model.faces
		.filter((face) => wanted.size === 0 || wanted.has(face.key))
		.map((face) => flatFace(face, project, fillOf));
	const tallest = flats.reduce((most, { bounds }) => Math.max(most, bounds[3] - bounds[1]), 0);
	let from = 0;
	const layers = flats.flatMap(({ face, layers, bounds: [x0, y0, x1] }) => {
		const text = `${face.mark}  ${face.name}`;
		// A small face stands as far from the next as its name is wide.
		const width = Math.max(x1 - x0, widthOf(text, tallest * TITLE));
		const [dx, dy] = [from + (width - (x1 - x0)) / 2 - x0, -y0];
		from += width + tallest * GAP;
		const title: DrawnText = {
			x: (x0 + x1) / 2,
			y: y0 - tallest * BELOW,
			height: tallest * TITLE,
			text
		};
		const own = [...layers, layer(face, 'titles', [], [title])];
		return own.map((l) => moved(l, dx, dy));
	});
	return { title: project.name, layers, bounds: boundsOf(layers) };
}

const layer = (
	{ mark }: FaceModel,
	kind: Kind,
	lines: readonly DrawnLine[],
	texts: readonly DrawnText[] = []
): Layer => ({ name: `${mark}-${kind}`, kind, lines, texts });

const moved = ({ lines, texts, ...rest }: Layer, dx: number, dy: number): Layer => ({
	...rest,
	lines: lines.map((l) => ({ ...l, points: l.points.map((x, k) => x + (k % 2 ? dy : dx)) })),
	texts: texts.map((t) => ({ ...t, x: t.x + dx, y: t.y + dy }))
});

function flatFace(face: FaceModel, { levels, zones }: Project, fillOf: CellFill) {
	const { charted, nodes, cells, openings } = face;
	const flat = flattenPlaces(developmentOf(charted), nodes);
	const places = cells.places ?? cells.corners;
	const source = { ...cells, mark: face.mark, template: face.template };
	const outlines: DrawnLine[] = [];
	const marks: DrawnText[] = [];
	for (let c = 0; c < cells.count; c++) {
		const points: number[] = [];
		for (let k = cells.cornerStart[c]!; k < cells.cornerStart[c + 1]!; k++)
			points.push(flat[places[k]! * 2]!, flat[places[k]! * 2 + 1]!);
		const mark = cellMark(source, c);
		const fill = fillOf(face, c);
		outlines.push({ points, closed: true, mark, ...(fill ? { fill } : {}) });
		marks.push(markWithin(points, mark));
	}
	const border = flatBorder(charted).flat();
	const layers = [
		layer(face, 'grid', outlines),
		layer(face, 'border', [{ points: border, closed: true }]),
		layer(
			face,
			'openings',
			openings.flatMap(({ name, rings }) => rings.map((ring) => ({ points: ring.flat(), closed: true, mark: name })))
		),
		layer(face, 'zones', zoneLines(face, zones, flat)),
		layer(
			face,
			'levels',
			levels.flatMap(({ name, height }) => {
				const segments = levelLine(charted, height);
				return Array.from({ length: segments.length / 4 }, (_, k) => ({
					points: [...segments.subarray(k * 4, k * 4 + 4)],
					closed: false,
					mark: name
				}));
			})
		),
		layer(face, 'marks', [], marks)
	].filter((l) => l.lines.length + l.texts.length > 0);
	return { face, layers, bounds: boundsOf(layers.filter((l) => l.kind !== 'marks')) };
}

/** Around the cells of each zone: sides that have one of its cells at one side alone. */
function zoneLines({ key, cells }: FaceModel, zones: Project['zones'], flat: Float64Array): DrawnLine[] {
	const { count, cornerStart, corners, places = corners } = cells;
	const lines: DrawnLine[] = [];
	for (const { name, parts } of zones)
		for (const { face, runs } of parts) {
			if (face !== key) continue;
			const inside = inRuns(cells, runs);
			const open = new Map<string, DrawnLine>();
			for (let c = 0; c < count; c++) {
				if (!inside[c]) continue;
				const [from, to] = [cornerStart[c]!, cornerStart[c + 1]!];
				for (let k = from; k < to; k++) {
					const next = k + 1 < to ? k + 1 : from;
					const side = [corners[k]!, corners[next]!].sort((a, b) => a - b).join();
					if (open.delete(side)) continue;
					const points = [places[k]!, places[next]!].flatMap((p) => [flat[p * 2]!, flat[p * 2 + 1]!]);
					open.set(side, { points, closed: false, mark: name });
				}
			}
			lines.push(...open.values());
		}
	return lines;
}
