import type { Point } from '../geometry/curve.ts';
import type { DividedFace } from '../project/faceResult.ts';
import { curveSegments } from '../readings/edgeCurves.ts';

/** The lines of a divided face. */
export interface FaceLines {
	readonly face: string;
	/** Of everything that they were made from. */
	readonly hash: string;
	/** Segments in mm less the model's origin, stride 6; left out where the other side has them already. */
	readonly segments?: Float32Array;
}

/** By what the lines of a divided face are known. */
export const linesName = ({ dividedHash }: Pick<DividedFace, 'dividedHash'>, origin: Point) =>
	`${dividedHash} ${origin.join()}`;

/** The chords of finer divisions are as near to the face as makes no difference. */
export const MOST_FOLLOWED = 20_000;

/** The edges of a divided face as they follow it: segments in mm less an origin, stride 6. */
export function linesOf({ charted, nodes, cells }: DividedFace, origin: Point): Float32Array<ArrayBuffer> {
	if (cells.edgeCount <= MOST_FOLLOWED) return curveSegments({ surface: charted.surface, nodes, cells }, origin);
	const segments = new Float32Array(cells.edgeCount * 6);
	for (let k = 0; k < cells.edgeCount * 2; k++)
		for (let c = 0; c < 3; c++) segments[k * 3 + c] = nodes.position[cells.edgeNodes[k]! * 3 + c]! - origin[c]!;
	return segments;
}
