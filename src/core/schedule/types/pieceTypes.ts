import { partsOf, type FaceWithParts, type PartTable } from '../parts.ts';
import { cluster } from './cluster.ts';
import { pieceSizes, type PieceSizes } from './pieceSizes.ts';
import { mediumTolerance } from './tolerance.ts';

/** Pieces that are alike. */
export interface PieceType {
	/** Such as `P-014`: the letter of the role, and a number by frequency. */
	readonly mark: string;
	readonly role: string;
	readonly kit: string;
	readonly part: string;
	readonly material: string;
	readonly count: number;
	/** By how much a piece differs from the one that the type is measured by at most, mm. */
	readonly deviation: number;
	/** Face and row in its table of parts of the piece that it is measured by. */
	readonly face: number;
	readonly row: number;
}

export interface PieceTypes {
	readonly types: readonly PieceType[];
	/** By face: by row of its table of parts, the number of its type; NO_TYPE for one that has none, as a bar of a joined body. */
	readonly typeOf: readonly Int32Array[];
}

export const NO_TYPE = -1;

/** How far sizes may differ: a length's, mm. */
export type Tolerance = (length: number) => number;

/** What a type's mark begins with. */
const LETTERS: Readonly<Record<string, string>> = {
	pane: 'G',
	frame: 'F',
	reveal: 'V',
	panel: 'P',
	mullion: 'M',
	louver: 'L',
	fin: 'N',
	connector: 'C',
	rod: 'R',
	screen: 'S',
	backing: 'B'
};
const DIGITS = 3;

interface Batch {
	readonly kit: string;
	readonly part: string;
	readonly role: string;
	readonly material: string;
	readonly dims: number;
	readonly turns: PieceSizes['turns'];
	readonly pieces: { readonly face: number; readonly row: number; readonly sizes: PieceSizes; readonly at: number }[];
}

/**
 * Sorts all pieces of a model into types: pieces of the same step of a kit and of the same material are alike when all their
 * sizes agree within the tolerance. O(pieces log pieces).
 */
export function pieceTypes(faces: readonly FaceWithParts[], tolerance: Tolerance = mediumTolerance): PieceTypes {
	const batches = new Map<string, Batch>();
	const typeOf = faces.map((face) => new Int32Array(partsOf(face).count).fill(NO_TYPE));
	faces.forEach((model, face) => {
		const table = partsOf(model);
		const firstRow = rowsOfPieces(table);
		table.parts.forEach(({ part, placement }, p) => {
			for (const sizes of pieceSizes(part)) {
				const key = JSON.stringify([placement.kit.id, part.name, part.role, part.material, part.label, sizes.make]);
				const batch = batches.get(key) ?? {
					kit: placement.kit.name,
					part: part.label ? `${part.name} (${part.label})` : part.name,
					role: part.role,
					material: part.material,
					dims: sizes.dims,
					turns: sizes.turns,
					pieces: []
				};
				batches.set(key, batch);
				sizes.rows.forEach((row, at) =>
					batch.pieces.push({ face, row: firstRow[p]![row]! + sizes.pieces[at]!, sizes, at })
				);
			}
		});
	});
	const found: Omit<PieceType, 'mark'>[] = [];
	const members: Batch['pieces'][] = [];
	for (const { pieces, dims, turns, ...words } of batches.values()) {
		if (pieces.length === 0) continue;
		const values = new Float64Array(pieces.length * dims);
		pieces.forEach(({ sizes, at }, k) => values.set(sizes.values.subarray(at * dims, (at + 1) * dims), k * dims));
		const clusters = cluster({ values, dims, turns, tolerance: (size) => tolerance(size) });
		const lists = Array.from(clusters.counts, (): Batch['pieces'] => []);
		pieces.forEach((piece, k) => lists[clusters.typeOf[k]!]!.push(piece));
		lists.forEach((list, t) => {
			const { face, row } = pieces[clusters.models[t]!]!;
			found.push({ ...words, count: list.length, deviation: clusters.deviation[t]!, face, row });
			members.push(list);
		});
	}
	const order = [...found.keys()].sort(
		(a, b) => found[b]!.count - found[a]!.count || found[a]!.face - found[b]!.face || found[a]!.row - found[b]!.row
	);
	const numbers = new Map<string, number>();
	const types = order.map((t, n): PieceType => {
		const letter = LETTERS[found[t]!.role] ?? 'X';
		const number = (numbers.get(letter) ?? 0) + 1;
		numbers.set(letter, number);
		for (const { face, row } of members[t]!) typeOf[face]![row] = n;
		return { mark: `${letter}-${String(number).padStart(DIGITS, '0')}`, ...found[t]! };
	});
	return { types, typeOf };
}

/** By part and row of its placement: the first row of that host's pieces in the table of parts. */
function rowsOfPieces({ parts }: ReturnType<typeof partsOf>): Uint32Array[] {
	let next = 0;
	return parts.map(({ part }) =>
		Uint32Array.from(part.pieces, (n) => {
			const first = next;
			next += n;
			return first;
		})
	);
}

/** By the placements of the first face: those of all, and their types. */
const known = new WeakMap<
	FaceWithParts['placements'],
	{ readonly of: FaceWithParts['placements'][]; types: PieceTypes }
>();

/** The types of a model's pieces within the usual tolerance, worked out once for as long as no face is placed anew. */
export function typesOf(faces: readonly FaceWithParts[]): PieceTypes {
	const of = faces.map((f) => f.placements);
	const there = of[0] && known.get(of[0]);
	if (there?.of.length === of.length && there.of.every((p, f) => p === of[f])) return there.types;
	const types = pieceTypes(faces);
	if (of[0]) known.set(of[0], { of, types });
	return types;
}

/** A table of parts with the types of its pieces as words; \u2014 for one that has none. */
export function withTypes<Table extends Pick<PartTable, 'words'>>(
	table: Table,
	marks: readonly string[],
	typeOf: Int32Array
): Table {
	const index = Uint32Array.from(typeOf, (t) => (t === NO_TYPE ? marks.length : t));
	return { ...table, words: { ...table.words, type: { words: [...marks, '\u2014'], index } } };
}

/** How many types there would be if sizes might differ by other shares of the usual tolerance. O(shares * pieces log pieces). */
export const typesByTolerance = (faces: readonly FaceWithParts[], shares: readonly number[]): number[] =>
	shares.map((share) => pieceTypes(faces, (length) => mediumTolerance(length) * share).types.length);
