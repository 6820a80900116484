import { z } from 'zod';
import { cos, sin } from '../elementary/index.ts';
import type { Point } from '../geometry/curve.ts';
import { mapSurface, turnInsideOut, type Surface } from '../geometry/surface.ts';
import { angle, length } from './fields.ts';

/** Where a mass stands: mirrored east to west first, then turned about its own origin, then moved. */
export const frameSchema = z.strictObject({
	x: length.default(0),
	y: length.default(0),
	/** Height of the mass's own ground. */
	z: length.default(0),
	/** Anticlockwise seen from above, radians. */
	turn: angle.default(0),
	mirrored: z.boolean().default(false)
});

export type Frame = z.output<typeof frameSchema>;

export const STANDING_FRAME: Frame = { x: 0, y: 0, z: 0, turn: 0, mirrored: false };

/** A point of the mass in the world. */
export function toWorld(frame: Frame, [px, y, z]: Point): Point {
	const x = frame.mirrored ? -px : px;
	const [cosine, sine] = [cos(frame.turn), sin(frame.turn)];
	return [x * cosine - y * sine + frame.x, x * sine + y * cosine + frame.y, z + frame.z];
}

/** A direction of the world in the mass. */
export function toMass(frame: Frame, [x, y, z]: Point): Point {
	const [cosine, sine] = [cos(frame.turn), sin(frame.turn)];
	const across = x * cosine + y * sine;
	return [frame.mirrored ? -across : across, -x * sine + y * cosine, z];
}

/** A face of the mass where it stands; its outside stays outside when the mass is mirrored. */
export function placeSurface(surface: Surface, frame: Frame): Surface {
	const { x, y, z, turn, mirrored } = frame;
	if (x === 0 && y === 0 && z === 0 && turn === 0 && !mirrored) return surface;
	const placed = mapSurface(surface, (p) => toWorld(frame, p));
	return mirrored ? turnInsideOut(placed) : placed;
}
