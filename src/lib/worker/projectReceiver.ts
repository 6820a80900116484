import { patched } from '../../core/project/patch.ts';
import type { Project } from '../../core/project/schema.ts';
import type { ProjectUpdate } from './projectSender.ts';

/** The side that receives. */
export class ProjectReceiver {
	private last: { readonly number: number; readonly project: Project } | undefined;

	/** The project that is told of; nothing where what it has changed from is not here, so that all of it must be sent. */
	take(update: ProjectUpdate): Project | undefined {
		if ('document' in update) this.last = { number: update.number, project: update.document };
		else if (this.last?.number === update.from)
			this.last = { number: update.number, project: patched(this.last.project, update.patch) };
		else return undefined;
		return this.last.project;
	}
}
