import type { FlatView } from '../../core/view/flatView.ts';
import type { FieldBrush } from './fieldBrush.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';

/** What the pointer does on the developed view. */
export const FLAT_TOOLS = {
	select: { label: 'Select', help: 'Click a cell, or drag a box around cells; drag an opening to move it (V)' },
	lasso: { label: 'Lasso', help: 'Drag a line around cells' },
	rectangle: { label: 'Rectangle', help: 'Drag an opening from corner to corner' },
	circle: { label: 'Circle', help: 'Drag an opening from its centre' },
	polygon: { label: 'Polygon', help: 'Click corner after corner; Enter or a double click closes the line' },
	spline: { label: 'Spline', help: 'Click points of a smooth line; Enter or a double click closes it' },
	paint: { label: 'Paint', help: 'Drag over cells to add them to the chosen zone, or to paint the open field' },
	erase: { label: 'Erase', help: 'Drag over cells to take them out of the chosen zone, or to wipe the open field' },
	line: { label: 'Line', help: 'Click points of the line; Enter or a double click ends it' }
} as const;
export type FlatTool = keyof typeof FLAT_TOOLS;

export type FlatLayout = 'beside' | 'under' | 'off';

/** The developed view: which face lies flat, and what the pointer does on it. */
export class FlatState {
	layout = $state<FlatLayout>('off');
	tool = $state<FlatTool>('select');
	/** Id of the chosen opening of the chosen face. */
	opening = $state<string>();
	/** Id of the zone that is painted. */
	zone = $state<string>();
	/** With which fields are painted. */
	brush = $state.raw<FieldBrush>({ radius: 3000, strength: 0.6 });
	/** What the line being drawn is for: the grid in a direction, where Voronoi cells are small, one of the open field's by its place, or the open path. */
	lineFor = $state<'across' | 'up' | 'grading' | 'path' | number>('across');
	view = $state.raw<FlatView>();

	private asked = 0;
	private readonly runner: ModelRunner;

	constructor(runner: ModelRunner) {
		this.runner = runner;
	}

	/** Lays a face of the newest model flat; the newest question wins. */
	async show(key: string | undefined): Promise<void> {
		const question = ++this.asked;
		const view = key === undefined ? undefined : await this.runner.ask((api) => api.flat(key));
		if (question === this.asked) this.view = view;
	}
}
