import { hostsOn, partKeys, type FaceWithKeys } from '../hostKeys.ts';
import { partsOf, type PartTable } from '../parts.ts';
import { cluster } from './cluster.ts';
import { fixNumbers, hashOfKey, numberTypes } from './fixedNumbers.ts';
import { pieceSizes, type PieceSizes } from './pieceSizes.ts';
import { USUAL_TYPES, type TypeRule, type TypeSettings } from './schema.ts';
import { classTolerance, type Tolerance } from './tolerance.ts';

/** Pieces that are alike. */
export interface PieceType {
	/** Such as `P-014`: the letter of the role, and a number: the one that was fixed, or the next. */
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

interface Batch {
	readonly kit: string;
	readonly part: string;
	readonly role: string;
	readonly material: string;
	readonly sizes: Pick<PieceSizes, 'dims' | 'turns' | 'mirrors'>;
	readonly pieces: { readonly face: number; readonly row: number; readonly sizes: PieceSizes; readonly at: number }[];
}

interface Place {
	readonly face: number;
	readonly row: number;
}
const isBefore = (a: Place, b: Place) => a.face < b.face || (a.face === b.face && a.row < b.row);

const toleranceOf = (rule: TypeRule | undefined): Tolerance => {
	const { tolerance } = rule ?? { tolerance: 'medium' as const };
	return typeof tolerance === 'number' ? () => tolerance : classTolerance(tolerance);
};

/**
 * Sorts all pieces of a model into types: pieces of the same step of a kit and of the same material are alike when all their
 * sizes agree within so many times the tolerance of their role. O(pieces log pieces).
 */
export function pieceTypes(
	faces: readonly FaceWithKeys[],
	settings: TypeSettings = USUAL_TYPES,
	times = 1
): PieceTypes {
	const rules = new Map(settings.rules.map((rule) => [rule.role, rule]));
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
					sizes,
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
	for (const { pieces, sizes: how, ...words } of batches.values()) {
		if (pieces.length === 0) continue;
		const { dims } = how;
		const rule = rules.get(words.role);
		const tolerance = toleranceOf(rule);
		const turns = rule?.mirrored ? [...how.turns, ...how.mirrors] : how.turns;
		const values = new Float64Array(pieces.length * dims);
		pieces.forEach(({ sizes, at }, k) => values.set(sizes.values.subarray(at * dims, (at + 1) * dims), k * dims));
		const clusters = cluster({ values, dims, turns, tolerance: (size) => tolerance(size) * times });
		const lists = Array.from(clusters.counts, (): Batch['pieces'] => []);
		pieces.forEach((piece, k) => lists[clusters.typeOf[k]!]!.push(piece));
		lists.forEach((list, t) => {
			const { face, row } = pieces[clusters.models[t]!]!;
			found.push({ ...words, count: list.length, deviation: clusters.deviation[t]!, face, row });
			members.push(list);
		});
	}
	const first = members.map((list) => list.reduce((a, b) => (isBefore(b, a) ? b : a)));
	const byPlace = (a: number, b: number) => (isBefore(first[a]!, first[b]!) ? -1 : 1);
	const order = [...found.keys()].sort((a, b) =>
		settings.numbered === 'order' ? byPlace(a, b) : found[b]!.count - found[a]!.count || byPlace(a, b)
	);
	const hashes = Object.keys(settings.fixed).length ? hashesOfPieces(faces) : [];
	const marks = numberTypes(
		order.map((t) => LETTERS[found[t]!.role] ?? 'X'),
		settings.fixed,
		(n) => members[order[n]!]!.map(({ face, row }) => hashes[face]![row]!)
	);
	const types = order.map((t, n): PieceType => {
		for (const { face, row } of members[t]!) typeOf[face]![row] = n;
		return { mark: marks[n]!, ...found[t]! };
	});
	return { types, typeOf };
}

/** By face and row of its table of parts: what the piece is known by, in 32 bits. O(pieces). */
const hashesOfPieces = (faces: readonly FaceWithKeys[]): Uint32Array[] =>
	faces.map((face) => Uint32Array.from(partKeys(face, hostsOn(face)), hashOfKey));

/** The numbers of all types as they are now, to be kept in a project. O(pieces). */
export function fixedNumbers(faces: readonly FaceWithKeys[], { types, typeOf }: PieceTypes): TypeSettings['fixed'] {
	const hashes = types.map((): number[] => []);
	hashesOfPieces(faces).forEach((list, f) =>
		typeOf[f]!.forEach((t, row) => t !== NO_TYPE && hashes[t]!.push(list[row]!))
	);
	return fixNumbers(
		types.map((t) => t.mark),
		(t) => hashes[t]!
	);
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

/** By the placements of the first face: those of all, how they were sorted, and their types. */
const known = new WeakMap<
	FaceWithKeys['placements'],
	{ readonly of: FaceWithKeys['placements'][]; readonly settings: TypeSettings; types: PieceTypes }
>();

/** Nearly always the very same; many thousand fixed numbers are written out only where they are not. */
const alike = (a: TypeSettings, b: TypeSettings) => a === b || JSON.stringify(a) === JSON.stringify(b);

/** The types of a model's pieces, worked out once for as long as no face is placed anew. */
export function typesOf(faces: readonly FaceWithKeys[], settings: TypeSettings): PieceTypes {
	const of = faces.map((f) => f.placements);
	const there = of[0] && known.get(of[0]);
	if (there?.of.length === of.length && alike(there.settings, settings) && there.of.every((p, f) => p === of[f]))
		return there.types;
	const types = pieceTypes(faces, settings);
	if (of[0]) known.set(of[0], { of, settings, types });
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

/** How many types there would be if sizes might differ by other shares of their tolerances. O(shares * pieces log pieces). */
export const typesByTolerance = (
	faces: readonly FaceWithKeys[],
	settings: TypeSettings,
	shares: readonly number[]
): number[] => shares.map((share) => pieceTypes(faces, { ...settings, fixed: {} }, share).types.length);
