import { norm } from '../elementary/index.ts';
import type { Point } from '../geometry/curve.ts';
import { dot, minus, plus, pointAt, scaled } from '../geometry/vectors.ts';
import type { HostFace } from '../placement/faceHosts.ts';
import { NO_CELL } from '../tiling/cells.ts';
import { MEETING_MM } from '../tolerances.ts';

/** A bar of one face may lie so far from that of another, as a share of its length, where both stand for one curve, differently divided. */
const OFF_CHORD = 0.05;

/** From end to end; nodes have two ends that are one. */
export type Ends = readonly [Point, Point];

/** A host at the border of its face. */
interface BorderLine {
	readonly host: number;
	/** Which of the given hosts it is. */
	readonly row: number;
	readonly ends: Ends;
}

/** Those of some nodes or edges that lie at the border of their face. O(edges + hosts). */
export function linesOf(
	{ nodes: { position }, cells: { edgeCount, edgeNodes, edgeCells } }: Pick<HostFace, 'nodes' | 'cells'>,
	kind: string,
	hosts: Uint32Array
): BorderLine[] {
	const at = (n: number) => pointAt(position, n * 3);
	const isBorder = (e: number) => edgeCells[2 * e + 1] === NO_CELL;
	const lines: BorderLine[] = [];
	if (kind === 'edge') {
		hosts.forEach((host, row) => {
			if (isBorder(host)) lines.push({ host, row, ends: [at(edgeNodes[2 * host]!), at(edgeNodes[2 * host + 1]!)] });
		});
		return lines;
	}
	const onBorder = new Uint8Array(position.length / 3);
	for (let e = 0; e < edgeCount; e++)
		if (isBorder(e)) onBorder[edgeNodes[2 * e]!] = onBorder[edgeNodes[2 * e + 1]!] = 1;
	hosts.forEach((host, row) => {
		if (onBorder[host] === 1) lines.push({ host, row, ends: [at(host), at(host)] });
	});
	return lines;
}

export const middleOf = ([a, b]: Ends): Point => scaled(plus(a, b), 0.5);

/** How far off a line what lies along it may be, mm. */
export const slackOf = ([a, b]: Ends): number => MEETING_MM + OFF_CHORD * norm(minus(b, a));

/** Whether a point lies along a line. */
export function isBeside(point: Point, ends: Ends): boolean {
	const [way, from] = [minus(ends[1], ends[0]), minus(point, ends[0])];
	const t = Math.max(0, Math.min(1, dot(from, way) / (dot(way, way) || 1)));
	return norm(minus(from, scaled(way, t))) <= slackOf(ends);
}
