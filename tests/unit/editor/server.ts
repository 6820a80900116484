import { applyPatch } from '../../../src/core/project/patch.ts';
import { ClashError, rebase } from '../../../src/core/project/rebase.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import type { Edit, LoggedEdit, SendAnswer } from '../../../src/lib/editor/editSync.ts';

/** A server in memory that keeps one project as the real one does: one log, edits by their ids, on top of what came between. */
export class TrueHistory {
	document: Project;
	readonly log: LoggedEdit[] = [];
	private readonly first: Project;

	constructor(document: Project) {
		this.document = this.first = document;
	}

	get revision(): number {
		return this.log.length + 1;
	}

	since(revision: number): LoggedEdit[] {
		return this.log.filter((e) => e.revision > revision);
	}

	take(base: number, edit: Edit): SendAnswer {
		const between = this.since(base);
		const taken = this.log.find((e) => e.id === edit.id);
		if (taken) return { kind: 'saved', edits: between.filter((e) => e.revision <= taken.revision) };
		if (base > this.revision) return { kind: 'unknown' };
		if (edit.label.startsWith('Bad')) return { kind: 'refused', message: 'It cannot be kept.' };
		try {
			const { patch, project } = rebase(
				this.document,
				edit.patch,
				between.map((e) => e.patch)
			);
			this.document = project;
			const logged = { ...edit, patch, revision: this.revision + 1, actor: null };
			this.log.push(logged);
			return { kind: 'saved', edits: [...between, logged] };
		} catch (cause) {
			if (cause instanceof ClashError) return { kind: 'clash', edits: between };
			throw cause;
		}
	}

	/** The project that the log leads to, from the first on. */
	get replayed(): Project {
		return this.log.reduce((document, e) => applyPatch(document, e.patch), this.first);
	}
}
