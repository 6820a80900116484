import { messageOf } from '../../core/errors.ts';
import { changeProject, changeWithPatches } from '../../core/project/patch.ts';
import type { Project } from '../../core/project/schema.ts';
import { EditSync, type Edit, type LoggedEdit, type RefusedEdit, type SaveState, type Waiting } from './editSync.ts';
import { History } from './history.ts';
import { forget, historyOf, keepHistory, keepWaiting, keptOf, type KeptHistory } from './keptEdits.ts';
import { setIdTail } from './names.ts';
import { fetchEdits, fetchProject, listen, sendEdit } from './projectApi.ts';
import { OrderBook } from './orders.svelte.ts';
import { newId, tabName, tabsGone } from './tab.ts';

const LOOKING = 'An earlier revision is shown, which cannot be changed. Go back to now first, or bring it back.';

/** Changes a draft of the project. */
export type Change = (draft: Project) => void;

/** Letters of the end that ids made here have. */
const TAIL = 4;
/** Of the history so many entries are there after a reload. */
const MOST_KEPT = 100;

/** The project being edited: what stands in it, what can be undone, and how saving goes. */
export class ProjectEditor {
	readonly id: string;
	/** Who works here, by the id of the browser. */
	readonly actor: string;
	/** What is shown: the accepted project, or a preview of a change under way. */
	document = $state.raw<Project>() as Project;
	saveState = $state.raw<SaveState>({ kind: 'saved' });
	/** Edits that are not saved yet, by their labels. */
	unsaved = $state.raw<readonly string[]>([]);
	refused = $state.raw<readonly RefusedEdit[]>([]);
	/** Edits that others have saved since the project was opened here, the newest last. */
	others = $state.raw<readonly LoggedEdit[]>([]);
	/** So many of the waiting edits, from the first on, are known to be kept by the browser. */
	keptCount = $state(0);
	/** Why the browser does not keep what waits, where it does not. */
	notKept = $state<string>();
	/** The earlier revision that is shown instead of the project, while one is. */
	looking = $state<number>();
	undoLabel = $state<string>();
	redoLabel = $state<string>();
	/** A message about the last action, such as an undo that was not possible. */
	notice = $state<string>();

	/** Files that were ordered. */
	readonly orders: OrderBook;
	private accepted: Project;
	private readonly history = new History();
	private readonly sync: EditSync;
	/** Ids of the edits of this tab, the newest last: after a reload they are not those of others. */
	private own: readonly string[] = [];
	private readonly closers: (() => void)[] = [];
	/** What an earlier visit has kept is here, so that it is not written over. */
	private resumed = false;
	private historyTimer: ReturnType<typeof setTimeout> | undefined;

	constructor(id: string, document: Project, revision: number, actor = '') {
		this.id = id;
		this.actor = actor;
		this.orders = new OrderBook(id);
		this.document = document;
		this.accepted = document;
		this.sync = new EditSync(revision, document, {
			send: (base, edit) => sendEdit(id, base, edit),
			since: (since) => fetchEdits(id, since),
			fetch: () => fetchProject(id),
			keep: (waiting) => void this.keep(waiting),
			changed: () => this.follow(),
			others: (edit) => {
				this.others = [...this.others, edit];
				this.history.hear(edit.label, edit.patch);
			},
			later: (work, ms) => {
				const timer = setTimeout(work, ms);
				return () => clearTimeout(timer);
			}
		});
	}

	/** Takes up what earlier visits could not save, and hears of others' edits from then on. Call once, in the browser. */
	async open(): Promise<void> {
		setIdTail(newId().slice(0, TAIL));
		this.closers.push(
			listen(this.id, () => this.sync.revision, {
				edit: (edit) => this.sync.hear([edit]),
				orders: (orders) => this.orders.hear(orders),
				open: () => {
					if (this.saveState.kind === 'away') this.sync.retry();
				},
				lost: () => this.orders.lost()
			})
		);
		const ask = (event: BeforeUnloadEvent) => {
			// What was put aside goes with the page, too.
			if (this.unsaved.length || this.refused.length) event.preventDefault();
		};
		addEventListener('beforeunload', ask);
		const leave = () => void this.keepHistory();
		addEventListener('pagehide', leave);
		this.closers.push(
			() => removeEventListener('beforeunload', ask),
			() => removeEventListener('pagehide', leave)
		);
		try {
			await this.resume();
		} catch (cause) {
			this.notice = `What earlier visits could not save was not taken up: ${messageOf(cause)}`;
		}
		this.resumed = true;
		this.follow();
	}

	private async resume(): Promise<void> {
		const tab = await tabName();
		const all = await keptOf(this.id);
		const gone = await tabsGone(all.map((k) => k.tab).filter((t) => t !== tab));
		const history = await historyOf(this.id, tab);
		for (const kept of all.filter((k) => k.tab === tab || gone.has(k.tab))) {
			if (!kept.waiting) continue;
			const n = kept.waiting.edits.length;
			await this.sync.resume(kept.waiting);
			if (this.sync.unsaved.length)
				this.notice = `${n === 1 ? 'One edit was' : `${n} edits were`} not saved before${kept.tab === tab ? '' : ', in a tab that was closed'}; saving now.`;
			// They are kept under this tab's name now.
			if (kept.tab !== tab) await forget(kept);
		}
		if (history)
			await this.restore(
				history,
				all.flatMap((k) => k.waiting?.edits.map((e) => e.id) ?? [])
			);
	}

	/** Takes up the history of this tab before a reload; what others have changed since is not undone over it. */
	private async restore(kept: KeptHistory, waiting: readonly string[]): Promise<void> {
		if (this.history.undoLabel !== undefined) return;
		this.history.restore(kept);
		this.own = [...(kept.own ?? []), ...this.own];
		if (kept.revision < this.sync.revision)
			for (const edit of await fetchEdits(this.id, kept.revision))
				if (!this.own.includes(edit.id) && !waiting.includes(edit.id)) this.history.hear(edit.label, edit.patch);
		this.follow();
	}

	/** Nothing is previewed: what is shown has been accepted. */
	get settled(): boolean {
		return this.document === this.accepted;
	}

	/** The newest revision of the server that is part of what is shown. */
	get revision(): number {
		return this.sync.revision;
	}

	/** Shows an earlier state instead of the project, which cannot be changed meanwhile; nothing to show the project again. */
	lookAt(earlier: { readonly document: Project; readonly revision: number } | undefined): void {
		this.looking = earlier?.revision;
		this.document = earlier?.document ?? this.accepted;
	}

	/** Shows a change without accepting it. Answers what is wrong with it, if anything. */
	preview(change: Change): string | undefined {
		if (this.looking !== undefined) return LOOKING;
		try {
			this.document = changeProject(this.accepted, change);
			return undefined;
		} catch (cause) {
			return messageOf(cause);
		}
	}

	/** Accepts a change and saves it. Answers what is wrong with it; then nothing has changed. */
	commit(label: string, change: Change): string | undefined {
		if (this.looking !== undefined) return LOOKING;
		try {
			const changed = changeWithPatches(this.accepted, change);
			if (changed.patch.length === 0) this.revert();
			else {
				this.history.record(label, changed);
				this.push({ label, patch: changed.patch }, changed.project);
			}
			return undefined;
		} catch (cause) {
			return messageOf(cause);
		}
	}

	/** Accepts a change whose fault is told above the workspace, where no field stands beside it. Answers whether it was accepted. */
	apply(label: string, change: Change): boolean {
		const fault = this.commit(label, change);
		if (fault !== undefined) this.notice = `${label}: ${fault}`;
		return fault === undefined;
	}

	/** Accepts what is previewed. */
	keepPreview(label: string): string | undefined {
		const { document } = this;
		return this.commit(label, (draft) => void Object.assign(draft, document));
	}

	/** Drops a preview. */
	revert(): void {
		if (this.looking === undefined) this.document = this.accepted;
	}

	undo(): void {
		this.travel(() => this.history.undo(this.accepted));
	}

	redo(): void {
		this.travel(() => this.history.redo(this.accepted));
	}

	retrySave(): void {
		this.sync.retry();
	}

	/** After a clash: drops the edits here that cannot stand beside the others', or puts them on top. */
	settle(choice: 'mine' | 'theirs'): void {
		const dropped = this.sync.settle(choice);
		this.notice = dropped.length
			? `${choice === 'mine' ? 'No longer possible, and left out' : 'Left out'}: ${dropped.join(', ')}.`
			: undefined;
	}

	/** Puts a refused edit on top again; answers what is wrong where it does not fit. */
	retryRefused(id: string): void {
		const fault = this.sync.retryRefused(id);
		if (fault !== undefined) this.notice = fault;
	}

	dropRefused(id: string): void {
		this.sync.dropRefused(id);
	}

	close(): void {
		this.sync.stop();
		for (const close of this.closers) close();
	}

	private push(edit: Omit<Edit, 'id'>, project: Project): void {
		const id = newId();
		this.own = [...this.own.slice(-MOST_KEPT), id];
		this.sync.push({ id, ...edit }, project);
	}

	private travel(step: () => ReturnType<History['undo']>): void {
		if (this.looking !== undefined) return void (this.notice = LOOKING);
		try {
			const done = step();
			if (!done) return;
			this.push({ label: done.label, patch: done.patch }, done.project);
		} catch (cause) {
			this.notice = messageOf(cause);
		}
	}

	/** Shows what has come of it. */
	private follow(): void {
		const { document, state, unsaved, refused } = this.sync;
		this.saveState = state;
		this.unsaved = unsaved.map((e) => e.label);
		this.refused = refused;
		if (document !== this.accepted) {
			this.accepted = document;
			if (this.looking === undefined) this.document = document;
		}
		this.undoLabel = this.history.undoLabel;
		this.redoLabel = this.history.redoLabel;
		clearTimeout(this.historyTimer);
		if (this.resumed) this.historyTimer = setTimeout(() => void this.keepHistory());
	}

	private async keep(waiting: Waiting | undefined): Promise<void> {
		try {
			await keepWaiting({ project: this.id, tab: await tabName(), waiting });
			this.keptCount = waiting?.edits.length ?? 0;
			this.notKept = undefined;
		} catch (cause) {
			this.keptCount = 0;
			this.notKept = messageOf(cause);
		}
	}

	private async keepHistory(): Promise<void> {
		if (!this.resumed) return;
		const { done, undone } = this.history.state;
		const kept = { done: done.slice(-MOST_KEPT), undone: undone.slice(-MOST_KEPT) };
		const { revision } = this.sync;
		// Where the browser forbids it, undo is gone after a reload; `notKept` tells when edits are at stake.
		await keepHistory({ project: this.id, tab: await tabName(), revision, own: this.own, ...kept }).catch(
			() => undefined
		);
	}
}
