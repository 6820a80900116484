import { hypot } from '../../elementary/index.ts';
import { developmentOf, flattenPlaces } from '../../settingout/development.ts';
import { COINCIDENT_MM } from '../../tolerances.ts';
import { cutCells, NO_CELL } from '../../tiling/cells.ts';
import type { LaidOpening } from '../../tiling/openings/layOpening.ts';
import type { Ring } from '../../tiling/openings/rings.ts';
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
	const wanted = state === 'opening' ? 1 : 0;
	const edges = borderEdges(hosts, openings);
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
	const { edgeCount, edgeCells, edgeNodes, edgeBends, cornerStart, corners, places = corners } = cells;
	const sides = new Int8Array(edgeCount).fill(-1);
	const rings = openings.filter((o) => o.role === 'opening').flatMap((o) => o.framed.map(boxed));
	const flat = rings.length ? flattenPlaces(developmentOf(charted), nodes) : undefined;
	for (let e = 0; e < edgeCount; e++) {
		if (edgeCells[2 * e + 1] !== NO_CELL) continue;
		sides[e] = 0;
		if (!flat) continue;
		const cell = edgeCells[2 * e]!;
		const bent = edgeBends && edgeBends.start[e + 1]! > edgeBends.start[e]!;
		const ends = [edgeNodes[2 * e]!, bent ? edgeBends.nodes[edgeBends.start[e]!]! : edgeNodes[2 * e + 1]!];
		const at = ends.flatMap((node) => {
			for (let k = cornerStart[cell]!; k < cornerStart[cell + 1]!; k++) if (corners[k] === node) return [places[k]!];
			return [];
		});
		if (at.length < 2) continue;
		const [x, y] = [0, 1].map((c) => (flat[at[0]! * 2 + c]! + flat[at[1]! * 2 + c]!) / 2) as [number, number];
		if (rings.some((ring) => liesOn(ring, x, y))) sides[e] = 1;
	}
	return sides;
}

interface Boxed {
	readonly ring: Ring;
	readonly box: readonly [number, number, number, number];
}

/** Half of what snapping and clipping may move a point off the line of an opening, mm, and to spare: sides of cells are chords of round ones. */
const BESIDE_MM = 100 * COINCIDENT_MM;

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

function liesOn({ ring, box: [x0, y0, x1, y1] }: Boxed, x: number, y: number): boolean {
	if (x < x0 || x > x1 || y < y0 || y > y1) return false;
	return ring.some((a, k) => {
		const b = ring[(k + 1) % ring.length]!;
		const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
		const size = dx * dx + dy * dy;
		const t = size > 0 ? Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / size)) : 0;
		return hypot(x - a[0] - t * dx, y - a[1] - t * dy) <= BESIDE_MM;
	});
}
