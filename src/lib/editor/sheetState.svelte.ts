import type { Page } from '../../core/formats/paper/page.ts';
import type { Sheet } from '../../core/project/sheets.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';

/** The sheet that is looked at, and its pages as the worker draws them. */
export class SheetState {
	/** Id of the sheet; nothing where the model is looked at. */
	open = $state<string>();
	/** Which of its pages. */
	page = $state(0);
	/** As large as on paper, and not as fits the window. */
	trueSize = $state(false);
	pages = $state.raw<readonly Page[]>([]);
	/** Being drawn. */
	busy = $state(false);
	private readonly runner: ModelRunner;
	private readonly all: () => readonly Sheet[];
	private asked = 0;

	constructor(runner: ModelRunner, all: () => readonly Sheet[]) {
		this.runner = runner;
		this.all = all;
	}

	get sheet(): Sheet | undefined {
		return this.all().find((s) => s.id === this.open);
	}

	show(id: string): void {
		if (this.open !== id) [this.page, this.pages] = [0, []];
		this.open = id;
	}

	close(): void {
		this.open = undefined;
	}

	/** Asks the worker; only the newest answer counts. */
	async refresh(id: string): Promise<void> {
		const number = ++this.asked;
		this.busy = true;
		const pages = await this.runner.ask((api) => api.sheetPages(id));
		if (number !== this.asked) return;
		this.busy = false;
		if (pages) this.pages = pages;
		this.page = Math.min(this.page, Math.max(0, this.pages.length - 1));
	}
}
