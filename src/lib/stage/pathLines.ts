import type { FaceView } from '../../core/view/faceView.ts';

/** Lines of a drawn path with its copies, behind other lines; pairs of points in mm less the model's origin, stride 6. */
export function pathLines(
	{ drawn }: Pick<FaceView, 'drawn'>,
	path: string | undefined,
	others: Float32Array | undefined
): Float32Array | undefined {
	const { ids, start, closed, points } = drawn;
	const lines: number[] = [];
	ids.forEach((id, k) => {
		if (id !== path) return;
		const count = start[k + 1]! - start[k]!;
		for (let p = 0; p < (closed[k] ? count : count - 1); p++)
			for (const end of [p, (p + 1) % count]) {
				const o = (start[k]! + end) * 3;
				lines.push(points[o]!, points[o + 1]!, points[o + 2]!);
			}
	});
	if (!lines.length) return others;
	return Float32Array.from([...(others ?? []), ...lines]);
}
