import { developmentOf, flattenPlaces } from '../../settingout/development.ts';
import { withinRing } from '../../settingout/flatBorder.ts';
import { LEAST_CUT_MM } from '../../tolerances.ts';
import { cutCells, NO_CELL, sideOf } from '../../tiling/cells.ts';
import { framedLines, type LaidOpening } from '../../tiling/openings/layOpening.ts';
import { withCopies } from '../../tiling/openings/overSeam.ts';
import { liesOn, type Ring } from '../../tiling/openings/rings.ts';
import { meetingOf } from './meeting.ts';
import type { RuleHosts } from './ruleHosts.ts';
import type { Condition } from './schema.ts';
import { spreadCells, touching } from './spread.ts';

type BorderState = Extract<Condition, { kind: 'border' }>['state'];

/** Hosts in a state at borders and openings, or within so many cells of one: 1 where that holds. O(cells + border edges x sides of openings). */
export function bordersOf(
	hosts: RuleHosts,
	openings: readonly LaidOpening[],
	state: BorderState,
	within: number
): Uint8Array {
	const { cells } = hosts.face;
	const cut = cutCells(cells) ?? new Uint8Array(cells.count);
	if (state === 'whole') return touching(hosts.cells, cut).map((c) => 1 - c);
	if (state === 'cut') return touching(hosts.cells, spreadCells(cells, cut, within));
	const edges = borderEdges(hosts, openings);
	if (state === 'face' || state === 'earlier') return meetingOf(hosts, edges, state, within);
	const wanted = state === 'opening' ? 1 : 0;
	if (within === 0 && hosts.kind === 'edge') return Uint8Array.from(edges, (side) => (side === wanted ? 1 : 0));
	const marked = new Uint8Array(cells.count);
	const onNodes = new Uint8Array(hosts.face.nodes.position.length / 3);
	edges.forEach((side, e) => {
		if (side !== wanted) return;
		marked[cells.edgeCells[2 * e]!] = 1;
		onNodes[cells.edgeNodes[2 * e]!] = onNodes[cells.edgeNodes[2 * e + 1]!] = 1;
	});
	if (within === 0 && hosts.kind === 'node') return onNodes;
	return touching(hosts.cells, spreadCells(cells, marked, within));
}

/** By edge: 1 along an opening, 0 along the border of the face, -1 between two cells. */
function borderEdges({ face }: RuleHosts, openings: readonly LaidOpening[]): Int8Array {
	const { cells, nodes, charted } = face;
	const { edgeCount, edgeCells, edgeNodes, edgeBends, cornerStart, corners, places = corners, trim } = cells;
	const sides = new Int8Array(edgeCount).fill(-1);
	const development = developmentOf(charted);
	const lines = openings.filter((o) => o.role === 'opening').flatMap(framedLines);
	const rings = withCopies(charted.ends.closedAcross ? development : undefined, lines).map(([ring]) => boxed(ring));
	const flat = rings.length ? flattenPlaces(development, nodes) : undefined;
	for (let e = 0; e < edgeCount; e++) {
		if (edgeCells[2 * e + 1] !== NO_CELL) continue;
		sides[e] = 0;
		if (!flat) continue;
		const cell = edgeCells[2 * e]!;
		const bent = edgeBends && edgeBends.start[e + 1]! > edgeBends.start[e]!;
		const ends = [edgeNodes[2 * e]!, bent ? edgeBends.nodes[edgeBends.start[e]!]! : edgeNodes[2 * e + 1]!] as const;
		if (trim?.alongOpenings.has(sideOf(...ends))) {
			sides[e] = 1;
			continue;
		}
		// Sides of whole cells: along the line, or within it where a strip was not cut.
		const at = ends.flatMap((node) => {
			for (let k = cornerStart[cell]!; k < cornerStart[cell + 1]!; k++) if (corners[k] === node) return [places[k]!];
			return [];
		});
		if (at.length < 2) continue;
		const [x, y] = [0, 1].map((c) => (flat[at[0]! * 2 + c]! + flat[at[1]! * 2 + c]!) / 2) as [number, number];
		if (rings.some((line) => isAlong(line, x, y))) sides[e] = 1;
	}
	return sides;
}

interface Boxed {
	readonly ring: Ring;
	readonly box: readonly [number, number, number, number];
}

/** How far off the line of an opening the side of a whole cell along it may lie, mm: strips that are not cut, with some to spare. */
const BESIDE_MM = 2 * LEAST_CUT_MM;

const boxed = (ring: Ring): Boxed => {
	const [xs, ys] = [ring.map((p) => p[0]), ring.map((p) => p[1])];
	return {
		ring,
		box: [
			Math.min(...xs) - BESIDE_MM,
			Math.min(...ys) - BESIDE_MM,
			Math.max(...xs) + BESIDE_MM,
			Math.max(...ys) + BESIDE_MM
		]
	};
};

const isAlong = ({ ring, box: [x0, y0, x1, y1] }: Boxed, x: number, y: number): boolean =>
	x >= x0 && x <= x1 && y >= y0 && y <= y1 && (withinRing(ring, x, y) || liesOn(ring, x, y, BESIDE_MM));
