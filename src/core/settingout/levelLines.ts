import { evaluateGridPoints } from '../geometry/evaluate.ts';
import { developmentOf, type ChartedFace } from './development.ts';

/**
 * Where a horizontal plane cuts a face, laid flat: pairs of points, mm, stride 4 a segment. Straight between
 * the panel borders of the face's chart; for drawing.
 */
export function levelLine(face: ChartedFace, height: number): Float32Array {
	const { us, vs } = face.chart.shares;
	const { corners } = developmentOf(face);
	const { position } = evaluateGridPoints(face.surface, us, vs);
	const n = us.length;
	const over = (k: number) => position[k * 3 + 2]! - height;
	const segments: number[] = [];
	for (let j = 0; j + 1 < vs.length; j++)
		for (let i = 0; i + 1 < n; i++) {
			const k = j * n + i;
			const found: number[] = [];
			for (const [a, b] of [
				[k, k + 1],
				[k + 1, k + n + 1],
				[k + n + 1, k + n],
				[k + n, k]
			] as const) {
				if (over(a) >= 0 === over(b) >= 0) continue;
				const share = over(a) / (over(a) - over(b));
				for (const c of [0, 1]) found.push(corners[a * 2 + c]! + (corners[b * 2 + c]! - corners[a * 2 + c]!) * share);
			}
			if (found.length >= 4) segments.push(...found.slice(0, 4));
		}
	return Float32Array.from(segments);
}
