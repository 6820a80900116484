import type { MeasuredFace } from '../../readings/faceReadings.ts';
import { nodeOwner } from '../../tiling/marks.ts';
import type { NodeKey } from './schema.ts';

const textOf = (row: number, column: number, piece: number) => `${row} ${column} ${piece}`;

/** Finds nodes by the cells that own them, and what they are known by. O(corners). */
export class NodeKeys {
	private readonly cells: MeasuredFace['cells'];
	private readonly cellOf = new Map<string, number>();
	private readonly around = new Map<number, number[]>();

	constructor({ cells }: Pick<MeasuredFace, 'cells'>) {
		this.cells = cells;
		const { count, cornerStart, corners, row, column, trim } = cells;
		for (let c = 0; c < count; c++) {
			this.cellOf.set(textOf(row[c]!, column[c]!, trim?.piece[c] ?? 0), c);
			for (let k = cornerStart[c]!; k < cornerStart[c + 1]!; k++) {
				const there = this.around.get(corners[k]!);
				if (there) there.push(c);
				else this.around.set(corners[k]!, [c]);
			}
		}
	}

	/** The node of a key; nothing where its cell or corner is gone. */
	nodeOf([row, column, piece, corner]: NodeKey): number | undefined {
		const { cornerStart, corners, round } = this.cells;
		const cell = this.cellOf.get(textOf(row, column, piece));
		if (cell === undefined) return undefined;
		let at = 0;
		for (let k = cornerStart[cell]!; k < cornerStart[cell + 1]!; k++) {
			if (round?.[k] !== 1) at++;
			if (at === corner && round?.[k] !== 1) return corners[k]!;
		}
		return undefined;
	}

	/** What a node is known by; nothing for one without cells. */
	keyOf(node: number): NodeKey | undefined {
		const around = this.around.get(node);
		if (!around) return undefined;
		const { row, column, trim } = this.cells;
		const { cell, at } = nodeOwner(this.cells, node, around);
		return [row[cell]!, column[cell]!, trim?.piece[cell] ?? 0, at];
	}

	/** Whether any cell has a node. */
	has = (node: number) => this.around.has(node);
}
