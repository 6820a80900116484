import { MAIN_CELL_READINGS, type MainCellReading } from '../../core/readings/cellReadings.ts';
import type { HostKind } from '../../core/readings/definition.ts';
import { countCells } from '../../core/formats/summary/summarise.ts';
import type { Ends } from '../../core/geometry/borders.ts';
import { laidFigures, type LaidFigures } from '../../core/settingout/laidFigures.ts';
import { liftNodes } from '../../core/settingout/layer.ts';
import { cutCells, type CellTable, type CellTrim, type EdgeBends } from '../../core/tiling/cells.ts';
import { bodySkin } from './bodySkin.ts';
import type { InstanceBatch, MaterialBatch, Point } from '../../core/placement/batches.ts';
import { modelBatches, modelInstances, originOf } from '../../core/project/modelBatches.ts';
import type { ModelChange } from '../../core/project/compare.ts';
import type { FaceBody, FaceModel } from '../../core/project/faceStages.ts';
import type { Model } from '../../core/project/pipeline.ts';
import type { Stage } from '../../core/project/run.ts';
import type { PanelSchedule } from '../../core/schedule/panels.ts';

/** Least and greatest value of a reading over a face. */
export type Range = readonly [number, number];

/** What the interface needs of a face. Arrays are copies, so that they can be transferred. */
export interface FaceView {
	readonly key: string;
	readonly name: string;
	readonly mark: string;
	/** How the marks of its cells are written. */
	readonly template: string;
	readonly hidden: boolean;
	readonly cellCount: number;
	/** Node positions in mm less the model's origin, stride 3. */
	readonly nodes: Float32Array;
	readonly edgeNodes: Uint32Array;
	/** Two cells an edge; the second is NO_CELL along a border. */
	readonly edgeCells: Int32Array;
	readonly edgeCount: number;
	/** What curved edges run through. */
	readonly edgeBends?: EdgeBends;
	/** By entry of `corners`: 1 for a point of a curve. */
	readonly round?: Uint8Array;
	readonly cornerStart: Uint32Array;
	readonly corners: Uint32Array;
	readonly row: Uint32Array;
	readonly column: Uint32Array;
	/** How cells are counted, where not by `row` and `column`. */
	readonly order?: NonNullable<CellTable['order']>;
	/** Index into `roles`; all are panels when left out. */
	readonly role?: Uint8Array;
	readonly roles?: readonly string[];
	/** What openings and borders did, by cell; left out where all cells are whole. */
	readonly trim?: Pick<CellTrim, 'cut' | 'piece' | 'sliver' | 'merged' | 'dropped'>;
	readonly counts: { readonly whole: number; readonly cut: number; readonly lost: number };
	readonly across: LaidFigures;
	readonly up: LaidFigures;
	readonly ends: Ends;
	/** Unit normals of the nodes, stride 3. */
	readonly normals: Float32Array;
	/** Nodes of the second layer, like `nodes`, where there is one. */
	readonly lifted?: Float32Array;
	readonly ranges: Readonly<Record<MainCellReading, Range>>;
}

/** How many hosts of a kind a face has. */
export const hostCount = (face: Pick<FaceView, 'cellCount' | 'edgeCount' | 'nodes'>, kind: HostKind): number =>
	({ cell: face.cellCount, edge: face.edgeCount, node: face.nodes.length / 3 })[kind];

export interface WarningView {
	readonly stage: Stage;
	readonly face: string;
	readonly message: string;
	readonly cells: readonly number[];
	/** Multiples of the face's counts that would put it right. */
	readonly multiples?: { readonly across: number; readonly up: number };
}

/** A face as a plain surface, divided or not. */
export interface BodyView {
	readonly key: string;
	readonly facade: boolean;
	/** mm less the model's origin, stride 3; the outward normals likewise. */
	readonly positions: Float32Array;
	readonly normals: Float32Array;
	readonly indices: Uint32Array;
	/** Area of the face, mm2. */
	readonly area: number;
	readonly closed: boolean;
}

/** A model as it crosses from the worker to the interface. */
export interface ModelView {
	readonly origin: Point;
	readonly bodies: readonly BodyView[];
	readonly faces: readonly FaceView[];
	readonly batches: readonly MaterialBatch[];
	/** Equal bodies, each kind once with its places. */
	readonly instances: readonly InstanceBatch[];
	readonly schedule: PanelSchedule;
	readonly warnings: readonly WarningView[];
	readonly stageTimes: Readonly<Record<Stage, number>>;
	/** All of the worker's time for this model, ms. */
	readonly totalTime: number;
	/** What differs from the model before the last edit. */
	readonly change: ModelChange | undefined;
}

/** Copies what the interface needs; parts on hidden faces are left out. O(model). */
export function viewModel(
	model: Model,
	hidden: ReadonlySet<string>,
	totalTime: number,
	change: ModelChange | undefined
): ModelView {
	const origin = originOf(model);
	return {
		origin,
		bodies: model.bodies.filter(({ key }) => !hidden.has(key)).map((body) => viewBody(body, origin, model)),
		faces: model.faces.map((face) => viewFace(face, origin, hidden.has(face.key))),
		batches: modelBatches(model, origin, hidden),
		instances: modelInstances(model, origin, hidden),
		schedule: copySchedule(model.schedule),
		warnings: model.warnings.map((w) => ({ ...w, cells: [...(w.cells ?? [])] })),
		stageTimes: model.stageTimes,
		totalTime,
		change
	};
}

function viewFace(
	{ key, name, mark, template, nodes, cells, readings, across, up, layer, charted }: FaceModel,
	origin: Point,
	hidden: boolean
): FaceView {
	const local = new Float32Array(nodes.position.length);
	for (let o = 0; o < local.length; o++) local[o] = nodes.position[o]! - origin[o % 3]!;
	const names = Object.keys(MAIN_CELL_READINGS) as MainCellReading[];
	const { trim, order, role, roles } = cells;
	const cut = cutCells(cells);
	const lifted = layer === 0 ? undefined : liftNodes(nodes, layer, cells, readings.normal);
	return {
		key,
		name,
		mark,
		template,
		hidden,
		cellCount: cells.count,
		nodes: local,
		edgeNodes: cells.edgeNodes.slice(),
		edgeCells: cells.edgeCells.slice(),
		edgeCount: cells.edgeCount,
		...(cells.edgeBends
			? { edgeBends: { start: cells.edgeBends.start.slice(), nodes: cells.edgeBends.nodes.slice() } }
			: {}),
		...(cells.round ? { round: cells.round.slice() } : {}),
		cornerStart: cells.cornerStart.slice(),
		corners: cells.corners.slice(),
		row: cells.row.slice(),
		column: cells.column.slice(),
		...(order ? { order: { row: order.row.slice(), column: order.column.slice() } } : {}),
		...(role ? { role: role.slice(), roles: roles! } : {}),
		...(trim
			? {
					trim: {
						cut: trim.cut.slice(),
						piece: trim.piece.slice(),
						sliver: trim.sliver.slice(),
						merged: trim.merged,
						dropped: trim.dropped
					}
				}
			: {}),
		counts: countCells(cells),
		across: laidFigures(across),
		up: laidFigures(up),
		ends: charted.ends,
		normals: Float32Array.from(nodes.normal),
		...(lifted ? { lifted: Float32Array.from(lifted, (x, o) => x - origin[o % 3]!) } : {}),
		ranges: Object.fromEntries(names.map((n) => [n, rangeOf(readings.columns[n], cut)])) as FaceView['ranges']
	};
}

function viewBody({ key, surface, ends }: FaceBody, origin: Point, model: Model): BodyView {
	const { points, indices, area } = bodySkin(surface);
	const positions = Float32Array.from(points.position, (x, o) => x - origin[o % 3]!);
	return {
		key,
		facade: model.faces.some((f) => f.key === key),
		positions,
		normals: Float32Array.from(points.normal),
		indices: indices.slice(),
		area,
		closed: ends.closedAcross || ends.closedUp
	};
}

/** Over the whole cells, since cut ones have sides of any length; over all where none is whole. */
function rangeOf(values: Float64Array, cut?: Uint8Array): Range {
	const all = !cut || cut.every((c) => c === 1);
	let least = Infinity;
	let greatest = -Infinity;
	for (let c = 0; c < values.length; c++) {
		if (!all && cut[c] === 1) continue;
		const value = values[c]!;
		if (value < least) least = value;
		if (value > greatest) greatest = value;
	}
	return [least, greatest];
}

function copySchedule(schedule: PanelSchedule): PanelSchedule {
	return {
		...schedule,
		face: schedule.face.slice(),
		kit: schedule.kit.slice(),
		role: schedule.role.slice(),
		piece: schedule.piece.slice(),
		cell: schedule.cell.slice(),
		rowOfCell: schedule.rowOfCell.map((rows) => rows.slice()),
		columns: Object.fromEntries(
			Object.entries(schedule.columns).map(([name, values]) => [name, values.slice()])
		) as PanelSchedule['columns']
	};
}

/** Every buffer of a view, to be handed over instead of copied once more. */
export function buffersOf(view: ModelView): ArrayBuffer[] {
	const found = new Set<ArrayBuffer>();
	const visit = (value: unknown): void => {
		if (ArrayBuffer.isView(value)) found.add(value.buffer as ArrayBuffer);
		else if (value && typeof value === 'object') Object.values(value).forEach(visit);
	};
	[view.bodies, view.faces, view.batches, view.instances, view.schedule].forEach(visit);
	return [...found];
}
