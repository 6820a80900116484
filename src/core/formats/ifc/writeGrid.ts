import { pointAt } from '../../geometry/vectors.ts';
import type { FaceModel } from '../../project/faceResult.ts';
import { stepList, stepReal, stepText, type Instance } from '../step/stepText.ts';
import { PART, type GlobalIds } from './globalId.ts';
import type { IfcWriter } from './ifcWriter.ts';

/** mm: coordinates are written to a thousandth. */
const PER_MM = 1000;

/**
 * The grid of a face as two annotations: its lines (edges of cells) and its setting-out nodes. A grid of the standard's own is
 * flat, which these are not. Answers the names of both.
 */
export function writeGrid(
	step: IfcWriter,
	ids: (name: string) => GlobalIds,
	placement: Instance,
	context: Instance,
	{ key, name, mark, nodes, cells }: FaceModel
): Instance[] {
	const points = new Map<number, Instance>();
	const point = (node: number) => {
		const there =
			points.get(node) ??
			step.add(
				'IFCCARTESIANPOINT',
				stepList(pointAt(nodes.position, node * 3).map((v) => stepReal(Math.round(v * PER_MM) / PER_MM)))
			);
		points.set(node, there);
		return there;
	};
	const used = [...new Set(cells.corners)].map(point);
	const { edgeCount, edgeNodes, edgeBends } = cells;
	const lines = Array.from({ length: edgeCount }, (_, e) => {
		const bends = edgeBends ? [...edgeBends.nodes.subarray(edgeBends.start[e], edgeBends.start[e + 1])] : [];
		return step.add('IFCPOLYLINE', [edgeNodes[e * 2]!, ...bends, edgeNodes[e * 2 + 1]!].map(point));
	});
	const annotation = (kind: string, type: string, items: readonly Instance[]) => {
		const set = step.add(type, items);
		const shape = step.add('IFCSHAPEREPRESENTATION', context, "'Annotation'", typeName(type), [set]);
		const product = step.add('IFCPRODUCTDEFINITIONSHAPE', '$', '$', [shape]);
		const words = [stepText(`${mark} ${kind}`), stepText(`${kind} of ${name}`), stepText(kind)];
		return step.root('IFCANNOTATION', ids(`${kind} ${key}`), PART.itself, ...words, placement, product);
	};
	const made: Instance[] = [];
	if (lines.length) made.push(annotation('grid lines', 'IFCGEOMETRICCURVESET', lines));
	if (used.length) made.push(annotation('setting-out nodes', 'IFCGEOMETRICSET', used));
	return made;
}

const typeName = (type: string) => (type === 'IFCGEOMETRICCURVESET' ? "'GeometricCurveSet'" : "'GeometricSet'");
