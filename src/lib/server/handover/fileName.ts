import type { Format } from '../../../core/formats/format.ts';
import { WRITERS } from '../../../core/formats/writers.ts';
import type { IssueTitle } from '../../../core/formats/writerInput.ts';
import type { Project } from '../../../core/project/schema.ts';

/** Files that are called as the project is. */
const PLAIN_NAMES: readonly Format[] = ['json', 'csv', 'glb'];

/** Such as `town-hall-b-parts.csv`: the project, its issue, and which of its files it is. */
export function fileName(project: Project, format: Format, options: unknown, issue: IssueTitle | undefined): string {
	const { extension, name } = WRITERS[format];
	const { table, sheet } = options as { table?: string; sheet?: string };
	const own =
		format === 'tables'
			? project.tables.find((t) => t.id === table)
			: project.handover.sheets.find((s) => s.id === sheet);
	const words = [
		project.name,
		...(issue ? [issue.mark] : []),
		...(own
			? [own.name]
			: format === 'set' && project.handover.name
				? [project.handover.name]
				: PLAIN_NAMES.includes(format)
					? []
					: [name])
	];
	return `${words.map(fileStem).join('-')}.${extension}`;
}

/** A file name made of a project's name, safe on every system. */
export function fileStem(name: string): string {
	const plain = name
		.normalize('NFKD')
		.replace(/[^\w\s-]/g, '')
		.trim()
		.toLowerCase()
		.replace(/[\s_]+/g, '-');
	return plain || 'project';
}
