import { z } from 'zod';

const name = z.string().trim().min(1, 'A project needs a name.').max(120, 'At most 120 characters.');

export const createSchema = z.object({ name });
export const renameSchema = z.object({ id: z.string(), name });
export const idSchema = z.object({ id: z.string() });
export const tokenSchema = z.object({
	name: z.string().trim().min(1, 'A token needs a name.').max(120, 'At most 120 characters.')
});
