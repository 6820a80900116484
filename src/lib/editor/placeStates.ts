import type { Project } from '../../core/project/schema.ts';
import type { Stage } from '../../core/project/run.ts';
import type { ModelView, WarningView } from '../../core/view/modelView.ts';
import type { Place } from './places.ts';

/** How a place stands: done, something to look at, or nothing there yet. */
export interface PlaceState {
	readonly tone: 'done' | 'attention' | 'empty';
	/** Warnings, where there are any. */
	readonly count: number;
}

/** Stages whose warnings belong to a place. */
const STAGES_OF: Readonly<Record<Place, readonly Stage[]>> = {
	mass: ['mass'],
	'setting-out': ['settingOut'],
	tiling: ['tiling', 'readings'],
	kits: [],
	placement: ['placement'],
	schedule: ['schedule'],
	handover: []
};

/** The warnings that belong to a place. */
export const warningsOf = (place: Place, warnings: readonly WarningView[]) =>
	warnings.filter((w) => STAGES_OF[place].includes(w.stage));

/** State of every place, for the strip along the top. */
export function placeStates(project: Project, view: ModelView | undefined): Record<Place, PlaceState> {
	const faces = view?.faces.length ?? 0;
	const panels = view?.faces.reduce((n, f) => n + f.schedule.tables.panels.count, 0) ?? 0;
	const filled: Record<Place, boolean> = {
		mass: project.masses.length > 0,
		'setting-out': faces > 0,
		tiling: faces > 0,
		kits: project.kits.length > 0,
		placement: project.rules.length > 0,
		schedule: panels > 0,
		handover: panels > 0
	};
	const state = (place: Place): PlaceState => {
		const count = warningsOf(place, view?.warnings ?? []).length;
		if (count > 0) return { tone: 'attention', count };
		return { tone: filled[place] ? 'done' : 'empty', count };
	};
	return Object.fromEntries((Object.keys(STAGES_OF) as Place[]).map((place) => [place, state(place)])) as Record<
		Place,
		PlaceState
	>;
}
