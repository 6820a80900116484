import type { ArraySource } from '../arrays.ts';
import { ZygasterError } from '../errors.ts';
import { turnInsideOut, type Surface } from '../geometry/surface.ts';
import type { Kit } from '../kit/schema.ts';
import type { SolidPort } from '../kit/solids.ts';
import { meetingFace } from '../placement/besideFace.ts';
import { edgeLines } from '../placement/edgeLines.ts';
import type { HostFace } from '../placement/faceHosts.ts';
import { roomsAt, type EdgeRooms } from '../placement/rooms.ts';
import { fieldsAtPoints, layerDistance } from '../placement/fields/drive.ts';
import { drawPaths, type DrawnPaths } from '../placement/drawn/drawPaths.ts';
import { assign, type Assigned } from '../placement/rules/assign.ts';
import type { Job } from '../placement/rules/jobs.ts';
import type { RuledFace } from '../placement/rules/ruleHosts.ts';
import { measureCells, type CellReadings } from '../readings/measureCells.ts';
import { scheduleFace } from '../schedule/faceSchedule.ts';
import type { FaceSchedule } from '../schedule/faceTable.ts';
import { chartFace, faceForSettingOut } from '../settingout/chartedFace.ts';
import type { ChartedFace } from '../settingout/development.ts';
import { flatBorder } from '../settingout/flatBorder.ts';
import { nodeNormals } from '../settingout/layer.ts';
import { setOut, type NodeTable, type SetOut } from '../settingout/nodes.ts';
import type { SettingOut } from '../settingout/spacing.ts';
import { setOutTurned } from '../settingout/turned.ts';
import type { CellTable } from '../tiling/cells.ts';
import { layOpening, type LaidOpening } from '../tiling/openings/layOpening.ts';
import { noteOpenings } from '../tiling/openings/noteOpenings.ts';
import { trimCells } from '../tiling/openings/trim.ts';
import { noteMixedRows, orderCells, settleOrder } from '../tiling/order.ts';
import { tileFace } from '../tiling/tile.ts';
import { asOwnSections, type BesideSection } from './besideSections.ts';
import type { FaceInputs } from './faceInputs.ts';
import type { KitWorld } from './kitWorld.ts';
import { placeJob, type PlacedJob } from './placeJob.ts';
import type { Stage } from './run.ts';

/** What each stage makes. */
export interface StageValues {
	/** The face's surface, with its true lengths. */
	readonly chart: ChartedFace;
	/** The face as its setting-out sees it: turned by a quarter or begun at another seam. */
	readonly turned: ChartedFace;
	readonly division: SetOut;
	readonly openings: readonly PieceValues['openings'][];
	readonly tiling: Tiled;
	readonly readings: CellReadings;
	readonly paths: DrawnPaths;
	/** Distance of the second layer, mm, the same or by node. */
	readonly layer: number | Float64Array;
	/** Which rule takes which host, with which values. */
	readonly assign: Assigned;
	readonly placement: readonly PieceValues['placement'][];
	readonly schedule: FaceSchedule;
}

/** What stages that go piece by piece make of each. */
interface PieceValues {
	/** An opening, or why it is left out. */
	readonly openings: { readonly laid: LaidOpening } | { readonly note: string };
	readonly placement: PlacedJob;
}

export interface Tiled {
	/** Left out where nothing is added or cut, so that those of the setting-out stand. */
	readonly nodes?: NodeTable;
	readonly cells: CellTable;
	readonly notes: readonly string[];
}

export type StageName = keyof StageValues;

/** What a stage may use besides its inputs; none of it changes what it makes. */
export interface StagePorts {
	/** The mass's surface where it stands. */
	readonly surface: Surface;
	/** The surfaces of the face's neighbours. */
	readonly meeting: readonly Surface[];
	readonly world: KitWorld;
	readonly solids: (() => Promise<SolidPort>) | undefined;
	readonly arrays: ArraySource;
}

interface StageBase {
	/** What its time and warnings are told by. */
	readonly stage: Stage;
	/** The stages that it reads: it sees no others, and its key hangs on their keys. */
	readonly from: readonly StageName[];
}

/** A stage that is made whole; its key is the hash of the keys of those before it and of its own inputs. */
interface WholeStage<Name extends StageName> extends StageBase {
	readonly inputs: (face: FaceInputs) => unknown;
	readonly run: (
		made: StageValues,
		face: FaceInputs,
		ports: StagePorts
	) => StageValues[Name] | Promise<StageValues[Name]>;
}

interface Piece {
	readonly id: string;
	readonly inputs: unknown;
}

/** A job with what it may stand on that other jobs do not hang on. */
export interface PlacementPiece extends Piece {
	readonly job: Job;
	readonly layer: number | Float64Array;
	readonly drawn: DrawnPaths;
	/** What the ends of its edges have to keep clear of; nothing where it does not ask. */
	readonly beside: readonly Job[];
}

/** A stage whose pieces are made and remembered each by itself; `run` makes one of them, number `k`. */
interface PieceStage<Name extends keyof PieceValues> extends StageBase {
	readonly pieces: (face: FaceInputs, made: StageValues) => readonly Piece[];
	readonly run: (
		made: StageValues,
		face: FaceInputs,
		ports: StagePorts,
		piece: Piece,
		k: number
	) => PieceValues[Name] | Promise<PieceValues[Name]>;
}

export type FaceStage = WholeStage<StageName> | PieceStage<keyof PieceValues>;

/** Declares a stage, which then sees no more than what it says that it reads. */
const whole = <Name extends StageName, From extends StageName>(
	stage: Stage,
	from: readonly From[],
	inputs: (face: FaceInputs) => unknown,
	run: (
		made: Pick<StageValues, From>,
		face: FaceInputs,
		ports: StagePorts
	) => StageValues[Name] | Promise<StageValues[Name]>
): WholeStage<Name> => ({ stage, from, inputs, run });

const byPiece = <Name extends keyof PieceValues, From extends StageName>(
	stage: Stage,
	from: readonly From[],
	pieces: PieceStage<Name>['pieces'],
	run: (
		made: Pick<StageValues, From>,
		face: FaceInputs,
		ports: StagePorts,
		piece: Piece,
		k: number
	) => PieceValues[Name] | Promise<PieceValues[Name]>
): PieceStage<Name> => ({ stage, from, pieces, run });

/** The stages of a face, in order. Only the first is run where it is not divided. */
export const FACE_STAGES = {
	chart: whole<'chart', never>(
		'mass',
		[],
		({ surface, face }) => [surface, face.insideOut],
		(_, { face }, { surface }) => chartFace(face.insideOut ? turnInsideOut(surface) : surface)
	),
	turned: whole<'turned', 'chart'>(
		'settingOut',
		['chart'],
		({ face }) => whatTurns(face.settingOut),
		({ chart }, { face }) => faceForSettingOut(chart, face.settingOut)
	),
	division: whole<'division', 'turned'>(
		'settingOut',
		['turned'],
		({ face, levels }) => [face.settingOut, levels],
		({ turned }, { face: { settingOut }, levels }, { arrays }) =>
			settingOut.turn === 0
				? setOut(turned, settingOut, levels, arrays)
				: setOutTurned(turned, settingOut, flatBorder(turned), arrays)
	),
	openings: byPiece<'openings', 'turned'>(
		'settingOut',
		['turned'],
		({ face, levels }) => face.openings.map((opening) => ({ id: opening.id, inputs: [opening, levels] })),
		({ turned }, { face, levels }, _, __, k) => {
			try {
				return { laid: layOpening(turned, face.openings[k]!, levels) };
			} catch (cause) {
				if (!(cause instanceof ZygasterError)) throw cause;
				return { note: `${cause.message} It is left out.` };
			}
		}
	),
	tiling: whole<'tiling', 'turned' | 'division' | 'openings'>(
		'tiling',
		['turned', 'division', 'openings'],
		({ face, own, follows }) => [face.borders, face.tiling, own, face.order, follows.tiling],
		tile
	),
	readings: whole<'readings', 'division' | 'tiling'>(
		'readings',
		['division', 'tiling'],
		() => 0,
		({ division, tiling }, _, { arrays }) => measureCells(tiling.nodes ?? division.nodes, tiling.cells, arrays)
	),
	paths: whole<'paths', 'turned' | 'division' | 'tiling' | 'readings'>(
		'placement',
		['turned', 'division', 'tiling', 'readings'],
		({ paths }) => paths,
		(made, { paths }) => drawPaths(paths, ruledFace(made))
	),
	layer: whole<'layer', 'turned' | 'division' | 'openings' | 'tiling' | 'readings'>(
		'settingOut',
		['turned', 'division', 'openings', 'tiling', 'readings'],
		({ face, follows }) => [face.settingOut.layer, follows.layer],
		(made, { face, follows }) =>
			layerDistance(face.settingOut.layer, ruledFace(made), { ...follows.layer, openings: laidOf(made.openings) })
	),
	assign: whole<'assign', 'turned' | 'division' | 'openings' | 'tiling' | 'readings' | 'paths'>(
		'placement',
		['turned', 'division', 'openings', 'tiling', 'readings', 'paths'],
		({ rules, kits, neighbours }) => [rules, kits, neighbours],
		(made, { rules, neighbours }, { world, meeting }) =>
			assign(
				rules,
				{ ...rules, openings: laidOf(made.openings) },
				{
					...ruledFace(made),
					drawn: made.paths,
					neighbours: meetingFaces(neighbours, meeting)
				},
				world.library
			)
	),
	// Its pieces hang on what each of them is to place, not on the whole of what was assigned.
	placement: byPiece<'placement', 'turned' | 'division' | 'tiling' | 'readings'>(
		'placement',
		['turned', 'division', 'tiling', 'readings'],
		({ face, follows, kits, paths, neighbours, beside: others }, { assign: { jobs }, layer, paths: drawn }) =>
			jobs.map((job): PlacementPiece => {
				const { hash, host, rooms, beside: asks, onLayer } = kits[job.kit]!;
				// Paths, and the second layer, move the kits that stand on them alone.
				const stands = [
					...(host === 'path' ? [paths] : []),
					...(onLayer ? [face.settingOut.layer, follows.layer] : [])
				];
				const beside = rooms ? jobs.filter((other) => kits[other.kit]!.section || other.kit === job.kit) : [];
				const around = beside.map((other) => [other.hash, kits[other.kit]!.hash]);
				return {
					id: job.id,
					inputs: [job.hash, hash, ...stands, ...around, ...(rooms ? others : []), ...(asks ? neighbours : [])],
					job,
					layer,
					drawn,
					beside
				};
			}),
		async (
			{ turned, division, tiling, readings },
			{ kits, neighbours, beside: others },
			{ world, solids, arrays, meeting },
			piece
		) => {
			const { job, layer, drawn, beside } = piece as PlacementPiece;
			const face = hostFaceOf({ turned, division, tiling, readings, layer, paths: drawn });
			// Both ends ask, for hosts of every number of points; kits that do not ask pay nothing.
			let known: EdgeRooms | undefined;
			const rooms = () => (known ??= roomsBeside(beside, others, face, world, world.library.get(job.kit)!));
			return placeJob(
				job,
				world,
				{ ...face, rooms, neighbours: meetingFaces(neighbours, meeting) },
				kits[job.kit]!.solids || job.trim ? await solids?.() : undefined,
				arrays
			);
		}
	),
	schedule: whole<'schedule', 'turned' | 'division' | 'tiling' | 'readings' | 'paths' | 'placement'>(
		'schedule',
		['turned', 'division', 'tiling', 'readings', 'paths', 'placement'],
		({ key, what, face }) => [key, what, face.mark, face.marks],
		({ turned, division, tiling, readings, paths, placement }, { key, what, face }, { arrays }) =>
			scheduleFace(
				{
					key,
					name: what,
					mark: face.mark,
					template: face.marks,
					surface: turned.surface,
					nodes: tiling.nodes ?? division.nodes,
					cells: tiling.cells,
					readings,
					drawn: paths,
					placements: placement.flatMap((p) => p.placements)
				},
				arrays
			)
	)
} satisfies { readonly [Name in StageName]: StageBase };

const meetingFaces = (neighbours: FaceInputs['neighbours'], surfaces: readonly Surface[]) =>
	neighbours.map(({ insideOut, earlier }, k) => meetingFace(surfaces[k]!, insideOut, earlier));

/** By the nodes of a face and what was measured on it: they may outlive each other. */
const filled = new WeakMap<NodeTable, { readonly readings: CellReadings; readonly made: NodeTable }>();

/** The nodes of a face, each with a way outwards: that of the cells around it where the face has none there. */
export function nodesOf({
	division,
	tiling,
	readings
}: Pick<StageValues, 'division' | 'tiling' | 'readings'>): NodeTable {
	const nodes = tiling.nodes ?? division.nodes;
	const known = filled.get(nodes);
	if (known?.readings === readings) return known.made;
	const normal = nodeNormals(nodes, tiling.cells, readings.normal);
	const made = normal === nodes.normal ? nodes : { ...nodes, normal };
	filled.set(nodes, { readings, made });
	return made;
}

/** The face as kits are placed on it. */
export const hostFaceOf = ({
	turned,
	division,
	tiling,
	readings,
	layer,
	paths
}: Pick<StageValues, 'turned' | 'division' | 'tiling' | 'readings' | 'layer' | 'paths'>): HostFace => ({
	surface: turned.surface,
	nodes: nodesOf({ division, tiling, readings }),
	cells: tiling.cells,
	readings,
	layer,
	drawn: paths
});

/** The room that kits of some jobs take at the ends of the edges that another stands on. Node pieces stand on the face. */
function roomsBeside(
	jobs: readonly Job[],
	others: readonly BesideSection[],
	face: HostFace,
	{ library }: KitWorld,
	{ host }: Kit
): EdgeRooms | undefined {
	if (host.kind !== 'edge') return undefined;
	const sections = [
		...jobs.map((job) => ({ job, kit: library.get(job.kit)! })),
		...asOwnSections(others, face, library)
	];
	const edges = sections.filter(({ kit }) => kit.host.kind === 'edge' && kit.host.on === host.on);
	const nodes = host.on === 'face' ? sections.filter(({ kit }) => kit.host.kind === 'node') : [];
	return roomsAt(edgeLines(face, host.on), edges, nodes);
}

/** What of a setting-out turns the face or moves its seam: a shift does where a direction closes. */
function whatTurns({ swap, across, up }: SettingOut): unknown {
	return [swap, ...[across, up].map((d) => (d.shift === 0 && d.shiftShare === 0 ? [d.seam, d.along] : d))];
}

function tile(
	{ turned, division, openings }: Pick<StageValues, 'turned' | 'division' | 'openings'>,
	{ face, own, follows }: FaceInputs,
	{ arrays }: StagePorts
): Tiled {
	const laid = laidOf(openings);
	const fieldAt = fieldsAtPoints(turned, { ...follows.tiling, openings: laid });
	const tiled = tileFace(turned, division, face.tiling, own, arrays, fieldAt);
	const nodes = tiled.nodes ?? division.nodes;
	// The rectangular tiling counts from the end edges by itself.
	const fromEnd = face.tiling.kind === 'rectangular' ? { across: false, up: false } : nodes.fromEnd;
	const settled = settleOrder(face.order, face.tiling.kind, turned.ends.closedAcross);
	const order = orderCells(nodes, tiled.cells, settled, fromEnd);
	const whole = order ? { ...tiled.cells, order } : tiled.cells;
	const mixed = noteMixedRows(nodes, tiled.cells, settled) ?? [];
	if (laid.length === 0 && !nodes.onFace) return { ...tiled, cells: whole, notes: [mixed].flat() };
	const trimmed = trimCells(turned, nodes, whole, laid, face.borders, nodes.onFace && flatBorder(turned));
	return { ...trimmed, notes: [mixed, noteOpenings(turned, face.openings, laid, trimmed.cells)].flat() };
}

/** The face as rules see it. */
const ruledFace = ({
	turned,
	division,
	tiling,
	readings
}: Pick<StageValues, 'turned' | 'division' | 'tiling' | 'readings'>): RuledFace => ({
	surface: turned.surface,
	charted: turned,
	nodes: nodesOf({ division, tiling, readings }),
	cells: tiling.cells,
	readings
});

/** The openings that could be laid. */
export const laidOf = (openings: StageValues['openings']): LaidOpening[] =>
	openings.flatMap((o) => ('laid' in o ? [o.laid] : []));
