import { messageOf } from '../../core/errors.ts';
import { describePatch, type Difference } from '../../core/project/describe.ts';
import { diffProjects } from '../../core/project/diff.ts';
import type { Project } from '../../core/project/schema.ts';
import { fetchRevision, fetchRevisions, nameRevision, type RevisionLine } from './projectApi.ts';
import type { ProjectEditor } from './projectEditor.svelte.ts';

const PAGE = 50;

/** The states that the project has had: looked at, compared with now, named, brought back. */
export class RevisionState {
	open = $state(false);
	lines = $state.raw<readonly RevisionLine[]>([]);
	/** Only those with a name. */
	named = $state(false);
	/** Whether there are older ones than those that are shown. */
	more = $state(false);
	busy = $state(false);
	error = $state<string>();
	chosen = $state<number>();
	/** What would change if the chosen one were brought back. */
	differences = $state.raw<readonly Difference[]>();
	private document: Project | undefined;
	/** Edits of others up to this revision have been seen. */
	private seen = $state(0);
	private readonly editor: ProjectEditor;

	constructor(editor: ProjectEditor) {
		this.editor = editor;
		this.seen = editor.revision;
	}

	/** Edits of others that came since the list was looked at. */
	get unseen(): number {
		return this.editor.others.filter((e) => e.revision > this.seen).length;
	}

	async show(): Promise<void> {
		this.open = true;
		await this.refresh();
	}

	close(): void {
		this.open = false;
		this.chosen = undefined;
		this.editor.lookAt(undefined);
	}

	/** The newest ones; called again whenever one has come. */
	async refresh(): Promise<void> {
		this.seen = this.editor.revision;
		await this.load(undefined);
	}

	async older(): Promise<void> {
		const last = this.lines.at(-1);
		if (last) await this.load(last.revision - 1);
	}

	private async load(to: number | undefined): Promise<void> {
		await this.try(async () => {
			const found = await fetchRevisions(this.editor.id, { to, limit: PAGE, named: this.named });
			this.lines = to === undefined ? found : [...this.lines, ...found];
			this.more = found.length === PAGE;
		});
	}

	/** Chooses a revision and compares it with now. */
	async choose(revision: number): Promise<void> {
		this.editor.lookAt(undefined);
		this.chosen = revision;
		this.differences = this.document = undefined;
		await this.try(async () => {
			const document = await fetchRevision(this.editor.id, revision);
			if (this.chosen !== revision) return;
			const now = this.editor.document;
			this.document = document;
			this.differences = describePatch(now, diffProjects(now, document));
		});
	}

	/** Shows the chosen one in the picture, without changing anything. */
	look(): void {
		if (this.document && this.chosen !== undefined)
			this.editor.lookAt({ document: this.document, revision: this.chosen });
	}

	/** Makes the project what it was, by an edit like any other. */
	bringBack(): void {
		const { document, chosen } = this;
		if (!document) return;
		this.editor.lookAt(undefined);
		if (this.editor.apply(`Back to revision ${chosen}`, (draft) => void Object.assign(draft, document)))
			this.chosen = undefined;
	}

	async rename(revision: number, name: string): Promise<void> {
		await this.try(async () => {
			await nameRevision(this.editor.id, revision, name);
			this.lines = this.lines.map((l) => (l.revision === revision ? { ...l, name: name.trim() || null } : l));
		});
	}

	private async try(work: () => Promise<void>): Promise<void> {
		this.busy = true;
		this.error = undefined;
		try {
			await work();
		} catch (cause) {
			this.error = messageOf(cause);
		} finally {
			this.busy = false;
		}
	}
}
