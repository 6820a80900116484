import { z } from 'zod';
import { cos, sin } from '../elementary/index.ts';
import { ZygasterError } from '../errors.ts';
import { mapCurve, segmentsOf, unit, type Curve, type Point } from '../geometry/curve.ts';
import { skinCurves } from '../geometry/skin.ts';
import { angle, height, length } from './fields.ts';
import { checkRoof, flatRoof, roofFaces, roofSchema } from './flatRoof.ts';
import { profileCurve, profileSchema, sidesOf, type ProfileCurve } from './profile.ts';
import { checkRising, numberedFaces, type Settled, type ShapeKind } from './shapeKind.ts';

const scale = z.number().min(0.001).max(1000);

const loftSection = z.strictObject({
	height,
	profile: profileSchema,
	scaleX: scale.default(1),
	scaleY: scale.default(1),
	/** Anticlockwise about the section's own origin, radians. */
	turn: angle.default(0),
	shiftX: length.default(0),
	shiftY: length.default(0)
});

/** A body through level sections, each with a profile of its own. Across runs along a section, up to the next. */
export const loftSchema = z.strictObject({
	kind: z.literal('loft'),
	/** How the face runs from section to section. */
	along: z.enum(['smooth', 'straight']),
	/** Rising in height; all open or all closed. */
	sections: z.array(loftSection).min(2, 'needs at least two sections').max(50),
	/** Over the last section. */
	roof: roofSchema
});

export type LoftShape = z.output<typeof loftSchema>;
type Section = Settled<LoftShape>['sections'][number];

export const loft: ShapeKind<LoftShape> = {
	label: 'Loft',
	help: 'A body through level sections, each with a profile of its own',
	faces: (shape) => [...numberedFaces(sideSections(shape).length, 'side', 'Side'), ...roofFaces(shape)],
	surfaces: (shape) => {
		const sides = sideSections(shape).map((curves) =>
			skinCurves(
				curves,
				shape.sections.map((s) => s.height),
				shape.along
			)
		);
		const last = shape.sections.at(-1)!;
		return [...sides, ...flatRoof(shape, last.profile, (curve) => placed(curve, last))];
	},
	check: ({ sections, roof }, report) => {
		checkRising(
			sections.map((s) => s.height),
			(k) => ['sections', k, 'height'],
			'section',
			'above',
			report
		);
		checkRoof(roof, sections.at(-1)!.profile, report);
	}
};

/** The sections' curves, one list a face. Faces part at corners that all sections have alike. */
function sideSections(shape: Settled<LoftShape>): Curve[][] {
	const profiles = shape.sections.map((s, k) => inSection(k, () => profileCurve(s.profile)));
	const odd = profiles.findIndex((p) => p.closed !== profiles[0]!.closed);
	if (odd > 0)
		throw new ZygasterError(
			'profile',
			`section ${odd + 1} is ${profiles[odd]!.closed ? 'closed' : 'open'}, section 1 is not; all must be alike`
		);
	const alike = profiles.every((p) => cornerPlaces(p) === cornerPlaces(profiles[0]!));
	const sides = profiles.map((p) => (alike ? sidesOf(p) : [p.curve]));
	return sides[0]!.map((_, side) => sides.map((curves, k) => unit(placed(curves[side]!, shape.sections[k]!))));
}

const cornerPlaces = (p: ProfileCurve) => `${p.corners.join()} of ${segmentsOf(p.curve)}`;

function placed(curve: Curve, section: Omit<Section, 'profile'>): Curve {
	const { scaleX, scaleY, turn, shiftX, shiftY, height: z } = section;
	const [cosine, sine] = [cos(turn), sin(turn)];
	return mapCurve(curve, ([px, py]): Point => {
		const [x, y] = [px * scaleX, py * scaleY];
		return [x * cosine - y * sine + shiftX, x * sine + y * cosine + shiftY, z];
	});
}

function inSection<T>(k: number, work: () => T): T {
	try {
		return work();
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		throw new ZygasterError(cause.code, `section ${k + 1}: ${cause.message}`, '', { cause });
	}
}
