import { z } from 'zod';
import { projectSchema } from './schema.ts';

/** The document's JSON Schema (draft 2020-12) as text, for `docs/project.schema.json`. */
export function writeJsonSchema(): string {
	const schema = z.toJSONSchema(projectSchema, { io: 'input', target: 'draft-2020-12' });
	return JSON.stringify({ title: 'Zygaster project', ...schema }, null, '\t') + '\n';
}
