import type { MeasuredFace } from '../../readings/faceReadings.ts';
import { cellsAround, nodeOwner } from '../../tiling/marks.ts';
import type { NodeKey } from './schema.ts';

/** One number for a cell's row, column and piece: a face has fewer than 2^21 of either. */
const numberOf = (row: number, column: number, piece: number) => (row * 2_097_152 + column) * 256 + piece;

/** Finds nodes by the cells that own them, and what they are known by. O(corners). */
export class NodeKeys {
	private readonly cells: MeasuredFace['cells'];
	/** By node: 1 where a cell has it. */
	private readonly used: Uint8Array;
	private cellOf: Map<number, number> | undefined;

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
		const around = cellsAround(this.cells, new Set([node])).get(node);
		if (!around?.length) return undefined;
		const { row, column, trim } = this.cells;
		const { cell, at } = nodeOwner(this.cells, node, around);
		return [row[cell]!, column[cell]!, trim?.piece[cell] ?? 0, at];
	}

	/** Whether any cell has a node. */
	has = (node: number) => this.used[node] === 1;
}
