import earcut from 'earcut';
import { axesSquareTo, type Axis } from './axes.ts';
import { patternOf, type KitProgram } from './program.ts';

/**
 * The program for one host with the sheets that fill their outline triangulated as that outline really is:
 * dented outlines, and those with holes, are no fans. `points` are the host's, stride 3, `normal` is its own.
 */
export function fillSheets(program: KitProgram, points: Float64Array, normal: readonly [number, number, number]): KitProgram {
	const [right, up] = axesSquareTo(normal);
	return {
		...program,
		parts: program.parts.map((part) => {
			if (!part.fills) return part;
			const used = part.fills.flatMap(({ first, count }) => Array.from({ length: count }, (_, k) => first + k));
			const flat = used.flatMap((p) => [dotAt(points, p, right), dotAt(points, p, up)]);
			let at = 0;
			const holes = part.fills.slice(0, -1).map(({ count }) => (at += count));
			const triangles = Uint16Array.from(earcut(flat, holes), (k) => used[k]!);
			return { ...patternOf(part.step, anticlockwise(triangles, flat, used), part.run), fills: part.fills };
		})
	};
}

/** The package turns its triangles either way; parts turn anticlockwise seen from outside. */
function anticlockwise(triangles: Uint16Array, flat: readonly number[], used: readonly number[]): Uint16Array {
	const at = new Map(used.map((p, k) => [p, k * 2]));
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => at.get(triangles[t + k]!)!) as [number, number, number];
		const turn = (flat[b]! - flat[a]!) * (flat[c + 1]! - flat[a + 1]!) - (flat[c]! - flat[a]!) * (flat[b + 1]! - flat[a + 1]!);
		if (turn < 0) [triangles[t + 1], triangles[t + 2]] = [triangles[t + 2]!, triangles[t + 1]!];
	}
	return triangles;
}

const dotAt = (points: Float64Array, p: number, a: Axis) => points[p * 3]! * a[0] + points[p * 3 + 1]! * a[1] + points[p * 3 + 2]! * a[2];
