import type { ArraySource } from '../arrays.ts';
import type { Surface } from '../geometry/surface.ts';
import type { NodeTable } from '../settingout/nodes.ts';
import type { CellTable } from '../tiling/cells.ts';
import { CELL_READINGS, MAIN_CELL_READINGS, type CellReading } from './cellReadings.ts';
import type { HostKind, ReadingDefinition } from './definition.ts';
import { EDGE_READINGS, NODE_READINGS, type EdgeReading, type NodeReading } from './lineReadings.ts';
import { measureEdgeCurves } from './edgeCurves.ts';
import { arraysBeside, type CellReadings } from './measureCells.ts';
import { measureEdges, measureNodes } from './measureLines.ts';
import { measureCentres, measureCurvatures, measureSurroundings } from './measurePlaces.ts';
import { measureShapes } from './measureShapes.ts';

/** Name of a reading with its host, as everything that filters, drives, colours or schedules names it. */
export type ReadingName = `cell.${CellReading}` | `edge.${EdgeReading}` | `node.${NodeReading}`;

/** A face as far as readings need it. */
export interface MeasuredFace {
	readonly surface: Surface;
	readonly nodes: NodeTable;
	readonly cells: CellTable;
	readonly readings: CellReadings;
}

type Columns = Readonly<Record<string, Float64Array>>;

/** Readings that are worked out together, by host. */
const GROUPS = {
	main: (f: FaceReadings): Columns => f.face.readings.columns,
	shapes: ({ face, arrays }: FaceReadings): Columns =>
		measureShapes(face.nodes.position, face.cells, face.readings.columns.warp, face.readings.normal, arrays),
	centres: ({ face, arrays }: FaceReadings): Columns =>
		measureCentres(face.nodes.position, face.cells, face.readings.normal, arrays),
	surroundings: ({ face, arrays }: FaceReadings): Columns => measureSurroundings(face.cells, arrays),
	curvatures: ({ face, arrays }: FaceReadings): Columns => ({
		...measureCurvatures(face.surface, face.nodes, face.cells, arrays)
	}),
	edges: (f: FaceReadings): Columns =>
		measureEdges(
			f.face.nodes,
			f.face.cells,
			f.face.readings.normal,
			f.group('centres') as { x: Float64Array; y: Float64Array; z: Float64Array },
			f.arrays
		),
	curves: ({ face, arrays }: FaceReadings): Columns => measureEdgeCurves(face, arrays),
	// Where all corners turn, angles have been measured for the cells.
	nodes: (f: FaceReadings): Columns =>
		measureNodes(
			f.face.nodes,
			f.face.cells,
			f.face.cells.straight ? undefined : f.group('shapes').cornerAngles,
			f.arrays
		)
} as const;
type Group = keyof typeof GROUPS;

const MORE: Readonly<Partial<Record<CellReading, Group>>> = {
	x: 'centres',
	y: 'centres',
	z: 'centres',
	normalX: 'centres',
	normalY: 'centres',
	normalZ: 'centres',
	neighbours: 'surroundings',
	border: 'surroundings',
	role: 'surroundings',
	gaussian: 'curvatures',
	mean: 'curvatures'
};

export interface Reading extends ReadingDefinition {
	readonly host: HostKind;
	/** The group that it is worked out with. */
	readonly group: Group;
}

function registry(): Record<ReadingName, Reading> {
	const all: Partial<Record<ReadingName, Reading>> = {};
	const add = (
		host: HostKind,
		definitions: Readonly<Record<string, ReadingDefinition>>,
		groupOf: (name: string) => Group
	) => {
		for (const [name, definition] of Object.entries(definitions))
			all[`${host}.${name}` as ReadingName] = { ...definition, host, group: groupOf(name) };
	};
	add('cell', CELL_READINGS, (name) => MORE[name as CellReading] ?? (name in MAIN_CELL_READINGS ? 'main' : 'shapes'));
	add('edge', EDGE_READINGS, (name) => (name === 'onFace' || name === 'rise' ? 'curves' : 'edges'));
	add('node', NODE_READINGS, () => 'nodes');
	return all as Record<ReadingName, Reading>;
}

/** Every reading there is: the one list that filters, colours, schedules and formulas go by. */
export const READINGS: Readonly<Record<ReadingName, Reading>> = registry();
export const READING_NAMES = Object.keys(READINGS) as ReadingName[];

/** The readings of one face; each group is worked out when it is asked for the first time. */
export class FaceReadings {
	readonly face: MeasuredFace;
	readonly arrays: ArraySource;
	private readonly known = new Map<Group, Columns>();

	constructor(face: MeasuredFace) {
		this.face = face;
		this.arrays = arraysBeside(face.readings);
	}

	group(name: Group): Columns {
		const there = this.known.get(name);
		if (there) return there;
		const made = GROUPS[name](this);
		this.known.set(name, made);
		return made;
	}

	/** Values by host, in mm, mm2, radians or plain numbers; NaN for none. Not to be changed. */
	column(name: ReadingName): Float64Array {
		const { group } = READINGS[name];
		return this.group(group)[name.slice(name.indexOf('.') + 1)]!;
	}
}

const known = new WeakMap<CellReadings, FaceReadings>();

/** The readings of a face, each group of them measured once, whoever asks. */
export function readingsOf(face: MeasuredFace): FaceReadings {
	const there = known.get(face.readings);
	if (there) return there;
	const { surface, nodes, cells, readings } = face;
	const made = new FaceReadings({ surface, nodes, cells, readings });
	known.set(readings, made);
	return made;
}
