import { messageOf } from '../../core/errors.ts';
import { applyPatch } from '../../core/project/patch.ts';
import { checkDocument } from '../../core/project/read.ts';
import type { Project } from '../../core/project/schema.ts';
import { History } from './history.ts';
import { browserStore, fetchProject, sendEdit } from './projectApi.ts';
import { SaveQueue, type Edit, type SaveState } from './saveQueue.ts';

/** Changes a private copy of the project. */
export type Change = (draft: Project) => void;

/** The project being edited: what stands in it, what can be undone, and how saving goes. */
export class ProjectEditor {
	readonly id: string;
	/** What is shown: the accepted project, or a preview of a change under way. */
	document = $state.raw<Project>() as Project;
	saveState = $state.raw<SaveState>({ kind: 'saved' });
	/** Edits that are not saved yet. */
	unsavedCount = $state(0);
	undoLabel = $state<string>();
	redoLabel = $state<string>();
	/** A message about the last action, such as an undo that was not possible. */
	notice = $state<string>();

	private accepted: Project;
	private readonly history = new History();
	private readonly queue: SaveQueue;

	constructor(id: string, document: Project, revision: number) {
		this.id = id;
		this.document = document;
		this.accepted = document;
		this.queue = new SaveQueue(revision, {
			send: (base, edit) => sendEdit(id, base, edit),
			store: browserStore(id),
			changed: (state) => {
				this.saveState = state;
				this.unsavedCount = this.queue.unsaved.length;
			},
			later: (work, ms) => {
				const timer = setTimeout(work, ms);
				return () => clearTimeout(timer);
			}
		});
	}

	/** Takes up edits that an earlier visit could not save. Call once, in the browser. */
	resume(): void {
		const left = browserStore(this.id).load();
		if (!left) return;
		const { document, edits, dropped } = replay(this.accepted, left.edits);
		this.show(document);
		this.queue.restart(this.queue.revision, edits);
		this.notice = dropped.length
			? `Not saved before and no longer possible: ${dropped.join(', ')}.`
			: `${edits.length === 1 ? 'One edit was' : `${edits.length} edits were`} not saved before; saving now.`;
	}

	/** Nothing is previewed: what is shown has been accepted. */
	get settled(): boolean {
		return this.document === this.accepted;
	}

	/** Shows a change without accepting it. Answers what is wrong with it, if anything. */
	preview(change: Change): string | undefined {
		return this.tryChange(change, (document) => (this.document = document));
	}

	/** Accepts a change and saves it. Answers what is wrong with it; then nothing has changed. */
	commit(label: string, change: Change): string | undefined {
		return this.tryChange(change, (document) => {
			const patch = this.history.record(label, this.accepted, document);
			if (patch.length === 0) return this.show(this.accepted);
			this.show(document);
			this.queue.push({ label, patch });
		});
	}

	/** Drops a preview. */
	revert(): void {
		this.document = this.accepted;
	}

	undo(): void {
		this.travel(() => this.history.undo(this.accepted));
	}

	redo(): void {
		this.travel(() => this.history.redo(this.accepted));
	}

	retrySave(): void {
		this.queue.retry();
	}

	/** After a conflict: drops the edits that wait here and shows the server's project. */
	async takeTheirs(): Promise<void> {
		await this.startOver([]);
	}

	/** After a conflict: puts the edits that wait here on top of the server's project. */
	async redoMine(): Promise<void> {
		await this.startOver(this.queue.unsaved);
	}

	close(): void {
		this.queue.stop();
	}

	private async startOver(mine: readonly Edit[]): Promise<void> {
		try {
			const theirs = await fetchProject(this.id);
			const { document, edits, dropped } = replay(theirs.document, mine);
			if (mine.length === 0 || dropped.length) this.history.clear();
			this.show(document);
			this.notice = dropped.length ? `These edits no longer fit and were left out: ${dropped.join(', ')}.` : undefined;
			this.queue.restart(theirs.revision, edits);
		} catch (cause) {
			this.notice = messageOf(cause);
		}
	}

	private tryChange(change: Change, accept: (document: Project) => void): string | undefined {
		try {
			const draft = structuredClone(this.accepted);
			change(draft);
			accept(checkDocument(draft));
			return undefined;
		} catch (cause) {
			return messageOf(cause);
		}
	}

	private travel(step: () => ReturnType<History['undo']>): void {
		try {
			const done = step();
			if (!done) return;
			this.show(done.project);
			this.queue.push({ label: done.label, patch: done.patch });
		} catch (cause) {
			this.notice = messageOf(cause);
		}
	}

	private show(document: Project): void {
		this.accepted = document;
		this.document = document;
		this.undoLabel = this.history.undoLabel;
		this.redoLabel = this.history.redoLabel;
	}
}

/** Puts edits on a project one by one; those that do not fit are named and left out. */
function replay(project: Project, edits: readonly Edit[]) {
	let document = project;
	const kept: Edit[] = [];
	const dropped: string[] = [];
	for (const edit of edits) {
		try {
			document = applyPatch(document, edit.patch);
			kept.push(edit);
		} catch {
			dropped.push(edit.label);
		}
	}
	return { document, edits: kept, dropped };
}
