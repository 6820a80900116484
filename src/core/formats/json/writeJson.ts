import type { Project } from '../../project/schema.ts';

/** A project as text: keys in the order of the schema, two blanks of indent, a line end at the end. */
export function writeJson(project: Project): string {
	return JSON.stringify(project, null, '  ') + '\n';
}
