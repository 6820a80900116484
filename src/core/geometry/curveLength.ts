import { hypot } from '../elementary/index.ts';
import { evaluateCurve, segmentsOf, withBreaks, type Curve } from './curve.ts';
import { GAUSS_POINTS, GAUSS_WEIGHTS } from './quadrature.ts';

/** Parts that a segment is measured in; a quarter circle is then right to 1e-9. */
const PARTS = 8;

/** True length of each segment, mm, by Gauss-Legendre quadrature. */
export function segmentLengths(curve: Curve): number[] {
	return Array.from({ length: segmentsOf(curve) }, (_, s) => {
		const [from, to] = [curve.breaks[s]!, curve.breaks[s + 1]!];
		const width = (to - from) / PARTS;
		const parameters = Array.from({ length: PARTS }, (_, p) => GAUSS_POINTS.map((g) => from + (p + g) * width)).flat();
		const { derivative } = evaluateCurve(curve, parameters);
		return parameters.reduce((sum, _, k) => {
			const speed = hypot(derivative[k * 3]!, derivative[k * 3 + 1]!, derivative[k * 3 + 2]!);
			return sum + GAUSS_WEIGHTS[k % 4]! * width * speed;
		}, 0);
	});
}

/** The curve with the domain [0, 1] and its breaks at their shares of true length. */
export function byLength(curve: Curve): Curve {
	const lengths = segmentLengths(curve);
	const total = lengths.reduce((a, b) => a + b, 0);
	let at = 0;
	const breaks = [0, ...lengths.map((l) => (at += l) / total)];
	breaks[breaks.length - 1] = 1;
	return withBreaks(curve, breaks);
}
