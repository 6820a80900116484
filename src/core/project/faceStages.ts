import { CancelledError, ZygasterError } from '../errors.ts';
import type { Ends } from '../geometry/borders.ts';
import { turnInsideOut, type Surface } from '../geometry/surface.ts';
import { placeSurface } from '../mass/frame.ts';
import { kindOf } from '../mass/shapes.ts';
import type { Placement } from '../placement/place.ts';
import { measureCells, type CellReadings } from '../readings/measureCells.ts';
import { chartFace, faceForSettingOut } from '../settingout/chartedFace.ts';
import type { ChartedFace } from '../settingout/development.ts';
import type { LaidDirection } from '../settingout/directions.ts';
import { flatBorder } from '../settingout/flatBorder.ts';
import { setOut, type NodeTable, type SetOut } from '../settingout/nodes.ts';
import { setOutTurned } from '../settingout/turned.ts';
import type { CellTable } from '../tiling/cells.ts';
import { layOpening, type LaidOpening } from '../tiling/openings/layOpening.ts';
import { noteOpenings } from '../tiling/openings/noteOpenings.ts';
import { trimCells } from '../tiling/openings/trim.ts';
import { noteMixedRows, orderCells, settleOrder } from '../tiling/order.ts';
import { CountError, tileFace } from '../tiling/tile.ts';
import { placeOnFace } from './placeOnFace.ts';
import type { Run, Stage } from './run.ts';
import { faceKey, type Face, type Level, type Mass, type OwnTiling, type Project } from './schema.ts';
import { settleShape } from './settle.ts';

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
	/** The face as its setting-out sees it: turned by a quarter or begun at another seam. */
	readonly charted: ChartedFace;
	readonly across: LaidDirection;
	readonly up: LaidDirection;
	readonly openings: readonly LaidOpening[];
	/** Distance of the second layer, mm; 0 without one. */
	readonly layer: number;
	readonly nodes: NodeTable;
	readonly cells: CellTable;
	readonly readings: CellReadings;
	readonly placements: readonly Placement[];
	/** How the marks of its cells are written. */
	readonly template: string;
	/** Of everything that it was made from. */
	readonly hash: string;
}

/** A surface where it stands, with what it was made from. */
export interface PlacedSurface {
	readonly surface: Surface;
	readonly inputs: unknown;
}

/** The surfaces of a mass where it stands; none, and a warning, where its numbers lead to no face. */
export async function massSurfaces(run: Run, project: Project, mass: Mass): Promise<PlacedSurface[]> {
	try {
		const shape = settleShape(project, mass);
		const inputs = [shape, mass.frame];
		const surfaces = await run.stage('mass', mass.name, () =>
			run.memo('mass', mass.id, inputs, () =>
				kindOf(shape)
					.surfaces(shape)
					.map((surface) => placeSurface(surface, mass.frame))
			)
		);
		const hash = run.lastHash;
		return surfaces.map((surface, f) => ({ surface, inputs: [hash, f] }));
	} catch (cause) {
		if (cause instanceof CancelledError) throw cause;
		for (const face of mass.faces) {
			const key = faceKey(mass, face);
			if (cause instanceof ZygasterError) run.warn('mass', key, cause.message);
			else run.fault(cause, key, mass.name);
		}
		return [];
	}
}

/** Where a fault belongs, by its code. */
const STAGE_OF: Readonly<Record<string, Stage>> = { tiling: 'tiling', 'setting-out': 'settingOut' };

/** One face through all stages: its surface, and its model where it is divided. Faults become warnings. */
export async function runFace(
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
		const whole = await run.stage('mass', what, () =>
			run.memo('mass', key, bodyInputs, () =>
				chartFace(face.insideOut ? turnInsideOut(placed.surface) : placed.surface)
			)
		);
		body = { key, name: what, mark: face.mark, surface: whole.surface, ends: whole.ends };
		if (!face.facade) return { body };
		const levels = levelsUsed(project, face);
		const nodeInputs = [bodyInputs, face.settingOut, levels];
		const { charted, laid, openings, openingNotes } = await run.stage('settingOut', what, () => {
			const { charted, laid } = run.memo('settingOut', key, nodeInputs, () => layOut(run, whole, face, levels));
			const { openings, notes } = layOpenings(
				run,
				key,
				charted === whole ? bodyInputs : nodeInputs,
				charted,
				face,
				levels
			);
			return { charted, laid, openings, openingNotes: notes };
		});
		for (const note of [...laid.notes, ...openingNotes]) run.warn('settingOut', key, note);
		const own =
			face.tiling.kind === 'own'
				? project.tilings.filter((t) => face.tiling.kind === 'own' && t.id === face.tiling.tiling)
				: [];
		const cellInputs = [nodeInputs, face.openings, face.borders, face.tiling, own, face.order];
		const {
			nodes = laid.nodes,
			cells,
			notes
		} = await run.stage('tiling', what, () =>
			run.memo('tiling', key, cellInputs, () => tile(run, charted, laid, openings, face, own))
		);
		for (const note of notes) run.warn('settingOut', key, note);
		const readings = await run.stage('readings', what, () =>
			run.memo('readings', key, cellInputs, () => measureCells(nodes, cells, run.arrays))
		);
		const placements = await placeOnFace(run, project, face, what, key, cellInputs, {
			surface: charted.surface,
			nodes,
			cells,
			readings,
			layer: face.settingOut.layer
		});
		const hash = run.lastHash;
		run.placementHashes.push([key, what, face.mark, face.marks, hash]);
		const { across, up } = laid;
		return {
			body,
			model: {
				...body,
				charted,
				across,
				up,
				openings,
				layer: face.settingOut.layer,
				template: face.marks,
				nodes,
				cells,
				readings,
				placements,
				hash
			}
		};
	} catch (cause) {
		if (cause instanceof CancelledError) throw cause;
		if (!(cause instanceof ZygasterError)) {
			run.fault(cause, key, what);
			return body ? { body } : {};
		}
		const stage = STAGE_OF[cause.code] ?? 'mass';
		const last = stage !== 'mass' && body ? run.lastGood(key) : undefined;
		run.warn(
			stage,
			key,
			cause.message + (last ? ' The last division that fitted is shown.' : ''),
			cause instanceof CountError ? { multiples: cause.multiples } : {}
		);
		if (last) run.placementHashes.push([key, what, face.mark, last.template, last.hash]);
		return { ...(body ? { body } : {}), ...(last ? { model: last } : {}) };
	}
}

/** The levels that a face's division or openings hang on, so that others may move without any work. */
function levelsUsed(project: Project, face: Face): Level[] {
	const { across, up } = face.settingOut;
	const all = [across, up].some(({ spacing }) => spacing.kind === 'levels');
	const named = new Set(face.openings.flatMap(({ place }) => (place.kind === 'level' ? [place.level] : [])));
	return all ? project.levels : project.levels.filter((l) => named.has(l.id));
}

function layOut(
	run: Run,
	whole: ChartedFace,
	{ settingOut }: Face,
	levels: readonly Level[]
): { charted: ChartedFace; laid: SetOut } {
	const charted = faceForSettingOut(whole, settingOut);
	const laid =
		settingOut.turn === 0
			? setOut(charted, settingOut, levels, run.arrays)
			: setOutTurned(charted, settingOut, flatBorder(charted), run.arrays);
	return { charted, laid };
}

/** Lays all openings flat, each remembered by itself; one that cannot be is told of and left out. */
function layOpenings(
	run: Run,
	key: string,
	chartInputs: unknown,
	charted: ChartedFace,
	face: Face,
	levels: readonly Level[]
): { openings: LaidOpening[]; notes: string[] } {
	const notes: string[] = [];
	const openings = face.openings.flatMap((opening) => {
		try {
			return [
				run.memo('settingOut', `${key} ${opening.id}`, [chartInputs, opening, levels], () =>
					layOpening(charted, opening, levels)
				)
			];
		} catch (cause) {
			if (!(cause instanceof ZygasterError)) throw cause;
			notes.push(`${cause.message} It is left out.`);
			return [];
		}
	});
	return { openings, notes };
}

interface Tiled {
	/** Left out where nothing is cut, so that those of the setting-out stand. */
	readonly nodes?: NodeTable;
	readonly cells: CellTable;
	readonly notes: readonly string[];
}

function tile(
	run: Run,
	charted: ChartedFace,
	laid: SetOut,
	openings: readonly LaidOpening[],
	face: Face,
	own: readonly OwnTiling[]
): Tiled {
	const tiled = tileFace(charted, laid, face.tiling, own, run.arrays);
	const nodes = tiled.nodes ?? laid.nodes;
	// The rectangular tiling counts from the end edges by itself.
	const fromEnd = face.tiling.kind === 'rectangular' ? { across: false, up: false } : nodes.fromEnd;
	const settled = settleOrder(face.order, face.tiling.kind, charted.ends.closedAcross);
	const order = orderCells(nodes, tiled.cells, settled, fromEnd);
	const whole = order ? { ...tiled.cells, order } : tiled.cells;
	const mixed = noteMixedRows(nodes, tiled.cells, settled) ?? [];
	if (openings.length === 0 && !nodes.onFace) return { ...tiled, cells: whole, notes: [mixed].flat() };
	const trimmed = trimCells(charted, nodes, whole, openings, face.borders, nodes.onFace && flatBorder(charted));
	return { ...trimmed, notes: [mixed, noteOpenings(charted, face.openings, openings, trimmed.cells)].flat() };
}
