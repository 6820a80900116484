import { diffProjects } from '../../core/project/diff.ts';
import type { Patch } from '../../core/project/jsonPatch.ts';
import type { Project } from '../../core/project/schema.ts';

/** A project on its way to a worker: whole, or what has changed since one that was sent before. */
export type ProjectUpdate =
	| { readonly number: number; readonly document: Project }
	| { readonly number: number; readonly from: number; readonly patch: Patch };

/** The side that sends: it knows what the other side has. */
export class ProjectSender {
	private last: { readonly number: number; readonly project: Project } | undefined;
	private number = 0;

	/** What tells the other side of a project; all of it when `whole`. */
	update(project: Project, whole = false): ProjectUpdate {
		const { last } = this;
		const number = ++this.number;
		this.last = { number, project };
		return last && !whole
			? { number, from: last.number, patch: diffProjects(last.project, project) }
			: { number, document: project };
	}

	/** The other side has begun anew and knows nothing. */
	forget(): void {
		this.last = undefined;
	}
}
