interface ViewDefinition {
	readonly label: string;
	readonly key: string;
	/** From the model towards the eye. */
	readonly direction: readonly [number, number, number];
}

/** Straight up and down lean south by this much, so that north is up in the picture. */
const HAIR = 1e-4;

/** Views by where the eye stands; north is +y. */
export const STANDARD_VIEWS = {
	oblique: { label: 'Oblique', key: '1', direction: [-0.75, -1, 0.62] },
	above: { label: 'From above', key: '2', direction: [0, -HAIR, 1] },
	south: { label: 'From the south', key: '3', direction: [0, -1, 0] },
	east: { label: 'From the east', key: '4', direction: [1, 0, 0] },
	north: { label: 'From the north', key: '5', direction: [0, 1, 0] },
	west: { label: 'From the west', key: '6', direction: [-1, 0, 0] },
	below: { label: 'From below', key: '7', direction: [0, -HAIR, -1] }
} as const satisfies Record<string, ViewDefinition>;

export type StandardView = keyof typeof STANDARD_VIEWS;
export const STANDARD_VIEW_NAMES = Object.keys(STANDARD_VIEWS) as StandardView[];
