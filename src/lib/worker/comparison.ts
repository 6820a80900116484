import {
	CHANGES,
	comparePieces,
	piecesByKey,
	summariseChanges,
	type Change,
	type ChangeSummary,
	type PieceChange,
	type PiecePlace
} from '../../core/formats/changes/comparePieces.ts';
import { writtenChanges } from '../../core/formats/changes/writeChanges.ts';
import { Memo } from '../../core/project/memo.ts';
import { runPipeline, type Model } from '../../core/project/pipeline.ts';
import type { RunHost } from '../../core/project/run.ts';
import type { Project } from '../../core/project/schema.ts';
import { cellsOfRow } from '../../core/schedule/cellsOfRow.ts';

/** One thing of a piece that is not as it was; a piece that is new or gone has one row. */
export interface ChangeRow {
	readonly kind: Change;
	readonly mark: string;
	readonly face: string;
	readonly kit: string;
	readonly part: string;
	readonly what: string;
	readonly before: string;
	readonly after: string;
	/** Where the piece is now: face of the model and row of its table of parts. */
	readonly place?: PiecePlace;
}

/** What two states of a project differ in. */
export interface ComparisonView {
	readonly summary: ChangeSummary;
	readonly rows: readonly ChangeRow[];
	/** Of the costs before and after. */
	readonly currencies: readonly [string, string];
	/** Pieces of the earlier state that are known by the same place in the later one, and how many it had. */
	readonly known: { readonly kept: number; readonly all: number };
	/** By face of the later model: what has come of each cell, as an index into CHANGES and one more; 0 where nothing has. */
	readonly classes: readonly Uint8Array[];
	/** Hashes of the faces of the later model, so that it can be told whether it is the one that is shown. */
	readonly faces: readonly string[];
}

/** Runs a state of a project, and makes nothing of its mistakes: files make them, too. */
export const modelOf = (project: Project, host: Pick<RunHost, 'now' | 'pause' | 'solids'>): Promise<Model> =>
	runPipeline(project, { ...host, memo: new Memo() });

/** What has changed from one state to another. O(pieces). */
export function compareStates(
	before: { readonly project: Project; readonly model: Model },
	after: { readonly project: Project; readonly model: Model }
): ComparisonView {
	const places = new Map<string, PiecePlace>();
	const then = piecesByKey(before.project, before.model);
	const now = piecesByKey(after.project, after.model, places);
	const changes = comparePieces(then, now);
	const { faces } = after.model;
	const classes = faces.map((f) => new Uint8Array(f.cells.count));
	for (const { kind, after: piece } of changes) {
		const place = piece && places.get(piece.key);
		if (!place) continue;
		const grade = CHANGES.indexOf(kind) + 1;
		const { face, row } = place;
		for (const cell of cellsOfRow(faces[face]!, 'parts', row)) {
			const there = classes[face]![cell]!;
			// The gravest shows.
			if (there === 0 || grade < there) classes[face]![cell] = grade;
		}
	}
	return {
		summary: summariseChanges(then, now, changes),
		currencies: [before.project.costs.currency, after.project.costs.currency],
		rows: changes.flatMap((change) => rowsOf(change, places)),
		known: { kept: [...then.keys()].filter((key) => now.has(key)).length, all: then.size },
		classes,
		faces: faces.map((f) => f.hash)
	};
}

function rowsOf(change: PieceChange, places: ReadonlyMap<string, PiecePlace>): ChangeRow[] {
	const { kind, after, before } = change;
	const { mark, face, kit, part } = (after ?? before)!;
	const place = after && places.get(after.key);
	const own = { kind, mark, face, kit, part, ...(place ? { place } : {}) };
	const things = writtenChanges(change);
	return things.length
		? things.map(([what, was, is]) => ({ ...own, what, before: was, after: is }))
		: [{ ...own, what: '', before: '', after: '' }];
}
