import type { Quantity } from '../units/quantity.ts';
import { CELL_READINGS } from '../readings/cellReadings.ts';

/** How a schedule column is totalled. */
export type Total = 'sum' | 'greatest' | 'none';

export interface ColumnDefinition {
	readonly label: string;
	readonly quantity: Quantity;
	readonly meaning: string;
	readonly total: Total;
	/** Digits after the point in files: mm, m2 and kg. */
	readonly decimals: number;
}

const reading = (name: keyof typeof CELL_READINGS, total: Total, decimals: number) => ({
	...CELL_READINGS[name],
	total,
	decimals
});

/** The figures of a panel, in the order of the schedule; mark, face and kit stand before them. */
export const PANEL_COLUMNS = {
	row: reading('row', 'none', 0),
	column: reading('column', 'none', 0),
	width: reading('width', 'none', 1),
	height: reading('height', 'none', 1),
	area: reading('area', 'sum', 4),
	warp: reading('warp', 'greatest', 2),
	share: reading('share', 'none', 4),
	frameLength: {
		label: 'Frame length',
		quantity: 'length',
		meaning: 'Around the outside of the frame; 0 without one',
		total: 'sum',
		decimals: 1
	},
	weight: {
		label: 'Weight',
		quantity: 'mass',
		meaning: 'All scheduled parts: area × thickness × density',
		total: 'sum',
		decimals: 2
	}
} as const satisfies Record<string, ColumnDefinition>;

export type PanelColumn = keyof typeof PANEL_COLUMNS;
export const PANEL_COLUMN_NAMES = Object.keys(PANEL_COLUMNS) as PanelColumn[];
