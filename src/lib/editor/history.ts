import { ZygasterError } from '../../core/errors.ts';
import type { Changed, Patch } from '../../core/project/patch.ts';
import { rebase, touchesSame } from '../../core/project/rebase.ts';
import type { Project } from '../../core/project/schema.ts';

export interface HistoryEntry {
	readonly label: string;
	readonly forward: Patch;
	readonly back: Patch;
	/** An edit of somebody else that has changed the same places since. */
	readonly overtaken?: string;
}

/** Both lists, the newest last; plain data that can be kept. */
export interface HistoryState {
	readonly done: readonly HistoryEntry[];
	readonly undone: readonly HistoryEntry[];
}

const MOST_ENTRIES = 500;

/** Edits that can be undone and redone, as patches, so that edits of others between them stay. */
export class History {
	private done: HistoryEntry[] = [];
	private undone: HistoryEntry[] = [];

	/** Label of the edit that `undo` would take back. */
	get undoLabel(): string | undefined {
		return this.done.at(-1)?.label;
	}

	get redoLabel(): string | undefined {
		return this.undone.at(-1)?.label;
	}

	get state(): HistoryState {
		return { done: [...this.done], undone: [...this.undone] };
	}

	/** Takes up what an earlier visit has kept. */
	restore({ done, undone }: HistoryState): void {
		this.done = [...done];
		this.undone = [...undone];
	}

	/** Notes an edit. */
	record(label: string, { patch, back }: Pick<Changed, 'patch' | 'back'>): void {
		this.done.push({ label, forward: patch, back });
		if (this.done.length > MOST_ENTRIES) this.done.shift();
		this.undone = [];
	}

	/** Hears of an edit of somebody else: what it has changed is not undone over it. */
	hear(label: string, patch: Patch): void {
		const marked = (entry: HistoryEntry) =>
			entry.overtaken === undefined && touchesSame(entry.back, patch) ? { ...entry, overtaken: label } : entry;
		this.done = this.done.map(marked);
		this.undone = this.undone.map(marked);
	}

	/** The project without its last edit. Throws a ZygasterError when others changed the same place. */
	undo(project: Project): { label: string; patch: Patch; project: Project } | undefined {
		return this.step(project, this.done, this.undone, 'Undo', (e) => e.back);
	}

	redo(project: Project): { label: string; patch: Patch; project: Project } | undefined {
		return this.step(project, this.undone, this.done, 'Redo', (e) => e.forward);
	}

	private step(
		project: Project,
		from: HistoryEntry[],
		to: HistoryEntry[],
		verb: string,
		patchOf: (entry: HistoryEntry) => Patch
	) {
		const entry = from.at(-1);
		if (!entry) return undefined;
		if (entry.overtaken !== undefined)
			throw new ZygasterError(
				'conflict',
				`${verb} of “${entry.label}” would take back “${entry.overtaken}” too, which was saved elsewhere since and changed the same place.`
			);
		// Others may have changed the lists that it lies in.
		const { patch, project: changed } = rebase(project, patchOf(entry), []);
		from.pop();
		to.push(entry);
		return { label: `${verb}: ${entry.label}`, patch, project: changed };
	}
}
