import { z } from 'zod';
import { labelSchema } from '../../names.ts';
import { TOLERANCE_CLASSES } from './tolerance.ts';

/** Within what pieces of one role are alike. */
const typeRuleSchema = z.strictObject({
	role: labelSchema,
	/** A class of ISO 2768-1, or mm that any size may be off. */
	tolerance: z.union([z.enum(TOLERANCE_CLASSES), z.number().positive().max(100)]).default('medium'),
	/** A piece and its mirror image are alike. */
	mirrored: z.boolean().default(false)
});
export type TypeRule = z.output<typeof typeRuleSchema>;

/** How pieces are sorted into types. */
export const typeSettingsSchema = z.strictObject({
	/** One a role; of roles without one class m holds, and mirror images are types of their own. */
	rules: z
		.array(typeRuleSchema)
		.max(50)
		.refine((rules) => new Set(rules.map((r) => r.role)).size === rules.length, 'must name no role twice')
		.default([]),
	/** The most frequent type first, or the one whose first piece comes first. */
	numbered: z.enum(['frequency', 'order']).default('frequency'),
	/** Numbers that have been fixed: by a type's mark, what its pieces are known by (see `fixedNumbers.ts`). */
	fixed: z.record(z.string().regex(/^[A-Z]-\d{3,9}$/), z.base64()).default({})
});
export type TypeSettings = z.output<typeof typeSettingsSchema>;
export const USUAL_TYPES: TypeSettings = { rules: [], numbered: 'frequency', fixed: {} };
