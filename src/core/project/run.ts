import { CancelledError, messageOf } from '../errors.ts';
import type { SolidPort } from '../kit/solids.ts';
import type { Work } from './estimate.ts';
import type { DividedFace, FaceBody, FaceModel } from './faceResult.ts';
import type { Memo } from './memo.ts';

/** What time and warnings are told by. */
export const STAGES = ['mass', 'settingOut', 'tiling', 'readings', 'placement', 'schedule'] as const;
export type Stage = (typeof STAGES)[number];
/** Milliseconds in each stage. */
export type StageTimes = Readonly<Record<Stage, number>>;

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
	/** Rules that would put it right by leaving out what an earlier face has at their common border. */
	readonly once?: readonly string[];
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
	/** Hears of all faces as they are before any is divided. */
	readonly early?: (bodies: readonly FaceBody[]) => void;
	/** Hears of them as they are divided, before anything is placed; those that cannot be divided are left out. */
	readonly divided?: (bodies: readonly FaceBody[], faces: readonly DividedFace[]) => void;
	/** Hears what placing has before it, and may throw to stop the run there. Nothing is weighed where left out. */
	readonly weigh?: (work: Work) => void;
	/** Models of faces by key, shown on when a face’s division does not fit any more; whoever makes files has none. */
	readonly lastGood?: ReadonlyMap<string, FaceModel>;
}

/** Pauses, and throws a CancelledError when somebody wants the run stopped. */
export async function breathe({ pause, signal }: Pick<RunHost, 'pause' | 'signal'>): Promise<void> {
	await pause?.();
	if (signal?.aborted) throw new CancelledError();
}

export const noTimes = (): Record<Stage, number> =>
	Object.fromEntries(STAGES.map((s) => [s, 0])) as Record<Stage, number>;

/** What is told of a mistake of ours. */
export const ourMistake = (cause: unknown) =>
	`A mistake of ours, not of this project, stopped it: ${messageOf(cause)}. The rest stands.`;
