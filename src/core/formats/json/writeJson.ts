import { contentNames, packContents } from '../../project/contents.ts';
import type { Project } from '../../project/schema.ts';

/**
 * A project as text, with the contents that it names packed in: keys in the order of the schema, two blanks of indent, a
 * line end at the end.
 */
export function writeJson(project: Project): string {
	const names = contentNames(project);
	const whole = names.length ? { ...project, contents: packContents(names) } : project;
	return JSON.stringify(whole, null, '  ') + '\n';
}
