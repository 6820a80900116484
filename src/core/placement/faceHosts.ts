import { closestPointFinder } from '../geometry/closestPoint.ts';
import { BESIDE_READINGS, ROOM_READINGS } from '../kit/hostReadings.ts';
import type { HostColumns, HostKind } from '../kit/hosts.ts';
import type { KitHost } from '../kit/schema.ts';
import { edgeKinds } from '../readings/edgeKinds.ts';
import { EDGE_READINGS } from '../readings/lineReadings.ts';
import { readingsOf, READINGS, type MeasuredFace, type ReadingName } from '../readings/faceReadings.ts';
import { liftNodes } from '../settingout/layer.ts';
import { NO_CELL, outlinesOf } from '../tiling/cells.ts';
import { besideReadings, type MeetingFace } from './besideFace.ts';
import { baysOf } from './bays.ts';
import { countUp, edgeLines, edgeNormals, needsLayer } from './edgeLines.ts';
import type { DrawnPaths } from './drawn/drawPaths.ts';
import { DRAWN, kitPaths } from './paths.ts';
import type { EdgeRooms } from './rooms.ts';
import { spokesOf } from './spokes.ts';

/** A face that kits are placed on. */
export interface HostFace extends MeasuredFace {
	/** Distance of the second layer, mm, the same or by node; 0 without one. */
	readonly layer: number | Float64Array;
	readonly drawn?: DrawnPaths;
	/** Divided faces whose borders meet its own; known only where somebody asks. */
	readonly neighbours?: readonly MeetingFace[];
	/** What else is placed at the ends of edges; nothing is where left out. */
	readonly rooms?: () => EdgeRooms | undefined;
	/** The face as its cells begin, where kits see them turned or mirrored: readings that do not hang on the corners are its. */
	readonly unturned?: HostFace;
}

/** Readings of a cell that hang on which of its corners is the first. */
const BY_CORNER = /^(width|height|edge\d|angle\d|diagonal\d)$/;

/** Everything of one face that a kind of kit can stand on, not yet sorted by the number of points. */
export type HostTable = Omit<HostColumns, 'ids' | 'holes'> & {
	readonly kind: HostKind;
	/** Elements that the kit wants, in order. */
	readonly wanted: Uint32Array;
};

/** The hosts of a face for a kit. Throws a ZygasterError with code `kit` where the face has none of the kind. O(nodes + cells). */
export function hostsOf(face: HostFace, host: KitHost): HostTable {
	const { nodes, cells, surface, readings } = face;
	const measured = readingsOf(face);
	let nearest: ReturnType<typeof closestPointFinder> | undefined;
	const common = {
		position: nodes.position,
		pointNormal: nodes.normal,
		onFace(point: Float64Array, o: number) {
			nearest ??= closestPointFinder(surface);
			const { position } = nearest([point[o]!, point[o + 1]!, point[o + 2]!]);
			point.set(position, o);
		}
	};
	const plain = face.unturned && readingsOf(face.unturned);
	const readingOf = (kind: 'cell' | 'edge' | 'node') => (name: string) =>
		Object.hasOwn(READINGS, `${kind}.${name}`)
			? (plain && !BY_CORNER.test(name) ? plain : measured).column(`${kind}.${name}` as ReadingName)
			: undefined;
	switch (host.kind) {
		case 'cell':
		case 'box': {
			if (host.kind === 'box') needsLayer(face, 'cells with depth');
			return {
				...common,
				kind: host.kind,
				...outlinesOf(cells),
				normal: readings.normal,
				wanted: countUp(cells.count),
				reading: readingOf('cell'),
				...(host.kind === 'box' ? { upper: liftNodes(nodes, face.layer, cells, readings.normal) } : {})
			};
		}
		case 'edge': {
			const kinds = host.edges.length ? edgeKinds(nodes, cells) : undefined;
			let beside: ReturnType<typeof besideReadings> | undefined;
			const names: readonly string[] = EDGE_READINGS.kind.kinds;
			// Between the middles of two cells there is nothing at a border.
			const all = countUp(cells.edgeCount).filter(
				(e) => host.on !== 'middles' || cells.edgeCells[e * 2 + 1] !== NO_CELL
			);
			return {
				...common,
				kind: 'edge',
				...edgeLines(face, host.on),
				normal: edgeNormals(face),
				wanted: kinds ? all.filter((e) => (host.edges as readonly string[]).includes(names[kinds[e]!]!)) : all,
				ways: (edge, end) => face.rooms?.()?.waysAt(edge, end) ?? [],
				reading: (name) => {
					if (Object.hasOwn(BESIDE_READINGS, name))
						return (beside ??= besideReadings(face, face.neighbours ?? []))[name as keyof typeof BESIDE_READINGS];
					if (!Object.hasOwn(ROOM_READINGS, name)) return readingOf('edge')(name);
					return face.rooms?.()?.[name === 'startRoom' ? 'start' : 'end'] ?? new Float64Array(cells.edgeCount);
				}
			};
		}
		case 'node': {
			const { cornerStart, corners, border, used } = spokesOf(face);
			const fits = (n: number) =>
				used[n] === 1 && (host.nodes === 'all' || (border[n] === 1) === (host.nodes === 'border'));
			return {
				...common,
				kind: 'node',
				cornerStart,
				corners,
				normal: nodes.normal,
				wanted: countUp(nodes.position.length / 3).filter(fits),
				reading: readingOf('node'),
				...(face.layer === 0 ? {} : { upper: liftNodes(nodes, face.layer, cells, readings.normal) })
			};
		}
		case 'path': {
			const paths = kitPaths(face, host);
			// Without being asked for, a kit takes the lines of the setting-out alone.
			const lines = paths.way.filter((way) => way !== DRAWN).length;
			return { ...common, kind: 'path', ...paths, wanted: countUp(lines) };
		}
		case 'bay': {
			const { begins, left: _, ...bays } = baysOf(face, host);
			return { ...common, kind: 'bay', ...bays, wanted: countUp(cells.count).filter((c) => begins[c] === 1) };
		}
	}
}
