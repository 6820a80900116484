import { z } from 'zod';
import { averagedKnots, interpolateValues } from '../geometry/interpolate.ts';
import { createSurface, type Surface } from '../geometry/surface.ts';
import { height, length, positive, share } from './fields.ts';
import { checkRising, ONE_FACE, type Settled, type ShapeKind } from './shapeKind.ts';

/** One arched section of a vault. All lengths in mm. */
const vaultSection = z.strictObject({
	/** Place along the vault, as a share of its length from 0 to 1. */
	at: share,
	/** Distance between the two feet. */
	span: positive,
	/** Height of the crown above the line between the feet; below it when negative. */
	rise: length,
	/** Sideways shift of the crown. */
	lean: length.default(0),
	/** Sideways shift of the whole section. */
	shift: length.default(0),
	/** Height of the first foot. */
	startHeight: height.default(0),
	/** Height of the second foot. */
	endHeight: height.default(0)
});

/** A roof or shell through arched sections. Across runs along a section (+x), up along the length (+y). */
export const vaultSchema = z.strictObject({
	kind: z.literal('vault'),
	/** From the first section to the last, mm. */
	length: positive,
	/** Rising in `at`, from 0 to 1. */
	sections: z.array(vaultSection).min(2, 'needs at least two sections').max(50)
});

export type VaultShape = z.output<typeof vaultSchema>;
type VaultSection = Settled<VaultShape>['sections'][number];

export const vault: ShapeKind<VaultShape> = {
	label: 'Vault',
	help: 'A roof or shell through arched sections along a length',
	faces: () => ONE_FACE,
	surfaces: (shape) => [vaultSurface(shape)],
	check: ({ sections }, report) => {
		const path = (k: number) => ['sections', k, 'at'];
		checkRising(
			sections.map((s) => s.at),
			path,
			'section',
			'after',
			report
		);
		if (sections[0]!.at !== 0) report(path(0), 'the first section must stand at 0');
		if (sections.at(-1)!.at !== 1) report(path(sections.length - 1), 'the last section must stand at 1');
	}
};

/**
 * The vault's face: each section is the parabola through feet and crown, held as a cubic; the control
 * points are interpolated along the length by a spline of the highest degree up to 3 that the number
 * of sections allows. Method: skinning, NURBS Book 10.3.
 */
export function vaultSurface(shape: Settled<VaultShape>): Surface {
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
function sectionControls(section: VaultSection, length: number): [number, number, number][] {
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
