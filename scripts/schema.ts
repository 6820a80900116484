// Writes docs/project.schema.json from the Zod schema; a test holds the two together.
import { writeFileSync } from 'node:fs';
import { writeJsonSchema } from '../src/core/project/jsonSchema.ts';

writeFileSync('docs/project.schema.json', writeJsonSchema());
