import { HOST_TABLES, markOf, type FaceTable } from '../../core/schedule/faceTable.ts';
import { withMaterialNames } from '../../core/schedule/parts.ts';
import { faceOfRow, startsOf } from '../../core/schedule/query.ts';
import type { TableName } from '../../core/schedule/tables.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import { withTypes } from '../../core/schedule/types/pieceTypes.ts';
import type { TypesView } from '../worker/types.ts';
import type { PartView } from '../../core/view/partView.ts';

/** Parts by the hashes of the views of their faces. */
export type PartsByFace = Readonly<Record<string, PartView>>;

/** A table of the schedule over all faces, row by row as it is shown. */
export class TableRows {
	readonly name: TableName;
	readonly count: number;
	private readonly faces: readonly FaceView[];
	private readonly tables: readonly Pick<FaceTable, 'count' | 'words' | 'columns'>[];
	private readonly starts: Uint32Array;

	/** Nothing stands in the table of parts until these are there. */
	constructor(
		name: TableName,
		faces: readonly FaceView[],
		parts: PartsByFace,
		materials: readonly { readonly id: string; readonly name: string }[],
		types?: TypesView
	) {
		this.name = name;
		this.faces = faces;
		const marks = types?.types.map((t) => t.mark) ?? [];
		this.tables = faces.map((face, f) => {
			if (name !== 'parts') return face.schedule.tables[name];
			const table = parts[face.hash];
			const typeOf = types?.typeOf[f];
			// What is of another state of the model is not shown.
			if (!table || typeOf?.length !== table.count) return NO_PARTS;
			return withTypes(withMaterialNames(table, materials), marks, typeOf);
		});
		this.starts = startsOf(this.tables);
		this.count = this.starts.at(-1)!;
	}

	/** Which face, and which row of it. */
	place(row: number): { readonly face: number; readonly at: number } {
		const face = faceOfRow(this.starts, row);
		return { face, at: row - this.starts[face]! };
	}

	mark(row: number): string {
		const { face, at } = this.place(row);
		const { schedule } = this.faces[face]!;
		if (this.name !== 'parts') return markOf(schedule, this.name, at);
		const { hostTable, host } = this.tables[face] as PartView;
		return markOf(schedule, HOST_TABLES[hostTable[at]!]!, host[at]!);
	}

	word(name: string, row: number): string {
		const { face, at } = this.place(row);
		const { words, index } = this.tables[face]!.words[name]!;
		return words[index[at]!]!;
	}

	/** Whether a column of words has any in it. */
	hasWords(name: string): boolean {
		return this.tables.some((t) => t.words[name]?.words.some((word) => word !== ''));
	}

	value(name: string, row: number): number {
		const { face, at } = this.place(row);
		return this.tables[face]!.columns[name]![at]!;
	}

	/** The row of an element of a face; nothing where it has none. */
	rowOf(face: number, element: number): number | undefined {
		if (this.name === 'parts') return undefined;
		const at = this.faces[face]?.schedule.tables[this.name].rowOf[element] ?? -1;
		return at < 0 ? undefined : this.starts[face]! + at;
	}
}

const NO_PARTS: PartView = {
	count: 0,
	hostTable: new Uint8Array(),
	host: new Uint32Array(),
	words: {},
	columns: {}
};
