import { closestPointFinder } from '../../geometry/closestPoint.ts';
import type { Point } from '../../geometry/curve.ts';
import { PatchCursor } from '../../geometry/patches.ts';
import { developmentOf, type ChartedFace } from '../../settingout/development.ts';

/** Lays points flat, mm, each where it is nearest to the face. */
export function flattener(charted: ChartedFace): (line: readonly Point[]) => Point[] {
	const nearest = closestPointFinder(charted.surface);
	const cursor = new PatchCursor(developmentOf(charted).patches);
	return (line) =>
		line.map((point): Point => {
			const { u, v } = nearest(point);
			cursor.evaluate(u, v);
			return [cursor.out[0]!, cursor.out[1]!, 0];
		});
}
