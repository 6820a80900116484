import { beforeDraft } from '../../core/project/drafts.ts';
import type { Override, RuleValue } from '../../core/placement/rules/schema.ts';
import type { Project } from '../../core/project/schema.ts';
import { newId } from './tab.ts';

/** A cell of a face by its place, or a side or corner that it owns, counted from 1. */
export interface HandCell {
	readonly face: string;
	readonly row: number;
	readonly column: number;
	readonly piece: number;
	readonly at?: number;
}

/** What is set: a kit or nothing (null), values, a turn. */
export type HandLook = Partial<Pick<Override, 'kit' | 'values' | 'turn'>>;

type Run = Override['hosts'][number];

/** Cells, sides or corners as runs along rows, in order. */
export function runsOfCells(cells: readonly HandCell[]): Run[] {
	const sorted = [...cells].sort(
		(a, b) => a.piece - b.piece || (a.at ?? 0) - (b.at ?? 0) || a.row - b.row || a.column - b.column
	);
	const runs: Run[] = [];
	for (const { row, column, piece, at = 0 } of sorted) {
		const last = runs.at(-1);
		if (
			last &&
			last[0] === row &&
			last[3] === piece &&
			last[4] === at &&
			(last[2] === column - 1 || last[2] === column)
		)
			last[2] = column;
		else runs.push([row, column, column, piece, at]);
	}
	return runs;
}

/** Sets a look on cells, above what is set there already. One action however many cells and faces. */
export function setByHand(draft: Project, set: string, cells: readonly HandCell[], look: HandLook): void {
	const made: Override[] = [...new Set(cells.map((c) => c.face))].map((face) => {
		return Object.freeze({
			// Lists of many thousands are not looked through for a free number.
			id: `hand-${newId()}`,
			set,
			face,
			hosts: runsOfCells(cells.filter((c) => c.face === face)),
			values: {},
			...look
		});
	});
	// Frozen, so that nobody looks for drafts within.
	draft.overrides = Object.freeze([...beforeDraft(draft.overrides), ...made]) as Override[];
}

/** Takes back everything that is set by hand on cells. O(runs + cells log cells), however long the runs are. */
export function liftFrom(draft: Project, set: string, cells: readonly HandCell[]): void {
	const lineOf = (face: string, row: number, piece: number, at: number) => `${face} ${row} ${piece} ${at}`;
	/** Columns that go, in order, by line. */
	const gone = new Map<string, number[]>();
	for (const { face, row, column, piece, at = 0 } of cells) {
		const line = lineOf(face, row, piece, at);
		const columns = gone.get(line);
		if (columns) columns.push(column);
		else gone.set(line, [column]);
	}
	for (const columns of gone.values()) columns.sort((a, b) => a - b);
	const faces = new Set(cells.map((c) => c.face));
	draft.overrides = beforeDraft(draft.overrides).flatMap((override) => {
		if (override.set !== set || !faces.has(override.face)) return [override];
		const hosts = override.hosts.flatMap(([row, from, to, piece, at]) => {
			const left: Run[] = [];
			let start = from;
			for (const column of gone.get(lineOf(override.face, row, piece, at)) ?? []) {
				if (column < start || column > to) continue;
				if (column > start) left.push([row, start, column - 1, piece, at]);
				start = column + 1;
			}
			if (start <= to) left.push([row, start, to, piece, at]);
			return left;
		});
		return hosts.length ? [{ ...override, hosts }] : [];
	});
}

export const lift = (draft: Project, id: string): void => {
	draft.overrides = beforeDraft(draft.overrides).filter((o) => o.id !== id);
};

/** Whether an override names a host of its face. */
export const covers = ({ hosts }: Pick<Override, 'hosts'>, { row, column, piece, at = 0 }: HandCell): boolean =>
	hosts.some((h) => h[0] === row && h[3] === piece && h[4] === at && column >= h[1] && column <= h[2]);

/** How many hosts an override names. */
export const hostsOf = ({ hosts }: Pick<Override, 'hosts'>): number =>
	hosts.reduce((n, [, from, to]) => n + to - from + 1, 0);

/** What an override changes, in words. */
export function handInWords(
	override: Override,
	project: Pick<Project, 'kits'>,
	print: (name: string, value: RuleValue) => string
): string {
	const kit = project.kits.find((k) => k.id === override.kit);
	const values = Object.entries(override.values).map(([name, value]) => print(name, value));
	const words = [
		...(override.kit === null ? ['left open'] : override.kit === undefined ? [] : [kit?.name ?? override.kit]),
		...values,
		...(override.turn ? ['turned'] : [])
	];
	return words.join(', ') || 'nothing';
}
