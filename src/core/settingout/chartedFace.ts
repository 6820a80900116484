import { endsOf } from '../geometry/borders.ts';
import { moveSeam } from '../geometry/seam.ts';
import { swapDirections, turnInsideOut, type Surface } from '../geometry/surface.ts';
import type { ChartedFace } from './development.ts';
import { referenceLength, type DirectionName } from './directions.ts';
import { invertChart } from './invertChart.ts';
import { seamShift } from './layLines.ts';
import { chartLengths } from './lengthChart.ts';
import type { SettingOut } from './spacing.ts';

/** A surface with how it closes and its true lengths. O(panels of the chart). */
export function chartFace(surface: Surface): ChartedFace {
	return { surface, ends: endsOf(surface), chart: chartLengths(surface) };
}

/** The face as its setting-out sees it: turned by a quarter, and begun where its seam is wanted. */
export function faceForSettingOut(face: ChartedFace, settingOut: SettingOut): ChartedFace {
	// Swapping turns the outside in; running the other way around turns it out again.
	const turned = settingOut.swap ? chartFace(turnInsideOut(swapDirections(face.surface))) : face;
	return withSeam(withSeam(turned, 'across', settingOut), 'up', settingOut);
}

function withSeam(face: ChartedFace, name: DirectionName, settingOut: SettingOut): ChartedFace {
	const across = name === 'across';
	if (!(across ? face.ends.closedAcross : face.ends.closedUp)) return face;
	const direction = settingOut[name];
	const length = referenceLength(face, name, direction);
	const way = direction.seam + seamShift(direction, length) / length;
	const share = way - Math.floor(way);
	if (share === 0) return face;
	const half = Float64Array.of(0.5);
	const found = across
		? invertChart(face.chart, Float64Array.of(share), half).us[0]!
		: invertChart(face.chart, half, Float64Array.of(share)).vs[0]!;
	return chartFace(
		across ? moveSeam(face.surface, found) : swapDirections(moveSeam(swapDirections(face.surface), found))
	);
}
