import { untrack } from 'svelte';
import type { OwnTable } from '../../core/schedule/own/schema.ts';
import { group } from '../../core/units/print.ts';
import type { OwnColumnView, OwnTableView } from '../worker/ownTables.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';

/** A line of the drawer: the heading of a group, or a row. */
export type OwnLine = { readonly group: number } | { readonly row: number };

/** A figure of a column as it is shown. */
export const printOwn = (value: number, decimals: number): string =>
	Number.isNaN(value) ? '–' : group(value, decimals);

/** A cell as text. */
export function cellText(column: OwnColumnView, row: number): string {
	switch (column.kind) {
		case 'words':
			return column.words[column.index[row]!]!;
		case 'figures':
			return printOwn(column.values[row]!, column.written.decimals);
		case 'notes':
			return column.texts.get(row) ?? '';
		case 'fault':
			return '';
	}
}

/** What stands below a column, with its word. */
export function totalText(column: OwnColumnView, total: number): string {
	if ((column.kind !== 'figures' && column.kind !== 'words') || column.summary === 'none') return '';
	const decimals = column.kind === 'words' || column.summary === 'count' ? 0 : column.written.decimals;
	const word = column.summary === 'sum' ? '' : `${column.summary} `;
	return Number.isNaN(total) ? '–' : word + group(total, decimals);
}

/** A column's name with its unit. */
export const headText = (column: OwnColumnView): string =>
	column.kind === 'figures' ? column.label + raisedUnit(column.written.unit) : column.label;

/** A unit as people write it: m² for m2. */
export const raisedUnit = (unit: string): string => unit.replace(/(?<=[a-z])[23]/g, (d) => (d === '2' ? '²' : '³'));

/** The schedule of the project's own that is open, and the worker's answer to it. */
export class OwnTableState {
	/** Id of the schedule. */
	open = $state<string>();
	view = $state.raw<OwnTableView>();
	/** Groups that are folded, by their words. */
	folded = $state.raw<readonly string[]>([]);
	private readonly runner: ModelRunner;
	private readonly all: () => readonly OwnTable[];
	private asked = 0;

	constructor(runner: ModelRunner, all: () => readonly OwnTable[]) {
		this.runner = runner;
		this.all = all;
	}

	/** The schedule that is open, the first where none was chosen. */
	get table(): OwnTable | undefined {
		const all = this.all();
		return all.find((t) => t.id === this.open) ?? all[0];
	}

	/** What is shown, line by line. */
	get lines(): OwnLine[] {
		const { view, table } = this;
		if (!view || !table || view.id !== table.id) return [];
		const { groups, order } = view;
		const lines: OwnLine[] = [];
		const rows = (from: number, to: number) => {
			if (!table.folded || groups.length === 0) for (let k = from; k < to; k++) lines.push({ row: order[k]! });
		};
		if (groups.length === 0) rows(0, order.length);
		const innermost = groups.reduce((most, g) => Math.max(most, g.level), 0);
		let hidden = 0;
		groups.forEach((g, k) => {
			if (g.from < hidden) return;
			lines.push({ group: k });
			if (this.folded.includes(JSON.stringify(g.words))) hidden = g.to;
			else if (g.level === innermost) rows(g.from, g.to);
		});
		return lines;
	}

	toggle(words: readonly string[]): void {
		const key = JSON.stringify(words);
		this.folded = this.folded.includes(key) ? this.folded.filter((k) => k !== key) : [...this.folded, key];
	}

	/** Asks the worker; only the newest answer counts. */
	async refresh(): Promise<void> {
		const number = ++this.asked;
		const id = untrack(() => this.table?.id);
		if (id === undefined) return void (this.view = undefined);
		const view = await this.runner.ask((api) => api.ownTable(id));
		if (number === this.asked && view) this.view = view;
	}
}
