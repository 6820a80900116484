import type { DrawnPaths } from '../placement/drawn/drawPaths.ts';
import { drawnLengths } from '../placement/paths.ts';
import { MAIN_CELL_READINGS, type MainCellReading } from '../readings/cellReadings.ts';
import type { HostKind } from '../readings/definition.ts';
import { countCells } from '../formats/summary/summarise.ts';
import type { Ends } from '../geometry/borders.ts';
import type { Point } from '../placement/batches.ts';
import type { AssignedSet } from '../placement/rules/assign.ts';
import type { FaceModel } from '../project/faceResult.ts';
import { drawFace, type DrawnFace } from '../project/modelBatches.ts';
import type { FaceSchedule } from '../schedule/faceTable.ts';
import { laidFigures, type LaidFigures } from '../settingout/laidFigures.ts';
import { liftNodes } from '../settingout/layer.ts';
import { cutCells, type CellTable, type CellTrim, type EdgeBends } from '../tiling/cells.ts';
import { copyOf } from './buffers.ts';
import { linesName } from './faceLines.ts';

/** Least and greatest value of a reading over a face. */
export type Range = readonly [number, number];

/**
 * What a picture, a pointer and a schedule need of a face. A value of its own: the same hash, the same view. Arrays are
 * copies, so that they can be transferred.
 */
export interface FaceView extends DrawnFace {
	/** Of everything that it was made from. */
	readonly hash: string;
	readonly key: string;
	readonly name: string;
	readonly mark: string;
	/** How the marks of its cells are written. */
	readonly template: string;
	readonly hidden: boolean;
	/** Of everything that its lines were made from. */
	readonly linesHash: string;
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
	readonly schedule: FaceSchedule;
	/** Paths that are drawn on it. */
	readonly drawn: DrawnView;
	/** Which rules have taken what, set by set. */
	readonly sets: readonly AssignedSet[];
	/** By override: hosts that it waits for. */
	readonly waiting: Readonly<Record<string, number>>;
}

/** Drawn paths: id of what each is drawn by, its mark, first point, points in mm less the model's origin, and length, mm. */
export interface DrawnView extends Pick<DrawnPaths, 'ids' | 'marks' | 'start' | 'closed'> {
	readonly points: Float32Array;
	readonly lengths: Float64Array;
}

function viewDrawn(face: FaceModel, origin: Point): DrawnView {
	const { ids, marks, start, closed, position } = face.drawn;
	return {
		ids,
		marks,
		start: start.slice(),
		closed: closed.slice(),
		points: Float32Array.from(position, (x, o) => x - origin[o % 3]!),
		lengths: drawnLengths(face.drawn)
	};
}

/** How many hosts of a kind a face has. */
export const hostCount = (face: Pick<FaceView, 'cellCount' | 'edgeCount' | 'nodes'>, kind: HostKind): number =>
	({ cell: face.cellCount, edge: face.edgeCount, node: face.nodes.length / 3 })[kind];

/** Copies what the interface needs of a face; of a hidden one without its parts. O(cells + triangles). */
export function viewFace(face: FaceModel, origin: Point, hidden: boolean, hash: string): FaceView {
	const { key, name, mark, template, nodes, cells, readings, across, up, layer, charted } = face;
	const local = new Float32Array(nodes.position.length);
	for (let o = 0; o < local.length; o++) local[o] = nodes.position[o]! - origin[o % 3]!;
	const names = Object.keys(MAIN_CELL_READINGS) as MainCellReading[];
	const { trim, order, role, roles } = cells;
	const cut = cutCells(cells);
	const lifted = layer === 0 ? undefined : liftNodes(nodes, layer, cells, readings.normal);
	return {
		hash,
		key,
		name,
		mark,
		template,
		hidden,
		linesHash: linesName(face, origin),
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
		normals: new Float32Array(nodes.normal),
		...(lifted ? { lifted: Float32Array.from(lifted, (x, o) => x - origin[o % 3]!) } : {}),
		ranges: Object.fromEntries(names.map((n) => [n, rangeOf(readings.columns[n], cut)])) as FaceView['ranges'],
		schedule: copyOf(face.schedule),
		drawn: viewDrawn(face, origin),
		sets: copyOf(face.assigned.sets),
		waiting: face.assigned.waiting,
		...(hidden ? { batches: [], instances: [] } : drawFace(face, origin))
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
