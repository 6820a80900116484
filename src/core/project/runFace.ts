import { CancelledError, ZygasterError } from '../errors.ts';
import type { Surface } from '../geometry/surface.ts';
import { CountError } from '../tiling/tile.ts';
import type { FaceInputs } from './faceInputs.ts';
import type { FaceBody, FaceModel, FaceResult } from './faceResult.ts';
import { FACE_STAGES, laidOf, type FaceStage, type StageName, type StageValues } from './faceStages.ts';
import type { KitWorld } from './kitWorld.ts';
import { hashOf, type Result } from './memo.ts';
import { clampedIn } from './placeJob.ts';
import { warningsOfRules } from './warningsOfRules.ts';
import { breathe, noTimes, ourMistake, type RunHost, type Warning } from './run.ts';

/** What a face is run with: none of it changes what comes out. */
export interface FacePorts extends Omit<RunHost, 'progress' | 'lastGood'> {
	/** The mass's surface where it stands, as `FaceInputs.surface` names it. */
	readonly surface: Surface;
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

/**
 * One face through all of its stages. The same inputs, the same result; a fault of the user's is part of it. Throws a
 * CancelledError when the run is to stop, and mistakes of ours where the host does not want to hear of them.
 */
export async function runFace(face: FaceInputs, ports: FacePorts): Promise<FaceResult> {
	const { key, what } = face;
	const { memo } = ports;
	const text = JSON.stringify(face);
	const known = memo.known<FaceResult>(key, text);
	if (known) {
		await breathe(ports);
		for (let k = stepsOf(face); k > 0; k--) ports.step();
		return { ...known, times: noTimes() };
	}
	const times = noTimes();
	const used = new Set<string>();
	const holds: Result[] = [];
	const keys: Partial<Record<StageName, string>> = {};
	const made: Partial<{ -readonly [Name in StageName]: StageValues[Name] }> = {};
	let at: StageName = 'chart';
	let result: FaceResult;
	try {
		for (at of stagesFor(face)) {
			const stage: FaceStage = FACE_STAGES[at];
			const before = stage.from.map((name) => keys[name]!);
			const results: Result[] = [];
			await breathe(ports);
			for (const [k, piece] of piecesOf(stage, face, made).entries()) {
				const { id, inputs } = piece;
				await breathe(ports);
				const start = ports.now();
				const place = `${at} ${id}`;
				used.add(place);
				results.push(
					await memo.get(key, place, hashOf([before, inputs]), (arrays) =>
						stage.run(made as StageValues, face, { ...ports, solids: ports.solids, arrays }, piece, k)
					)
				);
				times[stage.stage] += ports.now() - start;
			}
			ports.step();
			holds.push(...results);
			const hashes = results.map((r) => r.hash);
			keys[at] = 'pieces' in stage ? hashOf([before, hashes]) : hashes[0]!;
			const values = results.map((r) => r.value);
			Object.assign(made, { [at]: 'pieces' in stage ? values : values[0] });
		}
		result = resultOf(face, ports.world, made, keys, holds, times);
	} catch (cause) {
		if (cause instanceof CancelledError) throw cause;
		const body = bodyOf(face, made, keys);
		const { stage } = FACE_STAGES[at];
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
	memo.keep(key, text, result, used);
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
		nodes: tiling.nodes ?? division.nodes,
		cells: tiling.cells,
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
