import { z } from 'zod';
import type { Builder } from './builder.ts';
import { wordSchema } from '../names.ts';
import { valueSchema, type Fields, type Shape, type ShapeOf } from './fields.ts';

/** Where a kind stands in the list of kinds. */
export type StepGroup = 'points' | 'lines' | 'numbers' | 'pieces' | 'bodies' | 'parts';

/** What all steps have. */
const common = {
	name: wordSchema,
	/** The step makes something only where this holds; what takes from it makes nothing either. */
	when: valueSchema.optional(),
	/** Pieces, or a mould, for each of which the step runs instead of for the host. */
	on: wordSchema.optional(),
	/** Switched off. */
	off: z.literal(true).optional()
};

type Schema<K extends string, F extends Fields> = z.ZodObject<
	{ kind: z.ZodLiteral<K> } & typeof common & ShapeOf<F>,
	z.core.$strict
>;

/** One kind of step: its fields, its words and what it does. */
export interface StepKind<K extends string = string, F extends Fields = Fields> {
	readonly kind: K;
	readonly group: StepGroup;
	/** What it makes for other steps, or the same as what it is made of; parts make nothing. */
	readonly makes: Shape | 'same' | 'number' | 'part';
	readonly label: string;
	readonly help: string;
	readonly fields: F;
	readonly schema: Schema<K, F>;
	/** Adds the step to a program. Throws a ZygasterError with code `kit`. */
	readonly compile: (step: z.output<Schema<K, F>>, builder: Builder) => void;
}

/** Declares a kind of step: its fields are typed by their table. */
export function stepKind<const K extends string, F extends Fields>(
	definition: Omit<StepKind<K, F>, 'schema'>
): StepKind<K, F> {
	const shape = Object.fromEntries(Object.entries(definition.fields).map(([name, { schema }]) => [name, schema]));
	return {
		...definition,
		schema: z.strictObject({ kind: z.literal(definition.kind), ...common, ...shape }) as unknown as Schema<K, F>
	};
}
