import { untrack } from 'svelte';
import type { Material } from '../../core/project/schema.ts';
import type { RangeFilter, ScheduleAnswer, ScheduleQuery } from '../../core/schedule/query.ts';
import { TABLE_NAMES, type TableName } from '../../core/schedule/tables.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { PartView } from '../../core/view/partView.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';
import { TableRows, type PartsByFace } from './tableRows.ts';

/** How a table is looked at. */
interface Look {
	readonly text: string;
	readonly ranges: readonly RangeFilter[];
	readonly sort: ScheduleQuery['sort'];
}
const PLAIN: Look = { text: '', ranges: [], sort: undefined };

/** What the schedule shows: a table, its filters, its order, and the worker's answer to them. Each table keeps its own. */
export class ScheduleState {
	table = $state<TableName>('panels');
	answer = $state.raw<ScheduleAnswer>();
	/** The rows that `answer` orders, as they were when it was asked for: those of the view may be others already. */
	rows = $state.raw<TableRows>();
	/** The question that `answer` is to. */
	answered = $state.raw<ScheduleQuery>();

	private looks = $state.raw(Object.fromEntries(TABLE_NAMES.map((name) => [name, PLAIN])) as Record<TableName, Look>);
	/** Parts by the hashes of their faces, asked for when somebody looks at them. */
	private parts = $state.raw<PartsByFace>({});
	private readonly runner: ModelRunner;
	private readonly materials: () => readonly Material[];
	private asked = 0;

	constructor(runner: ModelRunner, materials: () => readonly Material[]) {
		this.runner = runner;
		this.materials = materials;
	}

	private get look(): Look {
		return this.looks[this.table];
	}

	private change(look: Partial<Look>): void {
		this.looks = { ...this.looks, [this.table]: { ...this.look, ...look } };
	}

	get text(): string {
		return this.look.text;
	}
	set text(text: string) {
		this.change({ text });
	}

	get sort(): Look['sort'] {
		return this.look.sort;
	}

	get query(): ScheduleQuery {
		return { table: this.table, ...this.look };
	}

	get filtered(): boolean {
		return this.text.trim() !== '' || this.look.ranges.length > 0;
	}

	/** Asks the worker again; only the newest answer counts. */
	async refresh(query: ScheduleQuery): Promise<void> {
		const number = ++this.asked;
		// What is known is no reason to ask again.
		const [faces, known] = untrack(() => [this.runner.view?.faces ?? [], this.parts] as const);
		const [answer, parts, types] = await Promise.all([
			this.runner.ask((api) => api.query(query)),
			query.table === 'parts' ? this.partsOf(faces, known) : known,
			query.table === 'parts' ? this.runner.ask((api) => api.types()) : undefined
		]);
		if (number !== this.asked || !answer || !parts) return;
		const rows = new TableRows(query.table, faces, parts, untrack(this.materials), types);
		// The worker may have a newer model already, which is asked about once it is in view.
		if (rows.count !== answer.count) return;
		this.parts = parts;
		this.rows = rows;
		this.answer = answer;
		this.answered = query;
	}

	/** The parts of all faces; only those that are not known are asked for. Nothing when the model has changed meanwhile. */
	private async partsOf(faces: readonly FaceView[], known: PartsByFace): Promise<PartsByFace | undefined> {
		const hashes = faces.map((f) => f.hash);
		const missing = hashes.filter((hash) => !(hash in known));
		const found = missing.length ? await this.runner.ask((api) => api.parts(missing)) : [];
		const all: Record<string, PartView> = {};
		for (const hash of hashes) {
			const view = known[hash] ?? found?.[missing.indexOf(hash)];
			if (!view) return undefined;
			all[hash] = view;
		}
		return all;
	}

	/** Rising, then falling, then the schedule's own order. */
	toggleSort(by: string): void {
		const { sort } = this;
		this.change({
			sort: sort?.by !== by ? { by, descending: false } : sort.descending ? undefined : { by, descending: true }
		});
	}

	rangeOf(column: string): RangeFilter | undefined {
		return this.look.ranges.find((r) => r.column === column);
	}

	/** Sets one end of a column's range; without both ends the filter goes. */
	setRange(column: string, end: 'least' | 'greatest', value: number | undefined): void {
		const before: Partial<RangeFilter> = this.rangeOf(column) ?? {};
		const { least, greatest } = { ...before, [end]: value } as Partial<RangeFilter>;
		const range = {
			column,
			...(least === undefined ? {} : { least }),
			...(greatest === undefined ? {} : { greatest })
		};
		const others = this.look.ranges.filter((r) => r.column !== column);
		this.change({ ranges: least === undefined && greatest === undefined ? others : [...others, range] });
	}

	clearFilters(): void {
		this.change({ text: '', ranges: [] });
	}
}
