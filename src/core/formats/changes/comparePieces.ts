import { hypot } from '../../elementary/index.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { HOST_TABLES } from '../../schedule/faceTable.ts';
import { hostsOn, partKeys } from '../../schedule/hostKeys.ts';
import { pricedPiece, Pricing } from '../../schedule/cost/priceOf.ts';
import { MOVED_MM, SIZE_NOTED_MM } from '../../tolerances.ts';
import { eachPiece, type PieceWords } from '../pieceRows.ts';

/** What of a piece is held against what it was. */
const WORDS = ['kit', 'rule', 'role', 'material'] as const;
/** Figures, with how far they may differ unseen: mm, mm2, mm3 and kg of a piece some metres long. */
const FIGURES = {
	length: () => SIZE_NOTED_MM,
	area: (size: number) => SIZE_NOTED_MM * Math.sqrt(size),
	weight: (size: number) => Math.max(LEAST_WEIGHT, size * LEAST_WEIGHT)
} as const;
/** kg, and a share of a piece's weight: the last digit of schedules. */
const LEAST_WEIGHT = 0.005;

/** A piece as it is compared. */
export interface PieceState extends Pick<PieceWords, (typeof WORDS)[number] | 'mark' | 'hostKind' | 'face' | 'part'> {
	/** The same as long as its face, its place on the grid and its part are: what it is known by. */
	readonly key: string;
	/** mm, mm2 and kg. */
	readonly length: number;
	readonly area: number;
	readonly weight: number;
	/** By the rates of its own state, in its currency. */
	readonly cost: number;
	/** Middle of what it stands on, mm. */
	readonly at: readonly number[];
}

/** What has come of a piece, the gravest first. */
export const CHANGES = ['added', 'gone', 'changed', 'moved', 'renumbered'] as const;
export type Change = (typeof CHANGES)[number];

export interface PieceChange {
	readonly kind: Change;
	readonly before?: PieceState;
	readonly after?: PieceState;
	/** What of it is another now: words, figures, `at` and `mark`. */
	readonly what: readonly string[];
}

/** Where a piece is: face of its model, and row of the face's table of parts. */
export interface PiecePlace {
	readonly face: number;
	readonly row: number;
}

/** Every piece of a model by its key; where they are goes into `places`, if somebody wants to know. O(pieces). */
export function piecesByKey(project: Project, model: Model, places?: Map<string, PiecePlace>): Map<string, PieceState> {
	const hosts = model.faces.map(hostsOn);
	const found = new Map<string, PieceState>();
	const pricing = new Pricing(project.costs.rates);
	const keys = model.faces.map((face, f) => partKeys(face, hosts[f]!));
	eachPiece(project, model, (words, table, r, face) => {
		const kind = HOST_TABLES[table.hostTable[r]!]!;
		const { middleOf } = hosts[face]!;
		const host = table.host[r]!;
		const key = keys[face]![r]!;
		const { columns } = table;
		places?.set(key, { face, row: r });
		found.set(key, {
			key,
			mark: words.mark,
			hostKind: words.hostKind,
			face: words.face,
			part: words.part,
			kit: words.kit,
			rule: words.rule,
			role: words.role,
			material: words.material,
			length: columns.length![r]!,
			area: columns.area![r]!,
			weight: columns.weight![r]!,
			cost: pricing.costOf(pricedPiece(table, r, words.type)),
			at: middleOf(kind, host)
		});
	});
	return found;
}

/** What has come of every piece that is not as it was, in the order of the new ones, those that are gone at the end. O(pieces). */
export function comparePieces(
	before: ReadonlyMap<string, PieceState>,
	after: ReadonlyMap<string, PieceState>
): PieceChange[] {
	const changes: PieceChange[] = [];
	for (const [key, now] of after) {
		const then = before.get(key);
		if (!then) {
			changes.push({ kind: 'added', after: now, what: [] });
			continue;
		}
		const changed = [
			...WORDS.filter((w) => then[w] !== now[w]),
			...Object.entries(FIGURES).flatMap(([name, slack]) => {
				const [a, b] = [then[name as 'length'], now[name as 'length']];
				return Math.abs(a - b) > slack(Math.max(a, b)) ? [name] : [];
			})
		];
		const moved = hypot(...([0, 1, 2].map((c) => now.at[c]! - then.at[c]!) as [number, number, number])) > MOVED_MM;
		const renumbered = then.mark !== now.mark;
		const what = [...changed, ...(moved ? ['at'] : []), ...(renumbered ? ['mark'] : [])];
		if (what.length)
			changes.push({
				kind: changed.length ? 'changed' : moved ? 'moved' : 'renumbered',
				before: then,
				after: now,
				what
			});
	}
	for (const [key, then] of before) if (!after.has(key)) changes.push({ kind: 'gone', before: then, what: [] });
	return changes;
}

/** How many pieces each kind of change has, how many are as they were, and what all weighed and cost, and do now. */
export interface ChangeSummary extends Readonly<Record<Change, number>> {
	readonly same: number;
	readonly weightKg: { readonly before: number; readonly after: number };
	/** Each by the rates and in the currency of its own state. */
	readonly cost: { readonly before: number; readonly after: number };
}

export function summariseChanges(
	before: ReadonlyMap<string, PieceState>,
	after: ReadonlyMap<string, PieceState>,
	changes: readonly PieceChange[]
): ChangeSummary {
	const counts = Object.fromEntries(CHANGES.map((kind) => [kind, 0])) as Record<Change, number>;
	for (const { kind } of changes) counts[kind]++;
	const sums = (of: 'weight' | 'cost') => {
		const sum = (all: ReadonlyMap<string, PieceState>) => [...all.values()].reduce((n, p) => n + p[of], 0);
		return { before: sum(before), after: sum(after) };
	};
	return {
		...counts,
		same: after.size - counts.added - counts.changed - counts.moved - counts.renumbered,
		weightKg: sums('weight'),
		cost: sums('cost')
	};
}
