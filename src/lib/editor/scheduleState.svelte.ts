import type { PanelColumn } from '../../core/schedule/columns.ts';
import type { RangeFilter, ScheduleAnswer, ScheduleQuery, SortKey } from '../../core/schedule/query.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';

/** What the schedule shows: its filters, its order, and the worker's answer to them. */
export class ScheduleState {
	text = $state('');
	ranges = $state.raw<readonly RangeFilter[]>([]);
	sort = $state.raw<ScheduleQuery['sort']>();
	answer = $state.raw<ScheduleAnswer>();
	/** The question that `answer` is to. */
	answered = $state.raw<ScheduleQuery>();

	private readonly runner: ModelRunner;
	private asked = 0;

	constructor(runner: ModelRunner) {
		this.runner = runner;
	}

	get query(): ScheduleQuery {
		return { text: this.text, ranges: this.ranges, sort: this.sort };
	}

	get filtered(): boolean {
		return this.text.trim() !== '' || this.ranges.length > 0;
	}

	/** Asks the worker again; only the newest answer counts. */
	async refresh(query: ScheduleQuery): Promise<void> {
		const number = ++this.asked;
		const answer = await this.runner.client.query(query);
		if (number !== this.asked || !answer) return;
		this.answer = answer;
		this.answered = query;
	}

	/** Rising, then falling, then the schedule's own order. */
	toggleSort(by: SortKey): void {
		if (this.sort?.by !== by) this.sort = { by, descending: false };
		else this.sort = this.sort.descending ? undefined : { by, descending: true };
	}

	rangeOf(column: PanelColumn): RangeFilter | undefined {
		return this.ranges.find((r) => r.column === column);
	}

	/** Sets one end of a column's range; without both ends the filter goes. */
	setRange(column: PanelColumn, end: 'least' | 'greatest', value: number | undefined): void {
		const changed = { ...this.rangeOf(column), column, [end]: value };
		const others = this.ranges.filter((r) => r.column !== column);
		const empty = changed.least === undefined && changed.greatest === undefined;
		this.ranges = empty ? others : [...others, changed];
	}

	clearFilters(): void {
		this.text = '';
		this.ranges = [];
	}
}
