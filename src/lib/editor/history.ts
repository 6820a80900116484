import { applyPatch, diffProjects, type Patch } from '../../core/project/patch.ts';
import type { Project } from '../../core/project/schema.ts';

interface Entry {
	readonly label: string;
	readonly forward: Patch;
	readonly back: Patch;
}

const MOST_ENTRIES = 500;

/** Edits that can be undone and redone, as patches, so that edits of others between them stay. */
export class History {
	private readonly done: Entry[] = [];
	private readonly undone: Entry[] = [];

	/** Label of the edit that `undo` would take back. */
	get undoLabel(): string | undefined {
		return this.done.at(-1)?.label;
	}

	get redoLabel(): string | undefined {
		return this.undone.at(-1)?.label;
	}

	/** Notes an edit; answers its patch. */
	record(label: string, before: Project, after: Project): Patch {
		const forward = diffProjects(before, after);
		this.done.push({ label, forward, back: diffProjects(after, before) });
		if (this.done.length > MOST_ENTRIES) this.done.shift();
		this.undone.length = 0;
		return forward;
	}

	/** The project without its last edit. Throws a ZygasterError when others changed the same place. */
	undo(project: Project): { label: string; patch: Patch; project: Project } | undefined {
		return this.step(project, this.done, this.undone, 'Undo', (e) => e.back);
	}

	redo(project: Project): { label: string; patch: Patch; project: Project } | undefined {
		return this.step(project, this.undone, this.done, 'Redo', (e) => e.forward);
	}

	clear(): void {
		this.done.length = 0;
		this.undone.length = 0;
	}

	private step(project: Project, from: Entry[], to: Entry[], verb: string, patchOf: (entry: Entry) => Patch) {
		const entry = from.at(-1);
		if (!entry) return undefined;
		const patch = patchOf(entry);
		const changed = applyPatch(project, patch);
		from.pop();
		to.push(entry);
		return { label: `${verb}: ${entry.label}`, patch, project: changed };
	}
}
