import type Flatbush from 'flatbush';
import { hypot } from '../../elementary/index.ts';
import { pointOn } from '../../geometry/pointOn.ts';
import { developmentOf, FlatFinder, type ChartedFace } from '../../settingout/development.ts';
import type { NodeTable } from '../../settingout/nodes.ts';

interface Segment {
	readonly a: readonly [number, number];
	readonly b: readonly [number, number];
}

/**
 * The nodes with those near an outline moved onto it, within the face. Nodes on a border of the face stay
 * there, and so do those that stand for several places, as along a seam.
 */
export function snapNodes(
	face: ChartedFace,
	nodes: NodeTable,
	known: Float64Array,
	index: Flatbush,
	segments: readonly Segment[],
	within: number
): NodeTable {
	const { columns, rows, nodeOf, onFace, us, vs } = nodes;
	const { us: acrossBorders, vs: upBorders } = face.chart.shares;
	const inside = (place: number) => {
		if (place >= columns * rows)
			return (
				us[place]! > acrossBorders[0]! &&
				us[place]! < acrossBorders.at(-1)! &&
				vs[place]! > upBorders[0]! &&
				vs[place]! < upBorders.at(-1)!
			);
		const [i, j] = [place % columns, Math.floor(place / columns)];
		return i > 0 && j > 0 && i < columns - 1 && j < rows - 1;
	};
	const finder = new FlatFinder(developmentOf(face));
	const [position, normal, flat] = [nodes.position.slice(), nodes.normal.slice(), known.slice()];
	/** Places that another one's node stands for, and those that stand for another's, stay. */
	const shared = new Set<number>();
	nodeOf?.forEach((node, place) => {
		if (node !== place) shared.add(node).add(place);
	});
	for (let place = 0; place < flat.length / 2; place++) {
		if (!inside(place) || onFace?.[place] === 0 || shared.has(place)) continue;
		const [x, y] = [flat[place * 2]!, flat[place * 2 + 1]!];
		const to = nearestOn(index.search(x - within, y - within, x + within, y + within), segments, x, y);
		if (!to || to.far > within) continue;
		const at = finder.find(to.x, to.y);
		if (!at) continue;
		const point = pointOn(face.surface, at.u, at.v);
		position.set(point.position, place * 3);
		normal.set(point.normal, place * 3);
		flat.set([to.x, to.y], place * 2);
	}
	return { ...nodes, position, normal, flat };
}

function nearestOn(found: readonly number[], segments: readonly Segment[], x: number, y: number) {
	let best: { x: number; y: number; far: number } | undefined;
	for (const k of found) {
		const { a, b } = segments[k]!;
		const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
		const share = Math.max(0, Math.min(1, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy)));
		const [px, py] = [a[0] + dx * share, a[1] + dy * share];
		const far = hypot(px - x, py - y);
		if (!best || far < best.far) best = { x: px, y: py, far };
	}
	return best;
}
