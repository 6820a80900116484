import { averagedKnots, interpolateValues } from '../geometry/interpolate.ts';
import { createSurface, type Surface } from '../geometry/surface.ts';

/** One arched section of a loft. All lengths in mm. */
export interface LoftSection {
	/** Place along the loft, as a share of its length from 0 to 1. */
	readonly at: number;
	/** Distance between the two feet. */
	readonly span: number;
	/** Height of the crown above the line between the feet; below it when negative. */
	readonly rise: number;
	/** Sideways shift of the crown. */
	readonly lean: number;
	/** Sideways shift of the whole section. */
	readonly shift: number;
	/** Height of the first foot above the ground. */
	readonly startHeight: number;
	/** Height of the second foot above the ground. */
	readonly endHeight: number;
}

/** A roof or shell through arched sections. Across runs along a section (+x), up along the length (+y). */
export interface LoftShape {
	readonly kind: 'loft';
	/** From the first section to the last, mm. */
	readonly length: number;
	/** At least two, rising in `at`. */
	readonly sections: readonly LoftSection[];
}

/**
 * The loft's face: each section is the parabola through feet and crown, held as a cubic; the control
 * points are interpolated along the length by a spline of the highest degree up to 3 that the number
 * of sections allows. Method: skinning, NURBS Book 10.3.
 */
export function loftSurface(shape: LoftShape): Surface {
	const { sections, length } = shape;
	const degreeV = Math.min(3, sections.length - 1);
	const parameters = sections.map((s) => s.at);
	const knotsV = averagedKnots(parameters, degreeV);
	const rows = sections.map((s) => sectionControls(s, length).flat());
	const controls = interpolateValues(parameters, rows, degreeV, knotsV);
	return createSurface({
		degreeU: 3,
		degreeV,
		knotsU: [0, 0, 0, 0, 1, 1, 1, 1],
		knotsV,
		points: controls.map((row) => [0, 3, 6, 9].map((k) => [row[k]!, row[k + 1]!, row[k + 2]!] as const))
	});
}

/** Cubic Bezier points of one section. */
function sectionControls(section: LoftSection, length: number): [number, number, number][] {
	const y = section.at * length;
	const start = [section.shift - section.span / 2, section.startHeight] as const;
	const end = [section.shift + section.span / 2, section.endHeight] as const;
	const middle = [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2] as const;
	// A parabola passes its crown half way to its control point.
	const apex = [middle[0] + 2 * section.lean, middle[1] + 2 * section.rise] as const;
	const between = (a: readonly [number, number], t: number): [number, number, number] => [
		a[0] + (apex[0] - a[0]) * t,
		y,
		a[1] + (apex[1] - a[1]) * t
	];
	return [between(start, 0), between(start, 2 / 3), between(end, 2 / 3), between(end, 0)];
}
