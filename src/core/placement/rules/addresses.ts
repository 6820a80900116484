import { z } from 'zod';
import { MOST_CELLS } from '../../limits.ts';

/** Address of a face: `mass/face`, by ids. */
export const faceAddress = z.string().max(121);

/** A row or column of a face, from 0: a face has no more cells than that. */
export const line = z.int().min(0).max(MOST_CELLS);
