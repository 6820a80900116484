import { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import { mapCurve, segmentsOf, type Point } from '../geometry/curve.ts';
import { extrudeCurve } from '../geometry/skin.ts';
import { hipFaces } from './hipRoof.ts';
import { height, positive } from './fields.ts';
import { unit } from './loft.ts';
import { polygonSurface } from './polygonSurface.ts';
import { isClosed, profileCurve, profileSchema, sidesOf } from './profile.ts';
import { type Settled, type ShapeFace, type ShapeKind } from './shapeKind.ts';

/** A footprint raised by storeys, with a roof. Walls part at the footprint's corners. */
export const blockSchema = z.strictObject({
	kind: z.literal('block'),
	footprint: profileSchema,
	base: height,
	/** Up to a height, or by so many storeys of one height. */
	rise: z.discriminatedUnion('kind', [
		z.strictObject({ kind: z.literal('storeys'), count: z.int().min(1).max(300), each: positive }),
		z.strictObject({ kind: z.literal('top'), height })
	]),
	roof: z.discriminatedUnion('kind', [
		z.strictObject({ kind: z.literal('open') }),
		z.strictObject({ kind: z.literal('flat') }),
		/** Slopes of one pitch from every wall, up to this height above the walls. */
		z.strictObject({ kind: z.literal('pitched'), height: positive })
	])
});

export type BlockShape = z.output<typeof blockSchema>;
type Block = Settled<BlockShape>;

export const block: ShapeKind<BlockShape> = {
	label: 'Block',
	help: 'A footprint raised by storeys, with walls and a roof',
	faces: (shape) => [...wallFaces(shape), ...roofFaces(shape)],
	surfaces: (shape) => {
		const top = topOf(shape);
		const walls = sidesOf(footprintOf(shape)).map((side) =>
			extrudeCurve(
				mapCurve(unit(side), ([x, y]) => [x, y, shape.base]),
				[0, 0, top - shape.base]
			)
		);
		return [...walls, ...roofOutlines(shape).map((outline) => polygonSurface(outline))];
	},
	check: (shape, report) => {
		if (!isClosed(shape.footprint)) report(['footprint'], 'a footprint must be a closed line');
		if (!(topOf(shape) > shape.base))
			report(['rise'], `the top at ${topOf(shape)} mm is not above the base at ${shape.base} mm`);
	}
};

const topOf = ({ base, rise }: Block) => (rise.kind === 'top' ? rise.height : base + rise.count * rise.each);

const footprintOf = ({ footprint }: Block) => profileCurve(footprint);

function wallFaces(shape: Block): ShapeFace[] {
	const count = sidesOf(footprintOf(shape)).length;
	return Array.from({ length: count }, (_, k) => ({
		id: `wall-${k + 1}`,
		name: count === 1 ? 'Wall' : `Wall ${k + 1}`
	}));
}

function roofFaces(shape: Block): ShapeFace[] {
	const count = roofOutlines(shape).length;
	return count < 2
		? [{ id: 'roof', name: 'Roof' }].slice(0, count)
		: Array.from({ length: count }, (_, k) => ({ id: `roof-${k + 1}`, name: `Roof ${k + 1}` }));
}

/** Corners of each roof face, anticlockwise from outside, its eaves first. */
function roofOutlines(shape: Block): Point[][] {
	const { roof } = shape;
	if (roof.kind === 'open') return [];
	const { curve, corners } = footprintOf(shape);
	const straight = curve.degree === 1 && corners.length === segmentsOf(curve);
	if (!straight)
		throw new ZygasterError(
			'profile',
			`a ${roof.kind} roof needs a footprint of straight walls with sharp corners; leave the roof open, or take away arcs and rounding`
		);
	const plan = Array.from({ length: segmentsOf(curve) }, (_, k): Point => [
		curve.control[k * 4]!,
		curve.control[k * 4 + 1]!,
		topOf(shape)
	]);
	return roof.kind === 'flat' ? [plan] : hipFaces(plan, roof.height);
}
