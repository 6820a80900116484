import { messageOf } from '../../core/errors.ts';
import { applyPatch, type Patch } from '../../core/project/patch.ts';
import { ClashError, rebase, type Clash } from '../../core/project/rebase.ts';
import type { Project } from '../../core/project/schema.ts';

export interface Edit {
	/** A UUID: sent twice, it is taken once. */
	readonly id: string;
	readonly label: string;
	readonly patch: Patch;
}

/** An edit as the server has taken it. */
export interface LoggedEdit extends Edit {
	/** The revision that it led to. */
	readonly revision: number;
	/** Who made it, by the id of their browser. */
	readonly actor: string | null;
}

/** What came of sending an edit. */
export type SendAnswer =
	/** Taken; with all edits since the one that it was made on, itself among them. */
	| { readonly kind: 'saved'; readonly edits: readonly LoggedEdit[] }
	/** Not taken, since these touch the same places. */
	| { readonly kind: 'clash'; readonly edits: readonly LoggedEdit[] }
	/** Not taken, since the server knows no such revision: it has an earlier state than this page. */
	| { readonly kind: 'unknown' }
	| { readonly kind: 'refused'; readonly message: string }
	/** Not reachable now; worth another try. */
	| { readonly kind: 'away'; readonly message: string };

export type SaveState =
	| { readonly kind: 'saved' }
	| { readonly kind: 'saving' }
	| { readonly kind: 'away'; readonly message: string }
	/** An edit that waits here and one that was saved elsewhere touch one place: somebody must choose. */
	| {
			readonly kind: 'clash';
			readonly mine: string;
			readonly theirs: string;
			readonly clashes: readonly Clash[];
			readonly message: string;
	  };

/** An edit that the server does not take. It is no longer part of the project here; others behind it go on. */
export interface RefusedEdit {
	readonly edit: Edit;
	readonly message: string;
}

/** What is not saved yet: edits, and the revision that the first of them is made on. */
export interface Waiting {
	readonly base: number;
	readonly edits: readonly Edit[];
}

interface Ports {
	readonly send: (base: number, edit: Edit) => Promise<SendAnswer>;
	/** The edits after a revision. Throws where they cannot be had. */
	readonly since: (revision: number) => Promise<readonly LoggedEdit[]>;
	readonly fetch: () => Promise<{ readonly document: Project; readonly revision: number }>;
	/** Keeps what waits, so that a reload or a closed tab does not lose it; nothing when all is saved. */
	readonly keep: (waiting: Waiting | undefined) => void;
	readonly changed: () => void;
	/** Hears of edits of others, once they are part of the project here. */
	readonly others: (edit: LoggedEdit) => void;
	/** Calls back after so many ms; answers how to call it off. */
	readonly later: (work: () => void, ms: number) => () => void;
}

/** Edits of others that came between the revision that some of the waiting ones were made on and the project here. */
interface Between {
	readonly edits: readonly LoggedEdit[];
	readonly of: ReadonlySet<string>;
}

type OnTop =
	| { readonly kind: 'fits'; readonly edits: readonly Edit[]; readonly document: Project }
	| { readonly kind: 'clash'; readonly clash: ClashError; readonly edit: Edit };

const NOTHING: Between = { edits: [], of: new Set() };

const FIRST_RETRY_MS = 1000;
const LONGEST_RETRY_MS = 15_000;
/** So often is an edit sent again on what came between before it counts as refused. */
const MOST_CLASHES = 5;

/**
 * Keeps a project in step with the server: what the server has, and the edits on top of it that are not saved yet. Edits
 * are sent one after the other; those of others are taken in as they come, and the waiting ones put on top of them.
 */
export class EditSync {
	/** With all edits that wait. */
	document: Project;
	refused: readonly RefusedEdit[] = [];
	state: SaveState = { kind: 'saved' };
	/** What the server has, as far as it has been heard. */
	private base: { readonly revision: number; readonly document: Project };
	private waiting: readonly Edit[] = [];
	/** Edits of others that wait for a choice. */
	private unheard: readonly LoggedEdit[] = [];
	private retryMs = FIRST_RETRY_MS;
	private callOff: (() => void) | undefined;
	private sending = false;
	private clashed = 0;
	private between: Between = NOTHING;
	private readonly ports: Ports;

	constructor(revision: number, document: Project, ports: Ports) {
		this.base = { revision, document };
		this.document = document;
		this.ports = ports;
	}

	get unsaved(): readonly Edit[] {
		return this.waiting;
	}

	get revision(): number {
		return this.base.revision;
	}

	/** Takes an edit in that has led to `document`. */
	push(edit: Edit, document: Project): void {
		this.document = document;
		this.setWaiting([...this.waiting, edit]);
		this.ports.changed();
		if (this.state.kind === 'saved' || this.state.kind === 'away') this.retry();
	}

	/**
	 * Takes up edits that an earlier visit could not save, on the revision that they were made on; those that were taken
	 * after all are known by their ids.
	 */
	async resume({ base, edits }: Waiting): Promise<void> {
		const since = base < this.base.revision ? await this.ports.since(base) : [];
		const taken = new Set(since.map((e) => e.id));
		const left = edits.filter((e) => !taken.has(e.id));
		const between = since.filter((e) => e.revision <= this.base.revision && !edits.some((mine) => mine.id === e.id));
		if (!left.length) return this.setWaiting(this.waiting);
		this.setWaiting([...this.waiting, ...left]);
		// What came between is part of the project already: it is only asked whether both can stand.
		this.between = { edits: between, of: new Set(left.map((e) => e.id)) };
		this.putOnTop('ask');
		this.ports.changed();
		this.retry();
	}

	/** Takes in edits of the server, in order; those that are known are passed over. */
	hear(edits: readonly LoggedEdit[]): void {
		const fresh = edits.filter((e) => e.revision > this.base.revision + this.unheard.length);
		if (!fresh.length) return;
		if (fresh[0]!.revision !== this.base.revision + this.unheard.length + 1) return this.catchUp();
		if (this.state.kind === 'clash') {
			this.unheard = [...this.unheard, ...fresh];
			return;
		}
		for (const [k, edit] of fresh.entries()) {
			if (this.takeIn(edit)) continue;
			this.unheard = fresh.slice(k);
			break;
		}
		this.ports.changed();
	}

	/** Sends at once what is waiting. */
	retry(): void {
		this.callOff?.();
		this.callOff = undefined;
		void this.drain();
	}

	/** After a clash: puts the edits that wait here on top, or drops those that cannot stand beside the others'. Answers the labels of what was dropped. */
	settle(choice: 'mine' | 'theirs'): string[] {
		const dropped: string[] = [];
		const unheard = this.unheard;
		this.unheard = [];
		this.state = { kind: 'saved' };
		dropped.push(...this.putOnTop(choice));
		for (const edit of unheard) {
			this.base = { revision: edit.revision, document: applyPatch(this.base.document, edit.patch) };
			const own = this.waiting.some((w) => w.id === edit.id);
			if (own) this.setWaiting(this.waiting.filter((w) => w.id !== edit.id));
			else this.between = { edits: [edit], of: new Set(this.waiting.map((w) => w.id)) };
			dropped.push(...this.putOnTop(choice));
			if (!own) this.ports.others(edit);
		}
		this.ports.changed();
		this.retry();
		return dropped;
	}

	/** Takes a refused edit back for good. */
	dropRefused(id: string): void {
		this.refused = this.refused.filter((r) => r.edit.id !== id);
		this.ports.changed();
	}

	/** Puts a refused edit on top of the project and sends it again. Answers what is wrong where it does not fit any more. */
	retryRefused(id: string): string | undefined {
		const found = this.refused.find((r) => r.edit.id === id);
		if (!found) return undefined;
		try {
			const { patch, project } = rebase(this.document, found.edit.patch, []);
			this.refused = this.refused.filter((r) => r !== found);
			this.push({ ...found.edit, patch }, project);
			return undefined;
		} catch (cause) {
			return messageOf(cause);
		}
	}

	stop(): void {
		this.callOff?.();
	}

	/** One more edit of the server. Answers false where an edit that waits cannot stand beside it. */
	private takeIn(edit: LoggedEdit): boolean {
		const base = { revision: edit.revision, document: applyPatch(this.base.document, edit.patch) };
		const own = this.waiting.find((w) => w.id === edit.id);
		if (own) {
			this.base = base;
			const isAsSent = own === this.waiting[0] && JSON.stringify(own.patch) === JSON.stringify(edit.patch);
			this.setWaiting(this.waiting.filter((w) => w !== own));
			if (!isAsSent) this.replay(edit.label);
			return true;
		}
		const found = this.onTopOf(base.document, { edits: [edit], of: new Set(this.waiting.map((w) => w.id)) });
		if (found.kind === 'clash') {
			this.tellClash(found.clash, found.edit, edit.label);
			return false;
		}
		this.base = base;
		this.document = found.document;
		this.setWaiting(found.edits);
		this.ports.others(edit);
		return true;
	}

	/** The edits that wait, put on a project one after the other; or the first that cannot stand beside the others'. */
	private onTopOf(document: Project, between: Between): OnTop {
		const patches = between.edits.map((e) => e.patch);
		const edits: Edit[] = [];
		let top = document;
		for (const edit of this.waiting) {
			try {
				const { patch, project } = rebase(top, edit.patch, between.of.has(edit.id) ? patches : [], this.document);
				edits.push({ ...edit, patch });
				top = project;
			} catch (cause) {
				if (cause instanceof ClashError) return { kind: 'clash', clash: cause, edit };
				throw cause;
			}
		}
		return { kind: 'fits', edits, document: top };
	}

	/** Puts what waits on the server's project, beside what came between. Answers the labels of what was dropped. */
	private putOnTop(choice: 'ask' | 'mine' | 'theirs'): string[] {
		const dropped: string[] = [];
		for (;;) {
			const found = this.onTopOf(this.base.document, choice === 'mine' ? NOTHING : this.between);
			if (found.kind === 'fits') {
				this.document = found.document;
				this.between = NOTHING;
				this.setWaiting(found.edits);
				return dropped;
			}
			if (choice === 'ask') {
				this.tellClash(found.clash, found.edit, this.between.edits.map((e) => e.label).join(', '));
				return dropped;
			}
			dropped.push(found.edit.label);
			this.setWaiting(this.waiting.filter((w) => w !== found.edit));
		}
	}

	/** Makes the project anew from the server's; what does not stand on it any more is put aside. */
	private replay(because: string): void {
		const before = this.waiting;
		this.between = NOTHING;
		this.putOnTop('mine');
		const kept = new Set(this.waiting.map((w) => w.id));
		const lost = before.filter((b) => !kept.has(b.id));
		const message = `It does not stand without “${because}” as it was made here.`;
		if (lost.length) this.refused = [...this.refused, ...lost.map((edit) => ({ edit, message }))];
	}

	private tellClash(clash: ClashError, mine: Edit, theirs: string): void {
		this.state = { kind: 'clash', mine: mine.label, theirs, clashes: clash.clashes, message: clash.message };
		this.ports.changed();
	}

	private catchUp(): void {
		this.ports.since(this.base.revision + this.unheard.length).then(
			(edits) => this.hear(edits),
			() => undefined // The next edit, or the next try to save, brings it up again.
		);
	}

	private async drain(): Promise<void> {
		if (this.sending) return;
		this.sending = true;
		try {
			while (this.waiting.length > 0 && this.state.kind !== 'clash') {
				const edit = this.waiting[0]!;
				// While the server is away, another try does not hide that it is.
				if (this.state.kind !== 'away') this.setState({ kind: 'saving' });
				const answer = await this.ports.send(this.base.revision, edit);
				// Somebody has chosen otherwise, or it was heard of by another way, while we waited.
				if (this.waiting[0]?.id !== edit.id) continue;
				if (answer.kind === 'away') return this.tryLater(answer.message);
				await this.hearAnswer(edit, answer);
			}
			if (this.state.kind !== 'clash') this.setState({ kind: 'saved' });
		} finally {
			this.sending = false;
		}
	}

	private async hearAnswer(edit: Edit, answer: Exclude<SendAnswer, { kind: 'away' }>): Promise<void> {
		this.retryMs = FIRST_RETRY_MS;
		if (this.state.kind === 'away') this.state = { kind: 'saving' };
		switch (answer.kind) {
			case 'saved':
				this.clashed = 0;
				return this.hear(answer.edits);
			case 'clash':
				this.hear(answer.edits);
				if (++this.clashed > MOST_CLASHES && (this.state as SaveState).kind !== 'clash')
					this.setAside(edit, 'It does not fit what was saved meanwhile.');
				return;
			case 'refused':
				return this.setAside(edit, answer.message);
			case 'unknown':
				try {
					this.base = await this.ports.fetch();
					this.unheard = [];
					this.state = { kind: 'saving' };
					this.replay('what the server had');
				} catch (cause) {
					this.tryLater(messageOf(cause));
				}
				return this.ports.changed();
		}
	}

	/** An edit that is not taken is put aside, and with it what does not stand without it. */
	private setAside(edit: Edit, message: string): void {
		this.clashed = 0;
		this.refused = [...this.refused, { edit, message }];
		this.setWaiting(this.waiting.filter((w) => w.id !== edit.id));
		this.replay(edit.label);
		this.ports.changed();
	}

	private tryLater(message: string): void {
		// What must be chosen stays asked; the choice brings the next try.
		if (this.state.kind === 'clash') return;
		this.setState({ kind: 'away', message });
		this.callOff?.();
		this.callOff = this.ports.later(() => this.retry(), this.retryMs);
		this.retryMs = Math.min(LONGEST_RETRY_MS, this.retryMs * 2);
	}

	private setWaiting(edits: readonly Edit[]): void {
		this.waiting = edits;
		this.ports.keep(edits.length ? { base: this.base.revision, edits } : undefined);
	}

	private setState(state: SaveState): void {
		this.state = state;
		this.ports.changed();
	}
}
