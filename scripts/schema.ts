// Writes the published JSON Schemas from the Zod schemas; a test holds them together.
import { writeFileSync } from 'node:fs';
import { writeJsonSchema, writeKitJsonSchema } from '../src/core/project/jsonSchema.ts';

writeFileSync('docs/project.schema.json', writeJsonSchema());
writeFileSync('docs/kit.schema.json', writeKitJsonSchema());
