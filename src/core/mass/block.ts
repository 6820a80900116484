import { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import { mapCurve, unit, type Point } from '../geometry/curve.ts';
import { extrudeCurve } from '../geometry/skin.ts';
import type { Surface } from '../geometry/surface.ts';
import { cornersOf, hasSharpCorners, outlineOf, roofOver } from './flatRoof.ts';
import { hipFaces } from './hipRoof.ts';
import { height, positive } from './fields.ts';
import { isClosed, profileCurve, profileSchema, sidesOf, type ProfileCurve } from './profile.ts';
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
		return [...walls, ...roofs(shape)];
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
	const { roof } = shape;
	if (roof.kind !== 'pitched') return roof.kind === 'flat' ? [{ id: 'roof', name: 'Roof' }] : [];
	const count = pitches(shape, roof.height).length;
	return Array.from({ length: count }, (_, k) => ({ id: `roof-${k + 1}`, name: `Roof ${k + 1}` }));
}

function roofs(shape: Block): Surface[] {
	const { roof } = shape;
	switch (roof.kind) {
		case 'open':
			return [];
		case 'flat':
			return [roofOver(eavesOf(shape))];
		case 'pitched':
			return pitches(shape, roof.height).map((outline) => roofOver(outlineOf(outline)));
	}
}

/** The upper border of the walls. */
function eavesOf(shape: Block): ProfileCurve {
	const footprint = footprintOf(shape);
	return { ...footprint, curve: mapCurve(footprint.curve, ([x, y]) => [x, y, topOf(shape)]) };
}

/** Corners of each face of a pitched roof, anticlockwise from outside, its eaves first. */
function pitches(shape: Block, height: number): Point[][] {
	const eaves = eavesOf(shape);
	if (!hasSharpCorners(eaves))
		throw new ZygasterError(
			'profile',
			'a pitched roof needs a footprint of straight walls with sharp corners; take away arcs and rounding, or choose a flat roof'
		);
	return hipFaces(cornersOf(eaves.curve), height);
}
