import type { Quantity } from '../units/quantity.ts';

/** A measurable property of a host, defined once for filters, schedules, colours and formulas. */
export interface ReadingDefinition {
	readonly label: string;
	readonly quantity: Quantity;
	/** One line for the user: what exactly is measured. */
	readonly meaning: string;
}

/** Every reading of a cell. Values are mm, mm2, radians or plain numbers; NaN stands for "none". */
export const CELL_READINGS = {
	row: { label: 'Row', quantity: 'count', meaning: 'Counted from 1 at the starting edge' },
	column: { label: 'Column', quantity: 'count', meaning: 'Counted from 1 at the starting border' },
	width: {
		label: 'Width',
		quantity: 'length',
		meaning: 'Overall size along the lower edge, in the mean plane of the cell'
	},
	height: {
		label: 'Height',
		quantity: 'length',
		meaning: 'Overall size square to the lower edge, in the mean plane of the cell'
	},
	edge1: { label: 'Lower edge', quantity: 'length', meaning: 'From corner 1 to corner 2' },
	edge2: { label: 'Right edge', quantity: 'length', meaning: 'From corner 2 to corner 3' },
	edge3: { label: 'Upper edge', quantity: 'length', meaning: 'From corner 3 to corner 4' },
	edge4: { label: 'Left edge', quantity: 'length', meaning: 'From corner 4 to corner 1' },
	perimeter: { label: 'Perimeter', quantity: 'length', meaning: 'All edges together' },
	area: {
		label: 'Area',
		quantity: 'area',
		meaning: 'Area of the outline seen square to its mean plane'
	},
	share: {
		label: 'Share left',
		quantity: 'ratio',
		meaning: 'What openings and borders leave of the whole cell’s area, laid flat; 100 % when nothing is cut'
	},
	warp: {
		label: 'Warp',
		quantity: 'length',
		meaning: 'How far from flat: the distance between the two diagonals'
	},
	tilt: {
		label: 'Tilt',
		quantity: 'angle',
		meaning: 'From level: 0° faces the sky, 90° is upright, 180° faces the ground'
	},
	bearing: {
		label: 'Bearing',
		quantity: 'angle',
		meaning: 'The way the outside faces, clockwise from north (+y)'
	},
	elevation: {
		label: 'Lowest point',
		quantity: 'length',
		meaning: 'Height of the lowest corner above the ground'
	}
} as const satisfies Record<string, ReadingDefinition>;

export type CellReading = keyof typeof CELL_READINGS;
