import type { ArraySource } from '../arrays.ts';
import { CancelledError, messageOf } from '../errors.ts';
import type { SolidPort } from '../kit/solids.ts';
import type { FaceModel } from './faceStages.ts';
import { hashOf, type Memo } from './memo.ts';

export const STAGES = ['mass', 'settingOut', 'tiling', 'readings', 'placement', 'schedule'] as const;
export type Stage = (typeof STAGES)[number];

/** Something that the user should know, without stopping the run. */
export interface Warning {
	readonly stage: Stage;
	/** Key of the face it is about. */
	readonly face: string;
	readonly message: string;
	/** Cells of that face it is about, when it is about some only. */
	readonly cells?: Uint32Array;
	/** Multiples of the face's counts that would put it right, where they would. */
	readonly multiples?: { readonly across: number; readonly up: number };
}

/** What the host of a run lends it: a clock, a place to pause, a way to stop it and a place to report to. */
export interface RunHost {
	readonly memo: Memo;
	/** Milliseconds on any steady clock. */
	readonly now: () => number;
	/** Lets other work through; called between stages. */
	readonly pause?: () => Promise<void>;
	readonly signal?: { readonly aborted: boolean };
	/** Loads the package for solids; only kits that join or cut bodies ask for it. */
	readonly solids?: () => Promise<SolidPort>;
	readonly progress?: (done: number, of: number, what: string) => void;
	/**
	 * Hears of a mistake of ours on a face, with its stack; the face is then left out with words and the rest stands.
	 * Whoever makes files leaves it out, so that the mistake ends the run.
	 */
	readonly fault?: (cause: unknown, what: string) => void;
	/** Models of faces by key, shown on when a face’s division does not fit any more; whoever makes files has none. */
	readonly lastGood?: ReadonlyMap<string, FaceModel>;
}

/** Book-keeping of one run: times, warnings, progress, stopping. */
export class Run {
	readonly warnings: Warning[] = [];
	readonly times = Object.fromEntries(STAGES.map((s) => [s, 0])) as Record<Stage, number>;
	readonly placementHashes: unknown[] = [];
	lastHash = '';
	private done = 0;
	private readonly total: number;
	private readonly used = new Set<string>();
	/** Faces whose last good model is shown, so that nothing of it may be used for anything else. */
	private readonly keptFaces = new Set<string>();
	private readonly host: RunHost;

	/** `total` is how many times a stage will be run. */
	constructor(host: RunHost, total: number) {
		this.host = host;
		this.total = total;
	}

	get arrays(): ArraySource {
		return this.host.memo.arrays;
	}

	/** The package for solids; nothing where the host has none. */
	async solids(): Promise<SolidPort | undefined> {
		return this.host.solids?.();
	}

	async stage<T>(stage: Stage, what: string, work: () => T): Promise<T> {
		await this.host.pause?.();
		if (this.host.signal?.aborted) throw new CancelledError();
		const start = this.host.now();
		const result = work();
		this.times[stage] += this.host.now() - start;
		this.host.progress?.(++this.done, this.total, what);
		return result;
	}

	memo<T>(stage: Stage, place: string, inputs: unknown, compute: () => T): T {
		this.lastHash = hashOf(inputs);
		this.used.add(`${stage}:${place}`);
		return this.host.memo.get(`${stage}:${place}`, this.lastHash, compute);
	}

	warn(stage: Stage, face: string, message: string, more: Pick<Warning, 'cells' | 'multiples'> = {}): void {
		this.warnings.push({ stage, face, message, ...more });
	}

	/** Tells of a mistake of ours that stopped a face; throws it on where the host does not want to hear of any. */
	fault(cause: unknown, key: string, what: string): void {
		if (!this.host.fault) throw cause;
		this.host.fault(cause, what);
		this.warn('mass', key, `A mistake of ours, not of this project, stopped it: ${messageOf(cause)}. The rest stands.`);
	}

	/** The last model of a face that was sound, kept as it is; nothing where there is none. */
	lastGood(key: string): FaceModel | undefined {
		const model = this.host.lastGood?.get(key);
		if (model) this.keptFaces.add(key);
		return model;
	}

	forgetUnused(): void {
		const kept = [...this.keptFaces];
		this.host.memo.keepOnly(
			(slot) => this.used.has(slot) || kept.some((key) => slot.slice(slot.indexOf(':') + 1).startsWith(key))
		);
	}
}
