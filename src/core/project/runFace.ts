import { CancelledError, ZygasterError } from '../errors.ts';
import type { Surface } from '../geometry/surface.ts';
import { CountError } from '../tiling/tile.ts';
import { textOf, type FaceInputs } from './faceInputs.ts';
import type { DividedFace, FaceBody, FaceModel, FaceResult } from './faceResult.ts';
import { added, learn, NO_WORK, weighJob, type Work } from './estimate.ts';
import {
	FACE_STAGES,
	hostFaceOf,
	laidOf,
	nodesOf,
	type FaceStage,
	type PlacementPiece,
	type StageName,
	type StageValues
} from './faceStages.ts';
import type { KitWorld } from './kitWorld.ts';
import { hashOf, type Result } from './memo.ts';
import { clampedIn } from './placeJob.ts';
import { warningsOfRules } from './warningsOfRules.ts';
import { breathe, noTimes, ourMistake, STAGES, type RunHost, type Stage, type Warning } from './run.ts';

/** What a face is run with: none of it changes what comes out. */
export interface FacePorts extends Omit<RunHost, 'progress' | 'lastGood' | 'early' | 'divided'> {
	/** The mass's surface where it stands, as `FaceInputs.surface` names it. */
	readonly surface: Surface;
	/** The surfaces of `FaceInputs.neighbours`. */
	readonly meeting: readonly Surface[];
	readonly world: KitWorld;
	/** Hears of every step that is done. */
	readonly step: () => void;
}

const STAGE_NAMES = Object.keys(FACE_STAGES) as StageName[];

/** How many steps a face takes. */
export const stepsOf = (face: FaceInputs): number => stagesFor(face).length;

const stagesFor = ({ face }: FaceInputs) => (face.facade ? STAGE_NAMES : STAGE_NAMES.slice(0, 1));

/** The pieces that a stage is made in; a whole one is a single piece. */
function piecesOf(stage: FaceStage, face: FaceInputs, made: Made) {
	return 'pieces' in stage ? stage.pieces(face, made as StageValues) : [{ id: '', inputs: stage.inputs(face) }];
}

/** A face on its way through its stages. */
class FaceRun {
	readonly times = noTimes();
	readonly used = new Set<string>();
	readonly holds: Result[] = [];
	readonly keys: Keys = {};
	readonly made: Partial<{ -readonly [Name in StageName]: StageValues[Name] }> = {};
	at: StageName = 'chart';
	private readonly face: FaceInputs;
	private readonly ports: FacePorts;

	constructor(face: FaceInputs, ports: FacePorts) {
		this.face = face;
		this.ports = ports;
	}

	async through(stages: readonly StageName[]): Promise<void> {
		const { face, ports, made } = this;
		for (this.at of stages) {
			const { at } = this;
			const stage: FaceStage = FACE_STAGES[at];
			const before = this.before(stage);
			const results: Result[] = [];
			await breathe(ports);
			for (const [k, piece] of piecesOf(stage, face, made).entries()) {
				await breathe(ports);
				const start = ports.now();
				const place = `${at} ${piece.id}`;
				this.used.add(place);
				const hash = hashOf([before, piece.inputs]);
				const fresh = !ports.memo.has(face.key, place, hash);
				results.push(
					await ports.memo.get(face.key, place, hash, (arrays) =>
						stage.run(made as StageValues, face, { ...ports, solids: ports.solids, arrays }, piece, k)
					)
				);
				const spent = ports.now() - start;
				this.times[stage.stage] += spent;
				if (fresh && at === 'placement') learn((piece as PlacementPiece).job, ports.world, spent);
			}
			ports.step();
			this.holds.push(...results);
			const hashes = results.map((r) => r.hash);
			this.keys[at] = 'pieces' in stage ? hashOf([before, hashes]) : hashes[0]!;
			const values = results.map((r) => r.value);
			Object.assign(made, { [at]: 'pieces' in stage ? values : values[0] });
		}
	}

	/** What of the next stage has not been made yet. */
	left(at: 'placement'): PlacementPiece[] {
		const stage: FaceStage = FACE_STAGES[at];
		const before = this.before(stage);
		return piecesOf(stage, this.face, this.made).filter(
			({ id, inputs }) => !this.ports.memo.has(this.face.key, `${at} ${id}`, hashOf([before, inputs]))
		) as PlacementPiece[];
	}

	private before(stage: FaceStage): string[] {
		return stage.from.map((name) => this.keys[name]!);
	}
}

/** Leads a face part of its way; its time is added to `times`. A fault on it is told by the run proper, and answered by `otherwise`. */
async function partOfWay<T>(
	face: FaceInputs,
	ports: FacePorts,
	times: Record<Stage, number>,
	otherwise: T,
	go: (run: FaceRun) => Promise<T>
): Promise<T> {
	const run = new FaceRun(face, { ...ports, step: () => undefined });
	try {
		return await go(run);
	} catch (cause) {
		if (cause instanceof CancelledError) throw cause;
		return otherwise;
	} finally {
		// What has been made here is known to the run proper, and takes it no time.
		for (const stage of STAGES) times[stage] += run.times[stage];
	}
}

/** A face before it is divided; nothing where its surface cannot be made. Its time is added to `times`. */
export const faceBody = (
	face: FaceInputs,
	ports: FacePorts,
	times: Record<Stage, number>
): Promise<FaceBody | undefined> =>
	partOfWay<FaceBody | undefined>(face, ports, times, undefined, async (run) => {
		await run.through(['chart']);
		return bodyOf(face, run.made, run.keys).body;
	});

/** A face as it is divided; nothing where that is not possible. Its time is added to `times`. */
export async function divideFace(
	face: FaceInputs,
	ports: FacePorts,
	times: Record<Stage, number>
): Promise<DividedFace | undefined> {
	if (!face.face.facade) return undefined;
	const known = ports.memo.known<FaceResult>(face.key, textOf(face));
	if (known) return known.model;
	return partOfWay<DividedFace | undefined>(face, ports, times, undefined, async (run) => {
		await run.through(STAGE_NAMES.slice(0, STAGE_NAMES.indexOf('tiling') + 1));
		const { turned, division, tiling } = run.made as StageValues;
		return {
			key: face.key,
			charted: turned,
			nodes: tiling.nodes ?? division.nodes,
			cells: tiling.cells,
			dividedHash: dividedHash(face, run.keys)
		};
	});
}

const dividedHash = ({ key }: FaceInputs, { tiling }: Keys) => hashOf([key, tiling]);

/** What a cell takes with its nodes, edges and readings, bytes. */
const CELL_BYTES = 400;

/** What placing on a face has before it; nothing where it is known already, or where a stage before it fails. Its time is added to `times`. */
export async function weighFace(face: FaceInputs, ports: FacePorts, times: Record<Stage, number>): Promise<Work> {
	if (!face.face.facade || ports.memo.known(face.key, textOf(face))) return NO_WORK;
	return partOfWay(face, ports, times, NO_WORK, async (run) => {
		await run.through(STAGE_NAMES.slice(0, STAGE_NAMES.indexOf('placement')));
		const on = hostFaceOf(run.made as StageValues);
		let work = { ...NO_WORK, bytes: on.cells.count * CELL_BYTES };
		for (const { job } of run.left('placement')) {
			await breathe(ports);
			const start = ports.now();
			const solids = face.kits[job.kit]!.solids || job.trim ? await ports.solids?.() : undefined;
			work = added(work, weighJob(job, ports.world, on, solids, ports.now));
			run.times.placement += ports.now() - start;
		}
		return work;
	});
}

/**
 * One face through all of its stages. The same inputs, the same result; a fault of the user's is part of it. Throws a
 * CancelledError when the run is to stop, and mistakes of ours where the host does not want to hear of them.
 */
export async function runFace(face: FaceInputs, ports: FacePorts): Promise<FaceResult> {
	const { key, what } = face;
	const { memo } = ports;
	const text = textOf(face);
	const known = memo.known<FaceResult>(key, text);
	if (known) {
		await breathe(ports);
		for (let k = stepsOf(face); k > 0; k--) ports.step();
		return { ...known, times: noTimes() };
	}
	const run = new FaceRun(face, ports);
	const { times, made, keys } = run;
	let result: FaceResult;
	try {
		await run.through(stagesFor(face));
		result = resultOf(face, ports.world, made, keys, run.holds, times);
	} catch (cause) {
		if (cause instanceof CancelledError) throw cause;
		const body = bodyOf(face, made, keys);
		const { stage } = FACE_STAGES[run.at];
		if (cause instanceof ZygasterError) {
			const multiples = cause instanceof CountError ? { multiples: cause.multiples } : {};
			const failure: Warning = { stage, face: key, message: cause.message, ...multiples };
			result = { key, ...body, warnings: [...notesOf(face, made)], failure, times };
		} else {
			if (!ports.fault) throw cause;
			ports.fault(cause, what);
			// Not remembered: it may have had a passing cause.
			return { key, ...body, warnings: [{ stage: 'mass', face: key, message: ourMistake(cause) }], times };
		}
	}
	memo.keep(key, text, result, run.used);
	return result;
}

type Made = Partial<StageValues>;
type Keys = Partial<Record<StageName, string>>;

function bodyOf({ key, what, face }: FaceInputs, { chart }: Made, { chart: bodyHash }: Keys): { body?: FaceBody } {
	if (!chart) return {};
	return { body: { key, name: what, mark: face.mark, surface: chart.surface, ends: chart.ends, bodyHash: bodyHash! } };
}

/** What setting-out and tiling want told. */
function notesOf({ key }: FaceInputs, { division, openings, tiling, paths }: Made): Warning[] {
	const notes = [
		...(division?.notes ?? []),
		...(openings ?? []).flatMap((o) => ('note' in o ? [o.note] : [])),
		...(tiling?.notes ?? [])
	];
	return [
		...notes.map((message): Warning => ({ stage: 'settingOut', face: key, message })),
		...(paths?.notes ?? []).map((message): Warning => ({ stage: 'placement', face: key, message }))
	];
}

function resultOf(
	face: FaceInputs,
	world: KitWorld,
	made: Made,
	keys: Keys,
	holds: readonly Result[],
	times: FaceResult['times']
): FaceResult {
	const { key } = face;
	const { body } = bodyOf(face, made, keys);
	const { turned, division, openings, tiling, readings, paths, layer, assign, placement, schedule } = made;
	if (
		!turned ||
		!division ||
		!openings ||
		!tiling ||
		!readings ||
		!paths ||
		layer === undefined ||
		!assign ||
		!placement ||
		!schedule
	)
		return { key, body: body!, warnings: [], times };
	const model: FaceModel = {
		...body!,
		charted: turned,
		across: division.across,
		up: division.up,
		openings: laidOf(openings),
		layer,
		drawn: paths,
		template: face.face.marks,
		nodes: nodesOf({ division, tiling, readings }),
		cells: tiling.cells,
		dividedHash: dividedHash(face, keys),
		readings,
		assigned: assign,
		placements: placement.flatMap((p) => p.placements),
		clamped: clampedIn(assign, placement, world.library),
		schedule,
		hash: hashOf([keys.schedule, keys.assign]),
		holds
	};
	return {
		key,
		body: body!,
		model,
		warnings: [...notesOf(face, made), ...warningsOfRules(face, world, assign, placement)],
		times
	};
}
