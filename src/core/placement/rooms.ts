import type { Point } from '../geometry/curve.ts';
import { pointAt } from '../geometry/vectors.ts';
import type { Kit } from '../kit/schema.ts';
import type { HostTable } from './faceHosts.ts';
import type { Job } from './rules/jobs.ts';

/** How far from its two nodes the sections and node pieces there reach along each edge, by edge, mm. */
export interface EdgeRooms {
	readonly start: Float64Array;
	readonly end: Float64Array;
	/** Unit ways of the other bars at an end of an edge, away from the node. */
	waysAt(edge: number, end: 0 | 1): Point[];
}

/** A job whose kit says how thick it is at nodes. */
export interface Section {
	readonly job: Pick<Job, 'hosts' | 'given' | 'columns'>;
	readonly kit: Kit;
}

/** Kits that stand at nodes and say how thick they are there. */
export const hasSection = ({ host }: Kit): boolean => 'section' in host && host.section !== undefined;

/** By host of a job: its width or diameter, mm. */
export function widths({ job: { hosts, given, columns }, kit }: Section): Float64Array {
	const name = 'section' in kit.host ? kit.host.section : undefined;
	const parameter = kit.parameters.find((p) => p.name === name);
	const constant = Number(given[name!] ?? parameter?.default ?? 0);
	return columns[name!] ?? new Float64Array(hosts.length).fill(constant);
}

/**
 * Where a bar of each edge has to end, cut square, so that it is clear of the thickest bars and node pieces at its nodes.
 * Two bars of half widths h and k at an angle a meet along their sides (k + h cos a) / sin a from the node; where the angle
 * is blunt, the bar is behind the other's end from h tan a on. Curved edges leave their nodes along their first piece.
 * `edges` are those of the whole face, as kits know them. O(nodes * valence^2).
 */
export function roomsAt(
	edges: Pick<HostTable, 'cornerStart' | 'corners' | 'position'>,
	edgeSections: readonly Section[],
	nodeSections: readonly Section[]
): EdgeRooms {
	const { cornerStart, position } = edges;
	const count = cornerStart.length - 1;
	const half = new Float64Array(count);
	const barred = new Uint8Array(count);
	for (const section of edgeSections) {
		const width = widths(section);
		section.job.hosts.forEach((edge, k) => {
			half[edge] = Math.max(half[edge]!, width[k]! / 2);
			barred[edge] = 1;
		});
	}
	const pieces = new Float64Array(position.length / 3);
	for (const section of nodeSections) {
		const width = widths(section);
		section.job.hosts.forEach((node, k) => (pieces[node] = Math.max(pieces[node]!, width[k]! / 2)));
	}
	const { nodeOf, ways, start, ends } = endsAround(edges);
	const rooms: EdgeRooms = { waysAt, start: new Float64Array(count), end: new Float64Array(count) };
	for (let node = 0; node < pieces.length; node++)
		for (let i = start[node]!; i < start[node + 1]!; i++) {
			const one = ends[i]!;
			let room = pieces[node]!;
			for (let j = start[node]!; j < start[node + 1]!; j++) {
				const other = ends[j]!;
				if (other !== one && half[other >> 1]! > 0)
					room = Math.max(room, clearOf(ways, one, other, half[one >> 1]!, half[other >> 1]!));
			}
			(one % 2 === 0 ? rooms.start : rooms.end)[one >> 1] = room;
		}
	return rooms;

	function waysAt(edge: number, end: 0 | 1): Point[] {
		const node = nodeOf[edge * 2 + end]!;
		const found: Point[] = [];
		for (let i = start[node]!; i < start[node + 1]!; i++) {
			const other = ends[i]!;
			if (other >> 1 !== edge && barred[other >> 1] === 1) found.push(pointAt(ways, other * 3));
		}
		return found;
	}
}

/** Ends of edges are numbered 2 e at their start and 2 e + 1 at their end. */
interface EdgeEnds {
	/** By end: its node, and the unit way from there along its edge, stride 3. */
	readonly nodeOf: Uint32Array;
	readonly ways: Float64Array;
	/** By node: where its ends begin in `ends`; one more entry than nodes. */
	readonly start: Uint32Array;
	readonly ends: Uint32Array;
}

/** The ends of edges around every node; edges without length have none. O(edges). */
function endsAround({
	cornerStart,
	corners,
	position
}: Pick<HostTable, 'cornerStart' | 'corners' | 'position'>): EdgeEnds {
	const count = cornerStart.length - 1;
	const nodeOf = new Uint32Array(count * 2);
	const ways = new Float64Array(count * 6);
	const start = new Uint32Array(position.length / 3 + 1);
	const long = new Uint8Array(count * 2);
	for (let e = 0; e < count; e++)
		for (let end = 0; end < 2; end++) {
			const from = end === 0 ? cornerStart[e]! : cornerStart[e + 1]! - 1;
			const [a, b] = [corners[from]! * 3, corners[from + (end === 0 ? 1 : -1)]! * 3];
			const x = position[b]! - position[a]!;
			const y = position[b + 1]! - position[a + 1]!;
			const z = position[b + 2]! - position[a + 2]!;
			const size = Math.sqrt(x * x + y * y + z * z);
			const k = e * 2 + end;
			nodeOf[k] = corners[from]!;
			if (size === 0) continue;
			ways[k * 3] = x / size;
			ways[k * 3 + 1] = y / size;
			ways[k * 3 + 2] = z / size;
			long[k] = 1;
			start[corners[from]! + 1]!++;
		}
	for (let n = 0; n + 1 < start.length; n++) start[n + 1]! += start[n]!;
	const ends = new Uint32Array(start.at(-1)!);
	const filled = start.slice();
	for (let k = 0; k < nodeOf.length; k++) if (long[k] === 1) ends[filled[nodeOf[k]!]!++] = k;
	return { nodeOf, ways, start, ends };
}

function clearOf(ways: Float64Array, one: number, other: number, own: number, others: number): number {
	let c = 0;
	for (let k = 0; k < 3; k++) c += ways[one * 3 + k]! * ways[other * 3 + k]!;
	c = Math.max(-1, Math.min(1, c));
	const s = Math.sqrt(1 - c * c);
	if (s === 0) return 0;
	const beside = (others + own * c) / s;
	return Math.max(0, c < 0 ? Math.min(beside, (-own * s) / c) : beside);
}
