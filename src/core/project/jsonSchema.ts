import { z } from 'zod';
import { kitFileSchema } from './kitFile.ts';
import { projectSchema } from './schema.ts';

/** The document's JSON Schema (draft 2020-12) as text, for `docs/project.schema.json`. */
export const writeJsonSchema = (): string => asText('Zygaster project', projectSchema);

/** The JSON Schema of kit files, for `docs/kit.schema.json`. */
export const writeKitJsonSchema = (): string => asText('Zygaster kit', kitFileSchema);

const asText = (title: string, schema: z.ZodType) => `${JSON.stringify({ title, ...z.toJSONSchema(schema, { io: 'input', target: 'draft-2020-12' }) }, null, '\t')}\n`;
