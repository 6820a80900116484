import { ZygasterError } from '../errors.ts';
import type { Surface } from '../geometry/surface.ts';
import { placeSurface } from '../mass/frame.ts';
import { kindOf } from '../mass/shapes.ts';
import type { FaceSchedule } from '../schedule/faceTable.ts';
import { added, NO_WORK } from './estimate.ts';
import { sectionsBeside } from './besideSections.ts';
import { inputsOf, rulesByFace, type FaceInputs } from './faceInputs.ts';
import type { FaceBody, FaceModel, FaceResult } from './faceResult.ts';
import { kitWorldOf } from './kitWorld.ts';
import { hashOf } from './memo.ts';
import { withNeighbours } from './neighbours.ts';
import { breathe, noTimes, ourMistake, type RunHost, type Stage, type StageTimes, type Warning } from './run.ts';
import { divideFace, faceBody, runFace, stepsOf, weighFace, type FacePorts } from './runFace.ts';
import { faceKey, type Mass, type Project } from './schema.ts';
import { settleShape } from './settle.ts';
import { warnTwice } from './twice.ts';

export interface Model {
	/** Every face of every mass, whether divided or not. */
	readonly bodies: readonly FaceBody[];
	/** The faces that are divided and clad. */
	readonly faces: readonly FaceModel[];
	/** By face. */
	readonly schedule: readonly FaceSchedule[];
	readonly warnings: readonly Warning[];
	/** Milliseconds spent in each stage; about 0 where the result was remembered. */
	readonly stageTimes: StageTimes;
}

/** Of a project that has not been run. */
export const NO_MODEL: Model = { bodies: [], faces: [], schedule: [], warnings: [], stageTimes: noTimes() };

/** The surfaces of a mass where it stands; none, and why, where its numbers lead to no face. */
interface MassResult {
	readonly hash: string;
	readonly surfaces: readonly Surface[];
	readonly error?: string;
}

/**
 * Runs all stages for all faces. Same document, same bytes. Throws a CancelledError when the signal
 * says so; a fault of one kit or face becomes a warning and leaves the rest standing.
 */
export async function runPipeline(project: Project, host: RunHost): Promise<Model> {
	const world = kitWorldOf(project);
	const times = noTimes();
	const masses: (MassResult & { readonly mass: Mass })[] = [];
	for (const mass of project.masses) masses.push({ mass, ...(await runMass(project, mass, host, times)) });
	const rules = rulesByFace(project);
	const inputs = withNeighbours(
		masses.flatMap(({ mass, hash, surfaces }) =>
			surfaces.map((surface, f) => ({ surface, face: inputsOf(project, rules, world, mass, f, hash) }))
		)
	);
	const ports = { ...host, world, step: () => undefined };
	/** What comes of all faces on a part of their way, but for those where nothing does. */
	const ofAll = async <T>(part: (face: FaceInputs, ports: FacePorts, times: Record<Stage, number>) => Promise<T>) => {
		const found: NonNullable<T>[] = [];
		for (const { face, ...at } of inputs) {
			const made = await part(face, { ...ports, ...at }, times);
			if (made) found.push(made);
		}
		return found;
	};
	const bodies = host.early || host.divided ? await ofAll(faceBody) : [];
	host.early?.(bodies);
	host.divided?.(bodies, await ofAll(divideFace));
	host.weigh?.((await ofAll(weighFace)).reduce(added, NO_WORK));
	const total = project.masses.length + inputs.reduce((n, { face }) => n + stepsOf(face), 0);
	let done = masses.length;
	const results: FaceResult[] = [];
	const models = new Map<string, FaceModel>();
	for (const { face, ...at } of inputs) {
		const step = () => host.progress?.(++done, total, face.what);
		const earlier = face.neighbours.flatMap((n) => (n.earlier ? (models.get(n.key) ?? []) : []));
		const beside = sectionsBeside(at.surface, earlier, world.library);
		const result = await runFace(beside.length ? { ...face, beside } : face, { ...ports, ...at, step });
		results.push(result);
		if (result.model) models.set(result.key, result.model);
	}
	host.memo.keepOnly(new Set([...project.masses.map((m) => m.id), ...inputs.map(({ face }) => face.key)]));
	return merge(masses, results, host, times);
}

async function runMass(
	project: Project,
	mass: Mass,
	host: RunHost,
	times: Record<'mass', number>
): Promise<MassResult> {
	await breathe(host);
	const start = host.now();
	try {
		const inputs = [settleShape(project, mass), mass.frame] as const;
		const text = JSON.stringify(inputs);
		const known = host.memo.known<MassResult>(mass.id, text);
		if (known) return known;
		const [shape, frame] = inputs;
		const surfaces = kindOf(shape)
			.surfaces(shape)
			.map((surface) => placeSurface(surface, frame));
		const made = { hash: hashOf(inputs), surfaces };
		host.memo.keep(mass.id, text, made, new Set());
		return made;
	} catch (cause) {
		if (cause instanceof ZygasterError) return { hash: '', surfaces: [], error: cause.message };
		if (!host.fault) throw cause;
		host.fault(cause, mass.name);
		return { hash: '', surfaces: [], error: ourMistake(cause) };
	} finally {
		times.mass += host.now() - start;
	}
}

/** The model of all faces; one that cannot be divided any more is shown as it last was where the host remembers it. */
function merge(
	masses: readonly (MassResult & { readonly mass: Mass })[],
	results: readonly FaceResult[],
	{ lastGood }: RunHost,
	times: StageTimes
): Model {
	const stageTimes = { ...times };
	const faces: FaceModel[] = [];
	const warnings: Warning[] = masses.flatMap(({ mass, error }) =>
		error === undefined
			? []
			: mass.faces.map((face) => ({ stage: 'mass' as const, face: faceKey(mass, face), message: error }))
	);
	for (const { key, body, model, failure, warnings: told, times: spent } of results) {
		for (const [stage, time] of Object.entries(spent)) stageTimes[stage as keyof StageTimes] += time;
		const last = failure && failure.stage !== 'mass' && body ? lastGood?.get(key) : undefined;
		if (failure)
			warnings.push(
				last ? { ...failure, message: `${failure.message} The last division that fitted is shown.` } : failure
			);
		warnings.push(...told);
		const shown = model ?? last;
		if (shown) faces.push(shown);
	}
	warnings.push(...warnTwice(faces));
	return {
		bodies: results.flatMap(({ body }) => (body ? [body] : [])),
		faces,
		schedule: faces.map((f) => f.schedule),
		warnings,
		stageTimes
	};
}
