import type { MeasuredFace } from '../../readings/faceReadings.ts';
import { nodeOnGrid } from '../../settingout/places.ts';
import type { NodeKeys } from './nodeKeys.ts';

/** A chain of nodes by steps over the grid. */
export interface Trace {
	readonly nodes: readonly number[];
	/** It comes back to where it began. */
	readonly closes: boolean;
}

/** The grid of a face as traces walk over it: over a seam it goes on. */
export class Grid {
	readonly across: number;
	readonly up: number;
	private readonly nodes: MeasuredFace['nodes'];
	private readonly keys: NodeKeys;

	constructor(nodes: MeasuredFace['nodes'], keys: NodeKeys) {
		this.nodes = nodes;
		this.keys = keys;
		this.across = nodes.columns - (nodes.ends.closedAcross ? 1 : 0);
		this.up = nodes.rows - (nodes.ends.closedUp ? 1 : 0);
	}

	/** The node at a place of the grid that carries cells; nothing beyond the border or where none does. */
	at(x: number, y: number): number | undefined {
		const { ends, columns, nodeOf } = this.nodes;
		const i = ends.closedAcross ? ((x % this.across) + this.across) % this.across : x;
		const j = ends.closedUp ? ((y % this.up) + this.up) % this.up : y;
		if (i < 0 || j < 0 || i >= this.across || j >= this.up) return undefined;
		const place = j * columns + i;
		const node = nodeOf ? nodeOf[place]! : place;
		return this.keys.has(node) ? node : undefined;
	}

	/** Where a node is on the grid; nothing where it is between places. */
	placeOf(node: number): readonly [number, number] | undefined {
		const place = new Float64Array(2);
		nodeOnGrid(this.nodes, node, place);
		const [x, y] = [place[0]!, place[1]!];
		return Number.isInteger(x) && Number.isInteger(y) ? [x, y] : undefined;
	}

	/** From a place by equal steps until the border, a lost node, the beginning, or for so many steps. */
	trace(from: readonly [number, number], across: number, up: number, most = Infinity): Trace {
		const nodes: number[] = [];
		const seen = new Set<number>();
		for (let k = 0; k <= most; k++) {
			const node = this.at(from[0] + across * k, from[1] + up * k);
			if (node === undefined) break;
			if (seen.has(node)) return { nodes, closes: nodes.length > 2 && node === nodes[0] };
			seen.add(node);
			nodes.push(node);
		}
		return { nodes, closes: false };
	}
}
