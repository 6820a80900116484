import { base64 } from '@scure/base';
import { contentOf, hasContent, keepContent, takeContent } from '../content.ts';
import { ZygasterError } from '../errors.ts';
import type { Project } from './schema.ts';

/** The names of all contents that a project needs, each once. */
export function contentNames({
	masses,
	modules,
	references,
	fields = []
}: Pick<Project, 'masses' | 'modules' | 'references'> & Partial<Pick<Project, 'fields'>>): string[] {
	return [
		...new Set([
			...masses.flatMap(({ shape }) => (shape.kind === 'imported' ? shape.faces.map((f) => f.points) : [])),
			...[...modules, ...references].flatMap((m) => [m.positions, m.triangles]),
			...fields.flatMap(({ source }) => (source.kind === 'picture' ? [source.pixels] : []))
		])
	];
}

/** Contents as a project file holds them: base64 (RFC 4648) by their names. Those that are not here are left out. */
export const packContents = (names: readonly string[]): Record<string, string> =>
	Object.fromEntries(names.filter(hasContent).map((name) => [name, base64.encode(contentOf(name))]));

/** Takes in the contents of a project file. Throws a ZygasterError with code `content` where one is not what its name says. */
export function unpackContents(contents: unknown): void {
	if (typeof contents !== 'object' || contents === null || Array.isArray(contents))
		throw new ZygasterError('content', 'The “contents” are no list of names with their bytes.', 'contents');
	for (const [name, text] of Object.entries(contents)) takeContent(name, bytesOf(text, `contents › ${name}`));
}

/** The name of bytes that a document of an older version holds as base64. */
export const keptFrom = (text: unknown, place: string): string => keepContent(bytesOf(text, place));

function bytesOf(text: unknown, place: string): Uint8Array {
	try {
		if (typeof text === 'string') return base64.decode(text);
	} catch {
		// Told below.
	}
	throw new ZygasterError('project', `${place}: this is no base64.`, place);
}
