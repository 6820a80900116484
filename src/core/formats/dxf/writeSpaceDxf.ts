import { pointAt } from '../../geometry/vectors.ts';
import type { FaceModel } from '../../project/faceResult.ts';
import type { Model } from '../../project/pipeline.ts';
import { isSpecial } from '../../tiling/cells.ts';
import { cellTriangles } from '../../tiling/cellTriangles.ts';
import type { Sink } from '../sink.ts';
import { DxfWriter } from './dxfWriter.ts';

/** What stands on a layer, with its colour as a number of the format. */
const LAYERS = { cells: 8, edges: 7, nodes: 4 } as const;

/** The grids of all faces in space as DXF, release 12: cells as faces of three or four corners, edges as lines, nodes as points; mm. O(corners). */
export function writeSpaceDxf({ faces }: Model, sink: Sink): void {
	const out = new DxfWriter(sink);
	const [least, most] = extentOf(faces);
	out.head(
		least,
		most,
		faces.flatMap(({ mark }) => Object.entries(LAYERS).map(([name, colour]) => ({ name: `${mark}-${name}`, colour })))
	);
	for (const face of faces) {
		const { mark, cells, nodes } = face;
		const put = (node: number, first: number) => out.point(...pointAt(nodes.position, node * 3), first);
		for (const corners of facesOf(face)) {
			out.entity('3DFACE', `${mark}-cells`);
			// One of three corners has its last one twice.
			for (let k = 0; k < 4; k++) put(corners[k] ?? corners[2]!, 10 + k);
		}
		const { edgeCount, edgeNodes, edgeBends } = cells;
		for (let e = 0; e < edgeCount; e++) {
			const bends = edgeBends ? [...edgeBends.nodes.subarray(edgeBends.start[e], edgeBends.start[e + 1])] : [];
			const line = [edgeNodes[e * 2]!, ...bends, edgeNodes[e * 2 + 1]!];
			for (let k = 0; k + 1 < line.length; k++) {
				out.entity('LINE', `${mark}-edges`);
				put(line[k]!, 10);
				put(line[k + 1]!, 11);
			}
		}
		for (const node of new Set(cells.corners)) {
			out.entity('POINT', `${mark}-nodes`);
			put(node, 10);
		}
	}
	out.end();
}

/** The cells of a face in pieces of three or four corners, numbers of nodes. */
function* facesOf({ cells, nodes, readings }: FaceModel): Generator<readonly number[]> {
	const { count, cornerStart, corners } = cells;
	for (let c = 0; c < count; c++) {
		const line = [...corners.subarray(cornerStart[c], cornerStart[c + 1])];
		if (line.length <= 4 && !isSpecial(cells, c)) {
			yield line;
			continue;
		}
		const triangles = cellTriangles(cells, c, nodes.position, readings.normal);
		for (let t = 0; t < triangles.length; t += 3) yield triangles.slice(t, t + 3);
	}
}

function extentOf(faces: readonly FaceModel[]): [[number, number, number], [number, number, number]] {
	const least: [number, number, number] = [Infinity, Infinity, Infinity];
	const most: [number, number, number] = [-Infinity, -Infinity, -Infinity];
	for (const { nodes } of faces)
		nodes.position.forEach((v, k) => {
			least[k % 3] = Math.min(least[k % 3]!, v);
			most[k % 3] = Math.max(most[k % 3]!, v);
		});
	return [least, most];
}
