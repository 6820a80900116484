import { expose, transfer } from 'comlink';
import manifoldWasm from 'manifold-3d/manifold.wasm?url';
import { ArrayPool } from '../../core/arrays.ts';
import { ZygasterError } from '../../core/errors.ts';
import type { Point } from '../../core/placement/batches.ts';
import { cellSizes, compareSizes, type CellSizes } from '../../core/project/compare.ts';
import type { FaceModel } from '../../core/project/faceStages.ts';
import { solidsLoader } from '../../core/kit/solids.ts';
import type { KitHost } from '../../core/kit/schema.ts';
import type { TrialHost } from '../../core/kit/trialHosts.ts';
import { hostOfFace } from '../../core/placement/hostOfFace.ts';
import { Memo } from '../../core/project/memo.ts';
import { runPipeline, type Model } from '../../core/project/pipeline.ts';
import { faceKey, type Project } from '../../core/project/schema.ts';
import { CELL_READINGS, type CellReading } from '../../core/readings/cellReadings.ts';
import { curveSegments } from '../../core/readings/edgeCurves.ts';
import { FaceReadings, READING_NAMES, type ReadingName } from '../../core/readings/faceReadings.ts';
import { querySchedule, type ScheduleAnswer, type ScheduleQuery } from '../../core/schedule/query.ts';
import { pointOn } from '../../core/geometry/pointOn.ts';
import { developmentOf, findFlat } from '../../core/settingout/development.ts';
import { originOf } from '../../core/project/modelBatches.ts';
import { cellMesh, type CellMesh } from './cellMesh.ts';
import { viewFlat, type FlatView } from './flatView.ts';
import { buffersOf, viewModel, type ModelView } from './modelView.ts';
import { CellPicker, type PickedCell } from './pick.ts';

const solids = solidsLoader(() => import('manifold-3d'), manifoldWasm);

/** At most this often is progress told. */
const PROGRESS_MS = 80;

export type RunResult =
	| { readonly kind: 'model'; readonly view: ModelView }
	| { readonly kind: 'cancelled' }
	| { readonly kind: 'error'; readonly message: string };

/** Values of a reading: one column for each face. */
export interface ReadingColumns {
	readonly keys: readonly string[];
	readonly columns: readonly Float32Array<ArrayBuffer>[];
}

export type Progress = (share: number, what: string) => void;

/** The core's host in the browser: one model at a time, and questions about it. */
class ModelWorker {
	private readonly memo = new Memo(new ArrayPool());
	private current = { aborted: false };
	private model: Model | undefined;
	private picker: CellPicker | undefined;
	/** Readings that somebody asked for, by face. */
	private readonly measured = new WeakMap<FaceModel, FaceReadings>();
	/** Readings of the model that later ones are compared with. */
	private reference: readonly {
		readonly key: string;
		readonly columns: Readonly<Record<ReadingName, Float32Array<ArrayBuffer>>>;
	}[] = [];
	private hidden: ReadonlySet<string> = new Set();
	private levels: Project['levels'] = [];
	/** Cells of the model after the last accepted edit. */
	private settledSizes: CellSizes | undefined;

	/**
	 * Runs the pipeline; a run that is still under way is cancelled. A `settled` project is an accepted edit,
	 * not a preview of one.
	 */
	async run(project: Project, settled: boolean, progress: Progress): Promise<RunResult> {
		this.current.aborted = true;
		const signal = (this.current = { aborted: false });
		const start = performance.now();
		let told = start;
		try {
			const model = await runPipeline(project, {
				memo: this.memo,
				signal,
				lastGood: new Map(this.model?.faces.map((f) => [f.key, f]) ?? []),
				now: () => performance.now(),
				pause: letMessagesThrough,
				fault: (cause, what) => console.error(what, cause),
				solids,
				progress: (done, of, what) => {
					if (performance.now() - told < PROGRESS_MS) return;
					told = performance.now();
					progress(done / of, what);
				}
			});
			this.model = model;
			this.picker = undefined;
			this.memo.recycle(model);
			this.hidden = hiddenFaces(project);
			this.levels = project.levels;
			const sizes = cellSizes(model);
			const change = this.settledSizes && compareSizes(this.settledSizes, sizes);
			if (settled) this.settledSizes = sizes;
			const view = viewModel(model, this.hidden, performance.now() - start, change);
			return transfer({ kind: 'model', view }, buffersOf(view));
		} catch (cause) {
			if (cause instanceof ZygasterError && cause.code === 'cancelled') return { kind: 'cancelled' };
			return { kind: 'error', message: cause instanceof Error ? cause.message : String(cause) };
		}
	}

	/** Stops the run under way. */
	cancel(): void {
		this.current.aborted = true;
	}

	query(query: ScheduleQuery): ScheduleAnswer | undefined {
		if (!this.model) return undefined;
		const answer = querySchedule(this.model.schedule, query);
		return transfer(answer, [answer.order.buffer as ArrayBuffer]);
	}

	readings(face: number, cell: number): Record<CellReading, number> | undefined {
		const readings = this.readingsOf(face);
		if (!readings) return undefined;
		const names = Object.keys(CELL_READINGS) as CellReading[];
		return Object.fromEntries(names.map((n) => [n, readings.column(`cell.${n}`)[cell]!])) as Record<
			CellReading,
			number
		>;
	}

	/** A divided face laid flat; nothing when the model has no such face. */
	flat(key: string): FlatView | undefined {
		const face = this.model?.faces.find((f) => f.key === key);
		if (!face) return undefined;
		const view = viewFlat(face, this.levels);
		return transfer(view, [
			view.corners.buffer,
			view.border.buffer,
			...view.levels.map((l) => l.segments.buffer)
		] as ArrayBuffer[]);
	}

	/** A host of a face as it is, for the bench: of the kind that the kit stands on, by its number; nothing where there is none. */
	trialHost(key: string, host: KitHost, element: number): TrialHost | undefined {
		const face = this.model?.faces.find((f) => f.key === key);
		return face && hostOfFace({ ...face, surface: face.charted.surface }, host, element);
	}

	/** A point of a face in space, mm, for a place of the face laid flat; nothing off the face. */
	onFace(key: string, x: number, y: number): Point | undefined {
		const face = this.model?.faces.find((f) => f.key === key);
		const found = face && findFlat(developmentOf(face.charted), x, y);
		return found && pointOn(face.charted.surface, found.u, found.v).position;
	}

	/** Values of a reading by face, in the order of the model's faces; of the reference, by the faces that it had. */
	column(name: ReadingName, ofReference = false): ReadingColumns {
		if (ofReference)
			return { keys: this.reference.map((r) => r.key), columns: this.reference.map((r) => r.columns[name].slice()) };
		const faces = this.model?.faces ?? [];
		const columns = faces.map((_, f) => Float32Array.from(this.readingsOf(f)!.column(name)));
		return transfer(
			{ keys: faces.map((f) => f.key), columns },
			columns.map((c) => c.buffer)
		);
	}

	/** Keeps all readings of the present model, to compare later ones with. */
	keepReference(): void {
		this.reference = (this.model?.faces ?? []).map(({ key }, f) => ({
			key,
			columns: Object.fromEntries(
				READING_NAMES.map((name) => [name, Float32Array.from(this.readingsOf(f)!.column(name))])
			) as Record<ReadingName, Float32Array<ArrayBuffer>>
		}));
	}

	dropReference(): void {
		this.reference = [];
	}

	/** Triangles of the cells of all faces, for colouring. */
	meshes(): readonly CellMesh[] {
		const { model } = this;
		if (!model) return [];
		const origin = originOf(model);
		const meshes = model.faces.map((face) => cellMesh(face, origin));
		return transfer(
			meshes,
			meshes.flatMap((m) => [m.positions.buffer, m.cellOf.buffer] as ArrayBuffer[])
		);
	}

	/** The edges of a face as they follow it: segments in mm less the model's origin, stride 6. */
	curves(key: string): Float32Array | undefined {
		const face = this.model?.faces.find((f) => f.key === key);
		if (!face) return undefined;
		const segments = curveSegments(face, originOf(this.model!));
		return transfer(segments, [segments.buffer]);
	}

	private readingsOf(face: number): FaceReadings | undefined {
		const model = this.model?.faces[face];
		if (!model) return undefined;
		const known = this.measured.get(model) ?? new FaceReadings(model);
		this.measured.set(model, known);
		return known;
	}

	pick(origin: Point, direction: Point): PickedCell | undefined {
		if (!this.model) return undefined;
		this.picker ??= new CellPicker(this.model.faces, this.hidden);
		return this.picker.pick(origin, direction);
	}
}

const hiddenFaces = (project: Project): ReadonlySet<string> =>
	new Set(project.masses.flatMap((m) => m.faces.filter((f) => f.hidden).map((f) => faceKey(m, f))));

/** A turn of the event loop, without the clamp of timers, so that a newer call is heard. */
function letMessagesThrough(): Promise<void> {
	return new Promise((resolve) => {
		const { port1, port2 } = new MessageChannel();
		port1.onmessage = () => {
			port1.close();
			resolve();
		};
		port2.postMessage(null);
	});
}

export type ModelWorkerApi = ModelWorker;
expose(new ModelWorker());
