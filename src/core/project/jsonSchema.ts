import { z } from 'zod';
import { takesLengthText } from '../units/lengthSchema.ts';
import { kitFileSchema } from './kitFile.ts';
import { projectSchema } from './schema.ts';

/** The document's JSON Schema (draft 2020-12) as text, for `docs/project.schema.json`. */
export const writeJsonSchema = (): string => asText('Zygaster project', projectSchema);

/** The JSON Schema of kit files, for `docs/kit.schema.json`. */
export const writeKitJsonSchema = (): string => asText('Zygaster kit', kitFileSchema);

const asText = (title: string, schema: z.ZodType) =>
	`${JSON.stringify({ title, ...z.toJSONSchema(schema, { io: 'input', target: 'draft-2020-12', override: allowLengthTexts }) }, null, '\t')}\n`;

/** Lengths may be texts with a unit, which the checks of a number do not concern. */
function allowLengthTexts({
	zodSchema,
	jsonSchema
}: {
	zodSchema: object;
	jsonSchema: z.core.JSONSchema.BaseSchema;
}): void {
	if (!takesLengthText(zodSchema)) return;
	Object.assign(jsonSchema, { type: ['number', 'string'] });
}
