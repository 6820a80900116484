import { runsAlong } from '../../geometry/faceBorder.ts';
import { pointAt } from '../../geometry/vectors.ts';
import type { MeetingFace } from '../besideFace.ts';
import type { RuleHosts } from './ruleHosts.ts';
import { BESIDE_READINGS } from '../../kit/hostReadings.ts';
import { mentioned } from '../../kit/references.ts';
import type { RulesOfFace } from './assign.ts';
import { varies, type Condition } from './schema.ts';
import { maskOf, spreadCells, touching } from './spread.ts';

/**
 * Hosts at borders where another face meets, or within so many cells of them: 1 where that holds. `edges` are 0 along the
 * face's own border. An edge lies along the other border, a path as a whole; a node lies on it. O(border edges x faces).
 */
export function meetingOf(hosts: RuleHosts, edges: Int8Array, which: 'face' | 'earlier', within: number): Uint8Array {
	const out = new Uint8Array(hosts.count);
	for (const neighbour of hosts.face.neighbours ?? []) {
		if (which === 'earlier' && !neighbour.earlier) continue;
		meetingOne(hosts, edges, neighbour, within).forEach((here, h) => (out[h]! |= here));
	}
	return out;
}

function meetingOne(hosts: RuleHosts, edges: Int8Array, { border }: MeetingFace, within: number): Uint8Array {
	const { kind } = hosts;
	const { cells, nodes } = hosts.face;
	const { edgeNodes, edgeCells } = cells;
	const on = (position: Float64Array) => {
		const known = new Map<number, boolean>();
		return (n: number) => {
			const here = known.get(n) ?? border.holds(pointAt(position, n * 3));
			known.set(n, here);
			return here;
		};
	};
	const onNode = on(nodes.position);
	if (kind === 'path' && within === 0) {
		const { start, items } = hosts.nodes;
		const onPoint = on(hosts.points.position);
		return maskOf(hosts.count, (h) => items.subarray(start[h], start[h + 1]).every(onPoint));
	}
	const onBorder = new Uint8Array(nodes.position.length / 3);
	const along = maskOf(cells.edgeCount, (e) => {
		if (edges[e] !== 0) return false;
		const [a, b] = [edgeNodes[2 * e]!, edgeNodes[2 * e + 1]!];
		for (const n of [a, b]) if (onNode(n)) onBorder[n] = 1;
		return (
			onBorder[a] === 1 &&
			onBorder[b] === 1 &&
			runsAlong(border, pointAt(nodes.position, a * 3), pointAt(nodes.position, b * 3))
		);
	});
	if (within === 0 && kind === 'edge') return along;
	if (within === 0 && kind === 'node') return onBorder;
	const marked = new Uint8Array(cells.count);
	along.forEach((here, e) => {
		if (here) marked[edgeCells[2 * e]!] = 1;
	});
	return touching(hosts.cells, spreadCells(cells, marked, within));
}

const isBeside = (name: string) => Object.hasOwn(BESIDE_READINGS, name);

/** Whether what rules say of a face hangs on other faces: their conditions, values and fields. */
export const rulesAskNeighbours = ({ rules, overrides, fields }: RulesOfFace): boolean =>
	rules.some(({ where }) => where.some(asksNeighbours)) ||
	[...rules, ...overrides]
		.flatMap(({ values }) => Object.values(values))
		.some((value) => varies(value) && value.kind === 'formula' && mentioned(value.formula).some(isBeside)) ||
	fields.some(
		({ source }) =>
			(source.kind === 'formula' && mentioned(source.formula).some(isBeside)) ||
			(source.kind === 'reading' && isBeside(source.reading))
	);

/** Whether a condition is about other faces. */
export function asksNeighbours(condition: Condition): boolean {
	switch (condition.kind) {
		case 'any':
			return condition.of.some(asksNeighbours);
		case 'not':
			return asksNeighbours(condition.of);
		case 'border':
			return condition.state === 'face' || condition.state === 'earlier';
		case 'reading':
		case 'rank':
			return isBeside(condition.reading);
		case 'formula':
			return mentioned(condition.formula).some(isBeside);
		default:
			return false;
	}
}
