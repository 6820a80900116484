import { z } from 'zod';
import { lengthOr } from '../units/lengthSchema.ts';

/** Lengths stay within 100 km, so that a mistyped figure is caught before it is computed. */
export const length = lengthOr(z.number().min(-1e8).max(1e8));
export const positive = lengthOr(z.number().min(1, 'must be at least 1 mm').max(1e8));
/** 0 or more. */
export const zeroOrMore = lengthOr(z.number().min(0).max(1e8));
/** Radians; several turns either way. */
export const angle = z.number().min(-100).max(100);
export const share = z.number().min(0).max(1);

/** A height, mm above the ground or above a level that it hangs on. */
export const height = z.union([length, z.strictObject({ level: z.string().max(60), above: length.default(0) })]);
export type Height = z.output<typeof height>;

/** A point in space, mm. */
export const point = z.strictObject({ x: length, y: length, z: height });
