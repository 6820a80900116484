// Parts of the interface that the first picture does not show.
export const LATER = {
	bench: () => import('./bench/Bench.svelte'),
	settingOut: () => import('./places/SettingOutPlace.svelte'),
	tiling: () => import('./places/TilingPlace.svelte'),
	kits: () => import('./places/KitsPlace.svelte'),
	placement: () => import('./places/PlacementPlace.svelte'),
	schedule: () => import('./places/SchedulePlace.svelte'),
	handover: () => import('./places/HandoverPlace.svelte'),
	developed: () => import('./DevelopedPane.svelte'),
	unit: () => import('./tiling/UnitPane.svelte'),
	imports: () => import('./mass/ImportPane.svelte'),
	curve: () => import('./shape/CurvePane.svelte'),
	sheet: () => import('./sheets/SheetPane.svelte'),
	file: () => import('./handover/FilePane.svelte'),
	revisions: () => import('./RevisionsPane.svelte'),
	readingsPanel: () => import('./readings/ReadingsPanel.svelte'),
	ownTable: () => import('./own/OwnTablePanel.svelte'),
	quantities: () => import('./own/QuantitiesPanel.svelte'),
	types: () => import('./types/TypesPanel.svelte'),
	changes: () => import('./issues/ChangesPanel.svelte')
};

/** Brings all of them before somebody asks: then they are there at once, also when the server is not. One that does not come is asked for again when it is shown. */
export function bringLater(): void {
	for (const part of Object.values(LATER)) part().catch(() => undefined);
}
