import type { MeasuredFace } from '../../readings/faceReadings.ts';
import { nodeOwner } from '../../tiling/marks.ts';
import type { NodeKey } from './schema.ts';

/** One number for a cell's row, column and piece: a face has fewer than 2^21 of either. */
const numberOf = (row: number, column: number, piece: number) => (row * 2_097_152 + column) * 256 + piece;

/** Finds nodes by the cells that own them, and what they are known by. O(corners). */
export class NodeKeys {
	private readonly cells: MeasuredFace['cells'];
	/** By node: 1 where a cell has it. */
	private readonly used: Uint8Array;
	private cellOf: Map<number, number> | undefined;
	/** By node: where its cells begin in `around`; made when a key is first asked for. */
	private cellsAt: { readonly start: Uint32Array; readonly around: Uint32Array } | undefined;

	constructor({ cells, nodes }: Pick<MeasuredFace, 'cells' | 'nodes'>) {
		this.cells = cells;
		this.used = new Uint8Array(nodes.position.length / 3);
		for (let k = 0; k < cells.cornerStart[cells.count]!; k++) this.used[cells.corners[k]!] = 1;
	}

	/** The node of a key; nothing where its cell or corner is gone. */
	nodeOf([row, column, piece, corner]: NodeKey): number | undefined {
		const { cornerStart, corners, round } = this.cells;
		this.cellOf ??= this.findCells();
		const cell = this.cellOf.get(numberOf(row, column, piece));
		if (cell === undefined) return undefined;
		let at = 0;
		for (let k = cornerStart[cell]!; k < cornerStart[cell + 1]!; k++)
			if (round?.[k] !== 1 && ++at === corner) return corners[k]!;
		return undefined;
	}

	private findCells(): Map<number, number> {
		const { count, row, column, trim } = this.cells;
		const found = new Map<number, number>();
		for (let c = 0; c < count; c++) found.set(numberOf(row[c]!, column[c]!, trim?.piece[c] ?? 0), c);
		return found;
	}

	/** What a node is known by; nothing for one without cells. */
	keyOf(node: number): NodeKey | undefined {
		const { start, around } = (this.cellsAt ??= this.findAround());
		const own = around.subarray(start[node], start[node + 1]);
		if (!own.length) return undefined;
		const { row, column, trim } = this.cells;
		const { cell, at } = nodeOwner(this.cells, node, [...own]);
		return [row[cell]!, column[cell]!, trim?.piece[cell] ?? 0, at];
	}

	/** The cells that have a corner at each node; points of curves are none. */
	private findAround(): { readonly start: Uint32Array; readonly around: Uint32Array } {
		const { count, cornerStart, corners, round } = this.cells;
		const start = new Uint32Array(this.used.length + 1);
		for (let k = 0; k < cornerStart[count]!; k++) if (round?.[k] !== 1) start[corners[k]! + 1]!++;
		for (let n = 0; n < this.used.length; n++) start[n + 1]! += start[n]!;
		const around = new Uint32Array(start.at(-1)!);
		const filled = start.slice();
		for (let c = 0; c < count; c++)
			for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++)
				if (round?.[k] !== 1) around[filled[corners[k]!]!++] = c;
		return { start, around };
	}

	/** Whether any cell has a node. */
	has = (node: number) => this.used[node] === 1;
}
