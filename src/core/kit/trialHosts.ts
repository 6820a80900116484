import { cos, norm, sin } from '../elementary/index.ts';
import { newell } from '../geometry/newell.ts';
import type { HostColumns, HostKind, HostShape } from './hosts.ts';
import { readBay } from './bayReadings.ts';
import { bayBorder, bayPoints, type BaySize } from './baySize.ts';
import { readingsOfPoints } from './hostReadings.ts';
import type { KitHost } from './schema.ts';
import { PARALLEL_SINE } from '../tolerances.ts';

export type TrialPoint = readonly [number, number, number];

/** A host that a kit is tried on: its points in order; of boxes the lower ones, then the upper ones; of nodes the node first. */
export interface TrialHost {
	readonly id: string;
	readonly label: string;
	readonly kind: HostKind;
	readonly points: readonly TrialPoint[];
	/** A path that meets itself. */
	readonly closed?: boolean;
	/** How many fields a bay has. */
	readonly bay?: BaySize;
}

/** The shape of a trial host. */
export const shapeOfTrial = ({ kind, points, closed }: Pick<TrialHost, 'kind' | 'points' | 'closed'>): HostShape => ({
	kind,
	corners: kind === 'box' ? points.length / 2 : kind === 'node' ? points.length - 1 : points.length,
	...(closed ? { closed } : {})
});

/** One trial host as a column of hosts. Its normal is that of its points' mean plane (Newell); of lines it points to the viewer, against +y. */
export function trialColumns({
	kind,
	points,
	closed: ring,
	bay
}: Pick<TrialHost, 'kind' | 'points' | 'closed' | 'bay'>): HostColumns {
	const corners = kind === 'box' ? points.length / 2 : points.length;
	const position = Float64Array.from(points.slice(0, corners).flat());
	const closed = kind === 'cell' || kind === 'box';
	const around = bay
		? bayBorder(bay).map((k) => points[k]!)
		: kind === 'node'
			? points.slice(1)
			: points.slice(0, corners);
	const normal = closed || bay || (kind === 'node' && around.length > 2) ? normalOf(around) : OUTSIDE;
	const read: Readonly<Record<string, number>> | undefined = bay && readBay(position, bay);
	const readings = read
		? (name: string) => (read[name] === undefined ? undefined : Float64Array.of(read[name]))
		: readingsOfPoints(closed, corners, position, ring);
	return {
		ids: Uint32Array.of(0),
		cornerStart: Uint32Array.of(0, corners),
		corners: Uint32Array.from({ length: corners }, (_, k) => k),
		position,
		normal: Float64Array.from(normal),
		...(kind === 'box' ? { upper: Float64Array.from(points.slice(corners).flat()) } : {}),
		...(kind === 'node' ? { upper: position.map((x, k) => x - LAYER * normal[k % 3]!) } : {}),
		reading: (name) => PLACE[name] ?? (kind === 'node' ? nodeReading(name, points) : readings(name))
	};
}

/** How far inside the second layer of trial nodes lies, mm. */
const LAYER = 800;
const OUTSIDE: TrialPoint = [0, -1, 0];
/** A trial host stands in the first row. */
const PLACE: Readonly<Record<string, Float64Array>> = {
	row: Float64Array.of(1),
	column: Float64Array.of(1),
	share: Float64Array.of(1)
};

const nodeReading = (name: string, points: readonly TrialPoint[]) =>
	name === 'valence'
		? Float64Array.of(points.length - 1)
		: name === 'elevation'
			? Float64Array.of(points[0]![2])
			: undefined;

/** Unit normal; (0, 0, 0) for points without area. */
function normalOf(points: readonly TrialPoint[]): TrialPoint {
	const n = newell(points.flat(), points.length, (k) => k * 3);
	const size = norm(n);
	const extent = Math.max(...points.flat().map(Math.abs), 1);
	return size > extent * extent * PARALLEL_SINE ? [n[0] / size, n[1] / size, n[2] / size] : [0, 0, 0];
}

/** Upright hosts seen from -y, x to the right, z up, mm. */
const upright = (...xz: readonly (readonly [number, number, number?])[]): TrialPoint[] =>
	xz.map(([x, z, y = 0]) => [x, y, z]);
/** A regular polygon on its lowest side, anticlockwise from the lower left corner. */
const regular = (n: number, radius: number): TrialPoint[] =>
	Array.from({ length: n }, (_, k) => {
		const angle = -Math.PI / 2 + (2 * Math.PI * (k - 0.5)) / n;
		return [radius * cos(angle), 0, radius * (1 + sin(angle))] as const;
	});

const cell = (id: string, label: string, points: readonly TrialPoint[]): TrialHost => ({
	id,
	label,
	kind: 'cell',
	points
});

const CELLS: readonly TrialHost[] = [
	cell('square', 'Square', upright([0, 0], [1500, 0], [1500, 1500], [0, 1500])),
	cell('skewed', 'Skewed', upright([0, 0], [1500, 200], [2000, 1700], [500, 1400])),
	cell('thin', 'Thin', upright([0, 0], [300, 0], [300, 2400], [0, 2400])),
	cell('warped', 'Warped', upright([0, 0], [1500, 0, -250], [1500, 1500, 250], [0, 1500, -250])),
	cell('small', 'Small', upright([0, 0], [220, 0], [220, 180], [0, 180])),
	cell('triangle', 'Triangle', upright([0, 0], [1600, 0], [700, 1500])),
	cell('sharp', 'Sharp triangle', upright([0, 0], [2400, 0], [2300, 350])),
	cell('pentagon', 'Pentagon', regular(5, 900)),
	cell('hexagon', 'Hexagon', regular(6, 900)),
	cell('nonagon', 'Nine corners', regular(9, 900))
];

const edge = (id: string, label: string, points: readonly TrialPoint[]): TrialHost => ({
	id,
	label,
	kind: 'edge',
	points
});
const EDGES = [
	edge('level', 'Level', upright([0, 0], [1800, 0])),
	edge('upright', 'Upright', upright([0, 0], [0, 3200])),
	edge('slanting', 'Slanting', upright([0, 0], [1300, 900, -300])),
	edge('short', 'Short', upright([0, 0], [60, 0]))
];

const node = (id: string, label: string, points: readonly TrialPoint[]): TrialHost => ({
	id,
	label,
	kind: 'node',
	points
});
const around = (n: number, radius: number): TrialPoint[] => [
	[0, 0, 0],
	...Array.from(
		{ length: n },
		(_, k) => [radius * cos((2 * Math.PI * k) / n), 0, radius * sin((2 * Math.PI * k) / n)] as const
	)
];
const NODES = [
	node('four', 'Four edges', around(4, 1200)),
	node('three', 'Three edges', around(3, 1200)),
	node('six', 'Six edges', around(6, 1200)),
	node('bent', 'At a ridge', [
		[0, 0, 0],
		[1200, 400, 0],
		[0, 0, 1200],
		[-1200, 400, 0],
		[0, 0, -1200]
	])
];

const path = (id: string, label: string, points: readonly TrialPoint[]): TrialHost => ({
	id,
	label,
	kind: 'path',
	points
});
const PATHS = [
	path(
		'wave',
		'Wave',
		upright(...Array.from({ length: 9 }, (_, k) => [k * 500, 500 * sin(k * 0.8), 200 * cos(k * 0.5)] as const))
	),
	path('straight', 'Straight', upright([0, 0], [700, 0], [1400, 0], [2100, 0])),
	path('corner', 'Sharp corner', upright([0, 0], [1500, 0], [1300, 900])),
	path('two', 'Two points', upright([0, 0], [900, 300])),
	{ ...path('ring', 'Ring', around(12, 2000).slice(1)), closed: true }
];

const box = ({ id, label, points }: TrialHost): TrialHost => ({
	id,
	label,
	kind: 'box',
	points: [...points, ...points.map(([x, y, z]) => [x * 1.04, y - 400, z * 1.04] as const)]
});

/** Bays of so many fields, seen from -y; `rise` says how far a point lies behind the plane, by its shares across and up. */
function bays(bay: BaySize): TrialHost[] {
	const made = (id: string, label: string, wide: number, high: number, rise: (u: number, v: number) => number) => ({
		id,
		label,
		kind: 'bay' as const,
		bay,
		points: Array.from({ length: bayPoints(bay) }, (_, k): TrialPoint => {
			const [i, j] = [k % (bay.across + 1), Math.floor(k / (bay.across + 1))];
			return [i * wide, rise(i / bay.across, j / bay.up), j * high];
		})
	});
	return [
		made('level', 'Plane', 1500, 1500, () => 0),
		made('curved', 'Curved', 1500, 1200, (u) => 900 * (u - 0.5) * (u - 0.5)),
		made('warped', 'Warped', 1500, 1500, (u, v) => 400 * (u - 0.5) * (v - 0.5)),
		made('small', 'Small', 140, 110, () => 0)
	];
}

/** Hosts to try a kit on, from the plain to the odd. */
export const trialHostsFor = (host: KitHost): readonly TrialHost[] =>
	host.kind === 'bay' ? bays(host) : TRIAL_HOSTS[host.kind];

const TRIAL_HOSTS: Readonly<Record<Exclude<HostKind, 'bay'>, readonly TrialHost[]>> = {
	cell: CELLS,
	box: CELLS.map(box),
	edge: EDGES,
	node: NODES,
	path: PATHS
};
