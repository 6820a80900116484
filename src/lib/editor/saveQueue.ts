import type { Patch } from '../../core/project/patch.ts';

export interface Edit {
	readonly label: string;
	readonly patch: Patch;
}

export interface RemoteEdit extends Edit {
	readonly revision: number;
}

/** What came of sending an edit. */
export type SaveAnswer =
	| { readonly kind: 'saved'; readonly revision: number }
	| { readonly kind: 'stale'; readonly revision: number; readonly edits: readonly RemoteEdit[] }
	| { readonly kind: 'refused'; readonly message: string }
	/** Not reachable now; worth another try. */
	| { readonly kind: 'away'; readonly message: string };

export type SaveState =
	| { readonly kind: 'saved' }
	| { readonly kind: 'saving' }
	| { readonly kind: 'away'; readonly message: string }
	| { readonly kind: 'refused'; readonly message: string }
	| { readonly kind: 'stale'; readonly revision: number; readonly edits: readonly RemoteEdit[] };

/** Keeps edits that are not saved yet, so that a reload does not lose them. */
export interface EditStore {
	load(): { base: number; edits: Edit[] } | undefined;
	save(waiting: { base: number; edits: readonly Edit[] } | undefined): void;
}

interface Ports {
	readonly send: (base: number, edit: Edit) => Promise<SaveAnswer>;
	readonly store: EditStore;
	readonly changed: (state: SaveState) => void;
	/** Calls back after so many ms; answers how to call it off. */
	readonly later: (work: () => void, ms: number) => () => void;
}

const FIRST_RETRY_MS = 1000;
const LONGEST_RETRY_MS = 15_000;

/**
 * Sends edits one after the other, each based on the revision that the one before led to. Stops at a
 * conflict until somebody decides; tries again by itself while the server is away.
 */
export class SaveQueue {
	/** Revision that the first waiting edit is based on. */
	revision: number;
	private waiting: Edit[] = [];
	private current: SaveState = { kind: 'saved' };
	private retryMs = FIRST_RETRY_MS;
	private callOff: (() => void) | undefined;
	private sending = false;
	private readonly ports: Ports;

	constructor(revision: number, ports: Ports) {
		this.revision = revision;
		this.ports = ports;
	}

	get state(): SaveState {
		return this.current;
	}

	get unsaved(): readonly Edit[] {
		return this.waiting;
	}

	push(edit: Edit): void {
		this.waiting.push(edit);
		this.remember();
		if (this.current.kind === 'saved' || this.current.kind === 'away') this.retry();
	}

	/** Sends at once what is waiting. */
	retry(): void {
		this.callOff?.();
		this.callOff = undefined;
		void this.drain();
	}

	/** Starts over from a revision of the server's, with other edits waiting (none to take theirs). */
	restart(revision: number, edits: readonly Edit[]): void {
		this.revision = revision;
		this.waiting = [...edits];
		this.remember();
		this.setState({ kind: 'saved' });
		if (edits.length) this.retry();
	}

	stop(): void {
		this.callOff?.();
	}

	private async drain(): Promise<void> {
		if (this.sending) return;
		this.sending = true;
		try {
			while (this.waiting.length > 0) {
				const edit = this.waiting[0]!;
				// While the server is away, another try does not hide that it is.
				if (this.current.kind !== 'away') this.setState({ kind: 'saving' });
				const answer = await this.ports.send(this.revision, edit);
				// Somebody has started over while we waited.
				if (this.waiting[0] !== edit) continue;
				if (answer.kind !== 'saved') return this.hold(answer);
				this.revision = answer.revision;
				this.waiting.shift();
				this.retryMs = FIRST_RETRY_MS;
				this.remember();
			}
			this.setState({ kind: 'saved' });
		} finally {
			this.sending = false;
		}
	}

	private hold(answer: Exclude<SaveAnswer, { kind: 'saved' }>): void {
		this.setState(answer);
		if (answer.kind !== 'away') return;
		this.callOff = this.ports.later(() => this.retry(), this.retryMs);
		this.retryMs = Math.min(LONGEST_RETRY_MS, this.retryMs * 2);
	}

	private remember(): void {
		const { waiting, revision } = this;
		this.ports.store.save(waiting.length ? { base: revision, edits: waiting } : undefined);
	}

	private setState(state: SaveState): void {
		this.current = state;
		this.ports.changed(state);
	}
}
