import type { FaceView } from '../../core/view/faceView.ts';

/** Cells of a face that are slivers. O(cells). */
export function sliversOf({ trim }: FaceView): number[] {
	const found: number[] = [];
	trim?.sliver.forEach((s, cell) => {
		if (s === 1) found.push(cell);
	});
	return found;
}
