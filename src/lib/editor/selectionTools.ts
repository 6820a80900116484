import { NO_CELL } from '../../core/tiling/cells.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import type { CellAddress } from '../stage/spaceView.ts';

/** Ways to change which cells are chosen, by what is chosen already. */
export const SELECTION_TOOLS = {
	row: { label: 'Row', help: 'All cells in the rows of those chosen; around a closed face that is a ring' },
	column: { label: 'Column', help: 'All cells in the columns of those chosen' },
	kit: { label: 'Same kit', help: 'All cells of their faces with the same kits' },
	grow: { label: 'Grow', help: 'Their neighbours, too' },
	shrink: { label: 'Shrink', help: 'Without those that have a neighbour that is not chosen' },
	invert: { label: 'Invert', help: 'All others of their faces instead' }
} as const;
export type SelectionTool = keyof typeof SELECTION_TOOLS;

/** The cells that a tool makes of those chosen. O(cells + edges) of their faces. */
export function reselect(view: ModelView, chosen: readonly CellAddress[], tool: SelectionTool): CellAddress[] {
	return [...new Set(chosen.map((a) => a.face))].flatMap((face) => {
		const faceView = view.faces[face]!;
		const marked = new Uint8Array(faceView.cellCount);
		for (const a of chosen) if (a.face === face) marked[a.cell] = 1;
		const wanted = WAYS[tool](faceView, marked);
		return Array.from(marked.keys())
			.filter((cell) => wanted(cell))
			.map((cell) => ({ face, cell }));
	});
}

const WAYS: Readonly<Record<SelectionTool, (face: FaceView, marked: Uint8Array) => (cell: number) => boolean>> = {
	row: (face, marked) => alike(marked, (c) => (face.order?.row ?? face.row)[c]!),
	column: (face, marked) => alike(marked, (c) => (face.order?.column ?? face.column)[c]!),
	kit: ({ schedule: { tables } }, marked) =>
		alike(marked, (c) => {
			const row = tables.panels.rowOf[c]!;
			return row < 0 ? -1 : tables.panels.words.kit!.index[row]!;
		}),
	grow(face, marked) {
		const near = marked.slice();
		acrossEdges(face, (a, b) => {
			if (marked[a] === 1) near[b] = 1;
			if (marked[b] === 1) near[a] = 1;
		});
		return (c) => near[c] === 1;
	},
	shrink(face, marked) {
		const left = marked.slice();
		acrossEdges(face, (a, b) => {
			if (marked[a] !== marked[b]) left[a] = left[b] = 0;
		});
		return (c) => left[c] === 1;
	},
	invert: (_, marked) => (c) => marked[c] === 0
};

function alike(marked: Uint8Array, of: (cell: number) => number): (cell: number) => boolean {
	const wanted = new Set<number>();
	marked.forEach((m, c) => m === 1 && wanted.add(of(c)));
	return (c) => wanted.has(of(c));
}

function acrossEdges({ edgeCount, edgeCells }: FaceView, each: (a: number, b: number) => void): void {
	for (let e = 0; e < edgeCount; e++) {
		const [a, b] = [edgeCells[e * 2]!, edgeCells[e * 2 + 1]!];
		if (b !== NO_CELL) each(a, b);
	}
}
