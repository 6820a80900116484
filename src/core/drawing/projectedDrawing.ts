import type { Point } from '../geometry/curve.ts';
import { bodySkin } from '../geometry/bodySkin.ts';
import { dot, pointAt } from '../geometry/vectors.ts';
import type { Mesh } from '../kit/mesh.ts';
import { cellMesh } from '../project/cellMesh.ts';
import type { FaceModel } from '../project/faceResult.ts';
import type { Model } from '../project/pipeline.ts';
import type { Project } from '../project/schema.ts';
import { NO_CELL } from '../tiling/cells.ts';
import { cellMark } from '../tiling/marks.ts';
import {
	boundsOf,
	markWithin,
	type DrawnLine,
	type DrawnText,
	type Drawing,
	type Kind,
	type Layer
} from './drawing.ts';
import { seenFrom, type Eye } from './eye.ts';
import { HiddenLines } from './hiddenLines.ts';

/** A mark is written where its cell looks at the eye by more than this cosine. */
const READABLE = 0.3;

export interface Projected {
	readonly eye: Eye;
	/** Nothing nearer than this is shown, and what lies there is drawn as cut, mm towards the eye. */
	readonly nearest: number;
	/** Keys of the faces that are there; all where there is none. */
	readonly faces: readonly string[];
}

/** Goes through the bodies that may be cut, in the project's coordinates. */
export type EachBody = (visit: (mesh: Mesh) => void) => void;

/**
 * The model seen straight on: edges of cells that can be seen, borders heavier, marks, faces that are not divided by their
 * borders, and what is cut. mm, from the project's origin along the eye's axes. O(edges x triangles over them).
 */
export function projectedDrawing(
	project: Project,
	model: Model,
	{ eye, nearest, faces }: Projected,
	eachBody: EachBody
): Drawing {
	const wanted = new Set(faces);
	const isThere = ({ key }: { readonly key: string }) => wanted.size === 0 || wanted.has(key);
	const shown = { faces: model.faces.filter(isThere), bodies: model.bodies.filter(isThere) };
	const hidden = new HiddenLines({ triangles: trianglesSeen(shown, eye), nearest });
	const layers: Layer[] = [];
	const add = (name: string, kind: Kind, lines: readonly DrawnLine[], texts: readonly DrawnText[] = []) => {
		if (lines.length + texts.length) layers.push({ name, kind, lines, texts });
	};
	for (const face of shown.faces) {
		const { grid, border } = edgesOf(face, eye, hidden);
		add(`${face.mark}-grid`, 'grid', grid);
		add(`${face.mark}-border`, 'border', border);
		add(`${face.mark}-marks`, 'marks', [], marksOf(face, eye, hidden));
	}
	const divided = new Set(shown.faces.map((f) => f.key));
	const others = shown.bodies
		.filter(({ key }) => !divided.has(key))
		.flatMap(({ surface }) => outlineOf(surface, eye, hidden));
	add('others', 'others', others);
	if (nearest < Infinity) add('cut', 'cut', cutLines(eachBody, eye, nearest));
	return { title: project.name, layers, bounds: boundsOf(layers) };
}

/** The middle of the box that a model takes in, mm; the origin of an empty one. */
export function middleOf({ bodies }: Model): Point {
	const low = [Infinity, Infinity, Infinity];
	const high = [-Infinity, -Infinity, -Infinity];
	for (const { surface } of bodies) {
		const { position } = bodySkin(surface).points;
		position.forEach((v, k) => {
			low[k % 3] = Math.min(low[k % 3]!, v);
			high[k % 3] = Math.max(high[k % 3]!, v);
		});
	}
	return bodies.length ? ([0, 1, 2].map((c) => (low[c]! + high[c]!) / 2) as unknown as Point) : [0, 0, 0];
}

/** All triangles of cells and of faces that are not divided, as the eye sees them. */
function trianglesSeen({ faces, bodies }: Pick<Model, 'faces' | 'bodies'>, eye: Eye): Float64Array {
	const divided = new Map(faces.map((f) => [f.key, f]));
	const meshes = bodies.map((body) => {
		const face = divided.get(body.key);
		if (face) {
			// Near to the face, so that single precision does.
			const origin = pointAt(face.nodes.position, 0);
			const { positions } = cellMesh(face, origin);
			return { count: positions.length / 3, at: (k: number): Point => pointAt(positions, k * 3), origin };
		}
		const { points, indices } = bodySkin(body.surface);
		const at = (k: number) => pointAt(points.position, indices[k]! * 3);
		return { count: indices.length, at, origin: [0, 0, 0] as Point };
	});
	const out = new Float64Array(meshes.reduce((sum, m) => sum + m.count * 3, 0));
	let next = 0;
	for (const { count, at, origin } of meshes) {
		const moved = seenFrom(eye, origin);
		for (let k = 0; k < count; k++) {
			const p = seenFrom(eye, at(k));
			for (let c = 0; c < 3; c++) out[next++] = p[c]! + moved[c]!;
		}
	}
	return out;
}

/** The visible pieces of a line through points, as lines of their own. */
function seeLine(points: readonly Point[], hidden: HiddenLines, out: DrawnLine[], mark?: string): void {
	for (let k = 0; k + 1 < points.length; k++) {
		const [a, b] = [points[k]!, points[k + 1]!];
		const at = (t: number) => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
		hidden.visible(...a, ...b, (from, to) =>
			out.push({ points: [...at(from), ...at(to)], closed: false, ...(mark === undefined ? {} : { mark }) })
		);
	}
}

function edgesOf({ cells, nodes: { position } }: FaceModel, eye: Eye, hidden: HiddenLines) {
	const grid: DrawnLine[] = [];
	const border: DrawnLine[] = [];
	const { edgeCount, edgeNodes, edgeCells, edgeBends } = cells;
	for (let e = 0; e < edgeCount; e++) {
		const bends = edgeBends ? [...edgeBends.nodes.subarray(edgeBends.start[e], edgeBends.start[e + 1])] : [];
		const points = [edgeNodes[e * 2]!, ...bends, edgeNodes[e * 2 + 1]!].map((n) =>
			seenFrom(eye, pointAt(position, n * 3))
		);
		seeLine(points, hidden, edgeCells[e * 2 + 1] === NO_CELL ? border : grid);
	}
	return { grid, border };
}

/** Marks of the cells whose middles can be seen and that look at the eye. */
function marksOf(face: FaceModel, eye: Eye, hidden: HiddenLines): DrawnText[] {
	const { cells, nodes, readings } = face;
	const source = { ...cells, mark: face.mark, template: face.template };
	const marks: DrawnText[] = [];
	for (let c = 0; c < cells.count; c++) {
		if (dot(pointAt(readings.normal, c * 3), eye.towards) < READABLE) continue;
		const corners = Array.from(cells.corners.subarray(cells.cornerStart[c], cells.cornerStart[c + 1]), (n) =>
			seenFrom(eye, pointAt(nodes.position, n * 3))
		);
		const z = corners.reduce((sum, p) => sum + p[2] / corners.length, 0);
		const text = markWithin(
			corners.flatMap((p) => [p[0], p[1]]),
			cellMark(source, c)
		);
		if (hidden.sees(text.x, text.y, z)) marks.push(text);
	}
	return marks;
}

/** The visible borders of a face that is not divided. */
function outlineOf(surface: FaceModel['surface'], eye: Eye, hidden: HiddenLines): DrawnLine[] {
	const { points, across } = gridOf(surface);
	const up = points.length / 3 / across;
	const at = (i: number, j: number) => seenFrom(eye, pointAt(points, (j * across + i) * 3));
	const out: DrawnLine[] = [];
	const columns = Array.from({ length: across }, (_, i) => i);
	const rows = Array.from({ length: up }, (_, j) => j);
	for (const line of [
		columns.map((i) => at(i, 0)),
		columns.map((i) => at(i, up - 1)),
		rows.map((j) => at(0, j)),
		rows.map((j) => at(across - 1, j))
	])
		seeLine(line, hidden, out);
	return out;
}

const gridOf = (surface: FaceModel['surface']) => {
	const { points, across } = bodySkin(surface);
	return { points: points.position, across };
};

/** Where bodies cross a plane straight before the eye. */
function cutLines(eachBody: EachBody, eye: Eye, nearest: number): DrawnLine[] {
	const out: DrawnLine[] = [];
	eachBody(({ positions, triangles }) => {
		const depth = Float64Array.from({ length: positions.length / 3 }, (_, p) =>
			dot(pointAt(positions, p * 3), eye.towards)
		);
		for (let t = 0; t < triangles.length; t += 3) {
			const ends: number[] = [];
			for (let k = 0; k < 3; k++) {
				const [a, b] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!];
				const [da, db] = [depth[a]! - nearest, depth[b]! - nearest];
				if (da < 0 === db < 0) continue;
				const [p, q] = [seenFrom(eye, pointAt(positions, a * 3)), seenFrom(eye, pointAt(positions, b * 3))];
				const share = da / (da - db);
				ends.push(p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share);
			}
			if (ends.length === 4) out.push({ points: ends, closed: false });
		}
	});
	return out;
}
