import type { Kit } from '../kit/schema.ts';
import type { HostTable } from './faceHosts.ts';
import type { Job } from './rules/jobs.ts';

/** How far from its two nodes the sections and node pieces there reach along each edge, by edge, mm. */
export interface EdgeRooms {
	readonly start: Float64Array;
	readonly end: Float64Array;
}

/** A job whose kit says how thick it is at nodes. */
export interface Section {
	readonly job: Pick<Job, 'hosts' | 'given' | 'columns'>;
	readonly kit: Kit;
}

/** Kits that stand at nodes and say how thick they are there. */
export const hasSection = ({ host }: Kit): boolean => 'section' in host && host.section !== undefined;

/** By host of a job: its width or diameter, mm. */
function widths({ job: { hosts, given, columns }, kit }: Section): Float64Array {
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
	const { cornerStart, corners, position } = edges;
	const count = cornerStart.length - 1;
	const half = new Float64Array(count);
	for (const section of edgeSections) {
		const width = widths(section);
		section.job.hosts.forEach((edge, k) => (half[edge] = Math.max(half[edge]!, width[k]! / 2)));
	}
	const pieces = new Float64Array(position.length / 3);
	for (const section of nodeSections) {
		const width = widths(section);
		section.job.hosts.forEach((node, k) => (pieces[node] = Math.max(pieces[node]!, width[k]! / 2)));
	}
	/** By node: its edges, numbered 2 e at their start and 2 e + 1 at their end. */
	const around: number[][] = Array.from(pieces, () => []);
	const ways = new Float64Array(count * 6);
	for (let e = 0; e < count; e++)
		for (const end of [0, 1]) {
			const from = end === 0 ? cornerStart[e]! : cornerStart[e + 1]! - 1;
			const [a, b] = [corners[from]!, corners[from + (end === 0 ? 1 : -1)]!];
			const [x, y, z] = [0, 1, 2].map((c) => position[b * 3 + c]! - position[a * 3 + c]!) as [number, number, number];
			const size = Math.sqrt(x * x + y * y + z * z);
			if (size === 0) continue;
			ways.set([x / size, y / size, z / size], e * 6 + end * 3);
			around[a]!.push(e * 2 + end);
		}
	const rooms = { start: new Float64Array(count), end: new Float64Array(count) };
	around.forEach((ends, node) => {
		for (const one of ends) {
			let room = pieces[node]!;
			for (const other of ends)
				if (other !== one && half[other >> 1]! > 0)
					room = Math.max(room, clearOf(ways, one, other, half[one >> 1]!, half[other >> 1]!));
			(one % 2 === 0 ? rooms.start : rooms.end)[one >> 1] = room;
		}
	});
	return rooms;
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
