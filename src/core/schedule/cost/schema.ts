import { z } from 'zod';
import { labelSchema, nameSchema } from '../../names.ts';

/** What a price is for one of. */
export const PRICED_BY = ['piece', 'm', 'm2', 'm3', 'kg'] as const;
export type PricedBy = (typeof PRICED_BY)[number];

/** A price for pieces: of one role, material, kit or type, or for all where nothing is said. */
export const rateSchema = z.strictObject({
	id: nameSchema,
	/** What is paid: of rates with one heading the narrowest holds, headings add up. */
	heading: labelSchema,
	role: labelSchema.optional(),
	material: nameSchema.optional(),
	kit: nameSchema.optional(),
	/** Mark of a type. */
	type: labelSchema.optional(),
	per: z.enum(PRICED_BY),
	price: z.number().min(0).max(1e9),
	/** What is bought beyond what is built in, as a share of it. */
	waste: z.number().min(0).max(5).default(0)
});
export type Rate = z.output<typeof rateSchema>;

const side = z.number().min(100).max(20_000);

export const costsSchema = z.strictObject({
	/** ISO 4217. */
	currency: z
		.string()
		.regex(/^[A-Z]{3}$/, 'must be three capital letters such as EUR')
		.default('EUR'),
	rates: z.array(rateSchema).max(500).default([]),
	/** What thin pieces are cut from, mm: length and width of a sheet. */
	sheet: z.tuple([side, side]).default([3000, 1500]),
	/** Section of the sealant between two pieces, mm2; 0 without any. */
	sealant: z.number().min(0).max(10_000).default(0)
});
export type Costs = z.output<typeof costsSchema>;
