// Writes what is published of the schemas and of the kit language; tests hold it together with the code.
import { readFileSync, writeFileSync } from 'node:fs';
import { writeLanguageReference } from '../src/core/kit/languageReference.ts';
import { writeJsonSchema, writeKitJsonSchema } from '../src/core/project/jsonSchema.ts';

writeFileSync('docs/project.schema.json', writeJsonSchema());
writeFileSync('docs/kit.schema.json', writeKitJsonSchema());
const [head] = readFileSync('docs/kits.md', 'utf8').split('### Points');
writeFileSync('docs/kits.md', head + writeLanguageReference());
