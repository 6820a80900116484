import { transfer } from 'comlink';
import { ArrayPool } from '../../core/arrays.ts';
import { messageOf, ZygasterError } from '../../core/errors.ts';
import { cellSizes, compareSizes, type CellSizes } from '../../core/project/compare.ts';
import { HeavyRun, isHeavy, refuseTooLarge } from '../../core/project/estimate.ts';
import { contentNames } from '../../core/project/contents.ts';
import type { DividedFace, FaceBody } from '../../core/project/faceResult.ts';
import { Memo } from '../../core/project/memo.ts';
import { runPipeline } from '../../core/project/pipeline.ts';
import type { RunHost } from '../../core/project/run.ts';
import { faceKey, type Project } from '../../core/project/schema.ts';
import { buffersIn } from '../../core/view/buffers.ts';
import { linesName } from '../../core/view/faceLines.ts';
import type { EarlyUpdate, ModelUpdate } from '../../core/view/modelView.ts';
import type { ComparisonView } from './comparison.ts';
import { ProjectReceiver } from './projectReceiver.ts';
import type { ProjectUpdate } from './projectSender.ts';
import { ScheduleAnswers } from './scheduleAnswers.ts';

/** At most this often is progress told: each time the page is painted, by the same processors where there is no graphics card. */
const PROGRESS_MS = 250;

export type RunResult =
	| { readonly kind: 'model'; readonly update: ModelUpdate }
	| { readonly kind: 'cancelled' }
	/** It takes so much that somebody has to say so first. */
	| { readonly kind: 'heavy'; readonly message: string }
	/** What has changed is told from a project that is not here: all of it must be sent. */
	| { readonly kind: 'unknown' }
	| { readonly kind: 'error'; readonly message: string };

/** What the host lends the core; `load` brings contents here that a project names. */
export interface HostPorts extends Pick<RunHost, 'now' | 'pause' | 'solids' | 'fault'> {
	readonly load?: (names: readonly string[]) => Promise<void>;
	/** Bytes that a run may take; it is not asked where left out. */
	readonly memory?: number;
}

export type Progress = (share: number, what: string) => void;

/** The core's host in the browser: one model at a time, and questions about it. Faces are asked for by the hash of their view. */
export class ModelHost extends ScheduleAnswers {
	private readonly ports: HostPorts;
	private readonly memo = new Memo(new ArrayPool());
	private readonly receiver = new ProjectReceiver();
	private current = { aborted: false };
	/** Cells of the model after the last accepted edit. */
	private settledSizes: CellSizes | undefined;

	constructor(ports: HostPorts) {
		super();
		this.ports = ports;
	}

	/**
	 * Runs the pipeline; a run that is still under way is cancelled. A `settled` project is an accepted edit,
	 * not a preview of one. A heavy run is answered with what it takes, unless somebody is `sure`. `early` hears of the
	 * faces before anything is placed on them: bare where there is no model yet, and as they are divided.
	 */
	async run(
		update: ProjectUpdate,
		settled: boolean,
		progress: Progress,
		sure = false,
		early?: (update: EarlyUpdate) => void
	): Promise<RunResult> {
		const project = this.receiver.take(update);
		if (!project) return { kind: 'unknown' };
		this.current.aborted = true;
		const signal = (this.current = { aborted: false });
		const { now } = this.ports;
		const start = now();
		let told = start;
		try {
			const names = contentNames(project);
			if (names.length) await this.ports.load?.(names);
			if (signal.aborted) return { kind: 'cancelled' };
			const model = await runPipeline(project, {
				...this.ports,
				memo: this.memo,
				signal,
				...(early && this.hearsEarly(hiddenFaces(project), early)),
				weigh: (work) => {
					refuseTooLarge(work, this.ports.memory ?? Infinity);
					if (!sure && isHeavy(work)) throw new HeavyRun(work);
				},
				lastGood: new Map(this.model?.faces.map((f) => [f.key, f]) ?? []),
				progress: (done, of, what) => {
					if (now() - told < PROGRESS_MS) return;
					told = now();
					progress(done / of, what);
				}
			});
			this.model = model;
			this.memo.recycle(model);
			this.hidden = hiddenFaces(project);
			this.whole = project;
			const sizes = cellSizes(model, this.settledSizes);
			const change = this.settledSizes && compareSizes(this.settledSizes, sizes);
			if (settled) this.settledSizes = sizes;
			const shown = this.viewer.update(model, this.hidden, now() - start, change);
			this.views = new Map(
				shown.faces.map((view, f) => [typeof view === 'string' ? view : view.hash, model.faces[f]!])
			);
			// There before somebody asks, also when the server is not.
			this.askedLater().catch(() => undefined);
			return transfer({ kind: 'model', update: shown }, buffersIn([shown.bodies, shown.faces]));
		} catch (cause) {
			if (cause instanceof ZygasterError && cause.code === 'cancelled') return { kind: 'cancelled' };
			if (cause instanceof HeavyRun) return { kind: 'heavy', message: cause.message };
			return { kind: 'error', message: messageOf(cause) };
		}
	}

	/** Tells of faces before they are whole; what has been sent with the last model is not sent again. */
	private hearsEarly(hidden: ReadonlySet<string>, early: (update: EarlyUpdate) => void): Partial<RunHost> {
		const known = new Set(this.model?.faces.map((face) => linesName(face, this.viewer.originFor(this.model!))));
		const tell = (bodies: readonly FaceBody[], faces: readonly DividedFace[]) => {
			const update = this.viewer.early(bodies, faces, hidden, known);
			early(transfer(update, buffersIn([update])));
		};
		return { ...(this.model ? {} : { early: (bodies) => tell(bodies, []) }), divided: tell };
	}

	/** Stops the run under way. */
	cancel(): void {
		this.current.aborted = true;
	}

	/**
	 * What has changed from an earlier state of the project to another one, or to the model that is here. Each is run anew;
	 * hashes of faces are those of the views where it is the model.
	 */
	async compare(before: Project, after?: Project): Promise<ComparisonView | undefined> {
		const { compareStates, modelOf } = await this.askedLater();
		const stateOf = async (project: Project) => {
			const names = contentNames(project);
			if (names.length) await this.ports.load?.(names);
			return { project, model: await modelOf(project, this.ports) };
		};
		const earlier = await stateOf(before);
		if (after) return compareStates(earlier, await stateOf(after));
		const { model, whole } = this;
		if (!model || !whole) return undefined;
		const hashes = [...this.views.keys()];
		return { ...compareStates(earlier, { project: whole, model }), faces: hashes };
	}
}

const hiddenFaces = (project: Project): ReadonlySet<string> =>
	new Set(project.masses.flatMap((m) => m.faces.filter((f) => f.hidden).map((f) => faceKey(m, f))));
