import { SAME_BREAK } from '../tolerances.ts';
import { raiseDegree, segmentsOf, splitAt, withBreaks, type Curve } from './curve.ts';

/**
 * The same curves with one degree and the same breaks, ready to be skinned; domains must be [0, 1].
 * Curves with as many segments correspond segment by segment, others by the share along them.
 */
export function makeCompatible(curves: readonly Curve[]): Curve[] {
	const degree = Math.max(...curves.map((c) => c.degree));
	const raised = curves.map((c) => raiseDegree(c, degree));
	const count = segmentsOf(raised[0]!);
	if (raised.every((c) => segmentsOf(c) === count)) {
		const mean = raised[0]!.breaks.map((_, k) => raised.reduce((sum, c) => sum + c.breaks[k]!, 0) / raised.length);
		return raised.map((c) => withBreaks(c, mean));
	}
	const all = mergeBreaks(raised);
	return raised.map((c) => withBreaks(splitAt(c, all), all));
}

function mergeBreaks(curves: readonly Curve[]): number[] {
	const sorted = curves.flatMap((c) => [...c.breaks]).sort((a, b) => a - b);
	const merged = sorted.filter((b, k) => k === 0 || b - sorted[k - 1]! > SAME_BREAK);
	merged[merged.length - 1] = 1;
	return merged;
}
