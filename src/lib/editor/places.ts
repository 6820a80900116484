/** The job's order; each is a place of the workspace. */
export const PLACES = {
	mass: { label: 'Mass', help: 'The building body and its faces' },
	'setting-out': { label: 'Setting-out', help: 'How the chosen face is divided' },
	tiling: { label: 'Tiling', help: 'How the division becomes cells, and their marks' },
	kits: { label: 'Kits', help: 'The parametric pieces and their materials' },
	placement: { label: 'Placement', help: 'Which kit stands on the chosen face' },
	schedule: { label: 'Schedule', help: 'One row a panel, with totals' },
	handover: { label: 'Handover', help: 'Files for others' }
} as const;

export type Place = keyof typeof PLACES;
export const PLACE_NAMES = Object.keys(PLACES) as Place[];
export const isPlace = (text: string | null): text is Place => text !== null && text in PLACES;
