import type { Format } from '../../core/formats/format.ts';
import type { FilePreview } from '../worker/filePreview.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';

/** A file that can be handed over. */
export interface FileName {
	readonly format: Format;
	/** Of schedules of the project's own. */
	readonly table?: string | undefined;
}

/** The file that is looked at before it is made. */
export class FileLook {
	open = $state.raw<FileName>();
	preview = $state.raw<FilePreview>();
	busy = $state(false);
	/** Likely bytes by format. */
	sizes = $state.raw<Readonly<Partial<Record<Format, number>>>>({});
	private readonly runner: ModelRunner;
	private asked = 0;

	constructor(runner: ModelRunner) {
		this.runner = runner;
	}

	isOpen({ format, table }: FileName): boolean {
		return this.open?.format === format && this.open.table === table;
	}

	show(file: FileName): void {
		if (!this.isOpen(file)) this.preview = undefined;
		this.open = file;
	}

	close(): void {
		this.open = undefined;
		this.preview = undefined;
	}

	/** Asks how large files are likely to be. */
	async measure(): Promise<void> {
		this.sizes = (await this.runner.ask((api) => api.fileSizes())) ?? {};
	}

	/** Asks the worker; only the newest answer counts. */
	async refresh({ format, table }: FileName): Promise<void> {
		const number = ++this.asked;
		this.busy = true;
		const preview = await this.runner.ask((api) => api.filePreview(format, table));
		if (number !== this.asked) return;
		this.busy = false;
		this.preview = preview;
	}
}
