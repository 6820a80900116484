import type { FaceModel } from '../project/faceResult.ts';
import type { Model } from '../project/pipeline.ts';
import type { Project } from '../project/schema.ts';
import { developmentOf, flattenPlaces } from '../settingout/development.ts';
import { flatBorder } from '../settingout/flatBorder.ts';
import { levelLine } from '../settingout/levelLines.ts';
import { cellMark } from '../tiling/marks.ts';
import { boundsOf, widthOf, type DrawnLine, type DrawnText, type Drawing, type Kind, type Layer } from './drawing.ts';

/** Between two faces, and between a face and its name, as shares of the height of the tallest. */
const [GAP, BELOW] = [0.12, 0.08];
/** Heights of titles as a share of the same, and of marks as a share of a cell's smaller side. */
const [TITLE, MARK] = [0.03, 0.22];
/** A mark stays within this share of its cell's width. */
const WITHIN = 0.8;

/** All divided faces laid flat side by side, each with its cells and their marks, openings, levels and its name, mm. O(corners). */
export function developedDrawing(project: Project, model: Model): Drawing {
	const flats = model.faces.map((face) => flatFace(face, project));
	const tallest = flats.reduce((most, { bounds }) => Math.max(most, bounds[3] - bounds[1]), 0);
	let from = 0;
	const layers = flats.flatMap(({ face, layers, bounds: [x0, y0, x1] }) => {
		const [dx, dy] = [from - x0, -y0];
		from += x1 - x0 + tallest * GAP;
		const title: DrawnText = {
			x: (x0 + x1) / 2,
			y: y0 - tallest * BELOW,
			height: tallest * TITLE,
			text: `${face.mark}  ${face.name}`
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

function flatFace(face: FaceModel, { levels }: Project) {
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
		outlines.push({ points, closed: true, mark });
		marks.push(markIn(points, mark));
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

/** A mark in the middle of a cell, as large as fits. */
function markIn(points: readonly number[], text: string): DrawnText {
	let [x0, y0, x1, y1, x, y] = [Infinity, Infinity, -Infinity, -Infinity, 0, 0];
	for (let k = 0; k < points.length; k += 2) {
		x0 = Math.min(x0, points[k]!);
		x1 = Math.max(x1, points[k]!);
		y0 = Math.min(y0, points[k + 1]!);
		y1 = Math.max(y1, points[k + 1]!);
		x += (points[k]! * 2) / points.length;
		y += (points[k + 1]! * 2) / points.length;
	}
	const size = Math.min(x1 - x0, y1 - y0) * MARK;
	return { x, y, text, height: Math.min(size, ((x1 - x0) * WITHIN) / widthOf(text, 1)) };
}
