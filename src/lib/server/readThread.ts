import { contentOf } from '../../core/content.ts';
import { ZygasterError } from '../../core/errors.ts';
import { contentNames } from '../../core/project/contents.ts';
import { readProject } from '../../core/project/read.ts';
import type { Project } from '../../core/project/schema.ts';

/** A project that was read in a thread of its own, with its contents; or what is wrong with it. */
export type ReadAnswer =
	| { readonly document: Project; readonly contents: readonly (readonly [string, Uint8Array])[] }
	| { readonly code: string; readonly message: string; readonly place: string };

/** Reads and checks the text of a project file; run in a thread, since large ones take seconds. */
export default function read(text: string): ReadAnswer {
	try {
		const document = readProject(text);
		return { document, contents: contentNames(document).map((name) => [name, contentOf(name)] as const) };
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		return { code: cause.code, message: cause.message, place: cause.place };
	}
}
