import type { ArraySource } from '../arrays.ts';
import { CancelledError, messageOf, ZygasterError } from '../errors.ts';
import { endsOf, type Ends } from '../geometry/borders.ts';
import { turnInsideOut, type Surface } from '../geometry/surface.ts';
import { settleValues } from '../kit/values.ts';
import { placeSurface } from '../mass/frame.ts';
import { kindOf } from '../mass/shapes.ts';
import { placeKit, type Placement } from '../placement/place.ts';
import { measureCells, type CellReadings } from '../readings/measureCells.ts';
import { schedulePanels, type PanelSchedule } from '../schedule/panels.ts';
import { chartLengths } from '../settingout/lengthChart.ts';
import { setOut, type NodeTable } from '../settingout/nodes.ts';
import type { CellTable } from '../tiling/cells.ts';
import { tileRectangular } from '../tiling/rectangular.ts';
import { printFull } from '../units/print.ts';
import { hashOf, Memo } from './memo.ts';
import { settleShape } from './settle.ts';
import { faceKey, type Face, type Mass, type Project, type Rule } from './schema.ts';

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
}

/** A face before it is divided. */
export interface FaceBody {
	readonly key: string;
	readonly name: string;
	readonly mark: string;
	readonly surface: Surface;
	readonly ends: Ends;
}

/** Everything derived for one face. */
export interface FaceModel extends FaceBody {
	readonly nodes: NodeTable;
	readonly cells: CellTable;
	readonly readings: CellReadings;
	readonly placements: readonly Placement[];
}

export interface Model {
	/** Every face of every mass, whether divided or not. */
	readonly bodies: readonly FaceBody[];
	/** The faces that are divided and clad. */
	readonly faces: readonly FaceModel[];
	readonly schedule: PanelSchedule;
	readonly warnings: readonly Warning[];
	/** Milliseconds spent in each stage; about 0 where the result was remembered. */
	readonly stageTimes: Readonly<Record<Stage, number>>;
}

/** What the host of a run lends it: a clock, a place to pause, a way to stop it and a place to report to. */
export interface RunHost {
	readonly memo: Memo;
	/** Milliseconds on any steady clock. */
	readonly now: () => number;
	/** Lets other work through; called between stages. */
	readonly pause?: () => Promise<void>;
	readonly signal?: { readonly aborted: boolean };
	readonly progress?: (done: number, of: number, what: string) => void;
}

/**
 * Runs all stages for all faces. Same document, same bytes. Throws a CancelledError when the signal
 * says so; a fault of one kit or face becomes a warning and leaves the rest standing.
 */
export async function runPipeline(project: Project, host: RunHost): Promise<Model> {
	const run = new Run(host, project.masses.length, project.masses.reduce((n, m) => n + m.faces.length, 0));
	const bodies: FaceBody[] = [];
	const faces: FaceModel[] = [];
	for (const mass of project.masses) {
		const surfaces = await massSurfaces(run, project, mass);
		for (let f = 0; f < surfaces.length; f++) {
			const made = await runFace(run, project, mass, f, surfaces[f]!);
			if (made.body) bodies.push(made.body);
			if (made.model) faces.push(made.model);
		}
	}
	const schedule = await run.stage('schedule', 'all', 'all panels', () =>
		// The key holds every face's last hash, so the schedule follows all of them.
		run.memo('schedule', 'all', run.placementHashes, () => schedulePanels(faces, run.arrays))
	);
	run.forgetUnused();
	return { bodies, faces, schedule, warnings: run.warnings, stageTimes: run.times };
}

/** A surface where it stands, with what it was made from. */
interface PlacedSurface {
	readonly surface: Surface;
	readonly inputs: unknown;
}

/** The surfaces of a mass where it stands; none, and a warning, where its numbers lead to no face. */
async function massSurfaces(run: Run, project: Project, mass: Mass): Promise<PlacedSurface[]> {
	try {
		const shape = settleShape(project, mass);
		const inputs = [shape, mass.frame];
		const surfaces = await run.stage('mass', mass.id, mass.name, () =>
			run.memo('mass', mass.id, inputs, () =>
				kindOf(shape)
					.surfaces(shape)
					.map((surface) => placeSurface(surface, mass.frame))
			)
		);
		const hash = run.lastHash;
		return surfaces.map((surface, f) => ({ surface, inputs: [hash, f] }));
	} catch (cause) {
		if (!(cause instanceof ZygasterError) || cause instanceof CancelledError) throw cause;
		for (const face of mass.faces) run.warn('mass', faceKey(mass, face), cause.message);
		return [];
	}
}

async function runFace(
	run: Run,
	project: Project,
	mass: Mass,
	index: number,
	placed: PlacedSurface
): Promise<{ body?: FaceBody; model?: FaceModel }> {
	const face = mass.faces[index]!;
	const key = faceKey(mass, face);
	const what = `${mass.name} › ${face.name}`;
	let body: FaceBody | undefined;
	try {
		const bodyInputs = [placed.inputs, face.insideOut];
		const { surface, ends, chart } = await run.stage('mass', key, what, () =>
			run.memo('mass', key, bodyInputs, () => {
				const surface = face.insideOut ? turnInsideOut(placed.surface) : placed.surface;
				return { surface, ends: endsOf(surface), chart: chartLengths(surface) };
			})
		);
		body = { key, name: what, mark: face.mark, surface, ends };
		if (!face.facade) return { body };
		const nodeInputs = [bodyInputs, face.settingOut];
		const nodes = await run.stage('settingOut', key, what, () =>
			run.memo('settingOut', key, nodeInputs, () =>
				setOut(surface, chart, face.settingOut.across, face.settingOut.up, ends, run.arrays)
			)
		);
		const cells = await run.stage('tiling', key, what, () =>
			run.memo('tiling', key, [face.settingOut, face.tiling, ends], () => tileRectangular(nodes, run.arrays))
		);
		const cellInputs = [nodeInputs, face.tiling];
		const readings = await run.stage('readings', key, what, () =>
			run.memo('readings', key, cellInputs, () => measureCells(nodes, cells, run.arrays))
		);
		const placements = await run.stage('placement', key, what, () =>
			placeOnFace(run, project, key, cellInputs, nodes, cells, readings)
		);
		run.placementHashes.push([key, what, face.mark, run.lastHash]);
		return { body, model: { ...body, nodes, cells, readings, placements } };
	} catch (cause) {
		if (cause instanceof CancelledError) throw cause;
		const stage = cause instanceof ZygasterError && cause.code === 'setting-out' ? 'settingOut' : 'mass';
		run.warn(stage, key, messageOf(cause));
		return body ? { body } : {};
	}
}

function placeOnFace(
	run: Run,
	project: Project,
	key: string,
	cellInputs: unknown,
	nodes: NodeTable,
	cells: CellTable,
	readings: CellReadings
): readonly Placement[] {
	const rule = ruleFor(project, key);
	const kit = rule && project.kits.find((k) => k.id === rule.kit);
	if (!rule || !kit) {
		run.lastHash = hashOf([cellInputs, null]);
		return [];
	}
	const densities = Object.fromEntries(project.materials.map((m) => [m.id, m.density]));
	const { values, clamped } = settleValues(kit, rule.values);
	for (const { parameter, label, asked, used } of clamped) {
		const quantity = kit.parameters.find((p) => p.name === parameter)!.quantity;
		run.warn(
			'placement',
			key,
			`${label} of “${kit.name}” was asked as ${printFull(asked, quantity, project.units)} and is held at ${printFull(used, quantity, project.units)}.`
		);
	}
	try {
		const placements = run.memo('placement', key, [cellInputs, kit, values, densities], () =>
			placeKit(kit, values, densities, nodes, cells, readings, run.arrays)
		);
		warnOfFailures(run, key, placements);
		return placements;
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		run.warn('placement', key, cause.message);
		run.lastHash = hashOf([cellInputs, cause.message]);
		return [];
	}
}

function warnOfFailures(run: Run, key: string, placements: readonly Placement[]): void {
	for (const { kit, failures } of placements)
		for (const [step, cells] of failures)
			run.warn(
				'placement',
				key,
				`“${kit.name}” does not fit ${cells.length} ${cells.length === 1 ? 'cell' : 'cells'}: step “${step}” leaves nothing. A smaller value or larger cells would be right.`,
				cells
			);
}

/** The rule that places a kit on a face: the last one that names it. */
export function ruleFor(project: Project, key: Face['id']): Rule | undefined {
	return project.rules.findLast((rule) => rule.face === key);
}

/** Book-keeping of one run: times, warnings, progress, stopping. */
class Run {
	readonly warnings: Warning[] = [];
	readonly times = Object.fromEntries(STAGES.map((s) => [s, 0])) as Record<Stage, number>;
	readonly placementHashes: unknown[] = [];
	lastHash = '';
	private done = 0;
	private readonly total: number;
	private readonly used = new Set<string>();
	private readonly host: RunHost;

	constructor(host: RunHost, masses: number, faces: number) {
		this.host = host;
		this.total = masses + faces * (STAGES.length - 1) + 1;
	}

	get arrays(): ArraySource {
		return this.host.memo.arrays;
	}

	async stage<T>(stage: Stage, place: string, what: string, work: () => T): Promise<T> {
		await this.host.pause?.();
		if (this.host.signal?.aborted) throw new CancelledError();
		const start = this.host.now();
		const result = work();
		this.times[stage] += this.host.now() - start;
		this.host.progress?.(++this.done, this.total, what);
		this.used.add(`${stage}:${place}`);
		return result;
	}

	memo<T>(stage: Stage, place: string, inputs: unknown, compute: () => T): T {
		this.lastHash = hashOf(inputs);
		return this.host.memo.get(`${stage}:${place}`, this.lastHash, compute);
	}

	warn(stage: Stage, face: string, message: string, cells?: Uint32Array): void {
		this.warnings.push({ stage, face, message, ...(cells ? { cells } : {}) });
	}

	forgetUnused(): void {
		this.host.memo.keepOnly(this.used);
	}
}
