import type { ReadingDefinition } from './definition.ts';

/** Readings of a cell that every run of the pipeline measures, since kits, schedules and comparisons need them. Values are mm, mm2, radians or plain numbers; NaN stands for "none". */
export const MAIN_CELL_READINGS = {
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
	area: { label: 'Area', quantity: 'area', meaning: 'Area of the outline seen square to its mean plane' },
	share: {
		label: 'Share left',
		quantity: 'ratio',
		meaning: 'What openings and borders leave of the whole cell’s area, laid flat; 100 % when nothing is cut'
	},
	warp: { label: 'Warp', quantity: 'length', meaning: 'How far from flat: the distance between the two diagonals' },
	tilt: {
		label: 'Tilt',
		quantity: 'angle',
		meaning: 'From level: 0° faces the sky, 90° is upright, 180° faces the ground'
	},
	bearing: {
		label: 'Bearing',
		quantity: 'angle',
		meaning: 'The way the outside faces, clockwise from north (+y)',
		cyclic: true
	},
	elevation: { label: 'Lowest point', quantity: 'length', meaning: 'Height of the lowest corner above the ground' }
} as const satisfies Record<string, ReadingDefinition>;

/** Readings of a cell that are measured when somebody asks. */
export const MORE_CELL_READINGS = {
	corners: { label: 'Corners', quantity: 'count', meaning: 'How many corners the cell has' },
	leastEdge: { label: 'Shortest edge', quantity: 'length', meaning: 'The shortest of all edges' },
	greatestEdge: { label: 'Longest edge', quantity: 'length', meaning: 'The longest of all edges' },
	diagonal1: {
		label: 'Diagonal 1–3',
		quantity: 'length',
		meaning: 'From corner 1 to corner 3 of a four-cornered cell'
	},
	diagonal2: {
		label: 'Diagonal 2–4',
		quantity: 'length',
		meaning: 'From corner 2 to corner 4 of a four-cornered cell'
	},
	warpShare: {
		label: 'Warp over diagonal',
		quantity: 'ratio',
		meaning: 'The warp over the mean of the two diagonals; of other cells over their longest diagonal'
	},
	leastAngle: { label: 'Smallest angle', quantity: 'angle', meaning: 'The smallest of the corners’ angles' },
	greatestAngle: { label: 'Largest angle', quantity: 'angle', meaning: 'The largest of the corners’ angles' },
	angle1: {
		label: 'Angle at corner 1',
		quantity: 'angle',
		meaning: 'Between the two edges that meet there, within the cell'
	},
	angle2: {
		label: 'Angle at corner 2',
		quantity: 'angle',
		meaning: 'Between the two edges that meet there, within the cell'
	},
	angle3: {
		label: 'Angle at corner 3',
		quantity: 'angle',
		meaning: 'Between the two edges that meet there, within the cell'
	},
	angle4: {
		label: 'Angle at corner 4',
		quantity: 'angle',
		meaning: 'Between the two edges that meet there, within the cell'
	},
	x: { label: 'Centre, east', quantity: 'length', meaning: 'Mean of the corners, towards the east (+x)' },
	y: { label: 'Centre, north', quantity: 'length', meaning: 'Mean of the corners, towards the north (+y)' },
	z: { label: 'Centre, height', quantity: 'length', meaning: 'Mean of the corners’ heights' },
	normalX: {
		label: 'Normal, east',
		quantity: 'ratio',
		meaning: 'Part of the outward normal of length 1 that points east'
	},
	normalY: {
		label: 'Normal, north',
		quantity: 'ratio',
		meaning: 'Part of the outward normal of length 1 that points north'
	},
	normalZ: { label: 'Normal, up', quantity: 'ratio', meaning: 'Part of the outward normal of length 1 that points up' },
	neighbours: { label: 'Neighbours', quantity: 'count', meaning: 'How many other cells it shares an edge with' },
	border: {
		label: 'Border',
		quantity: 'count',
		meaning: 'Whether all edges have a neighbour, some lie on a border or an opening, or the cell is cut',
		kinds: ['inside', 'at a border', 'cut']
	},
	role: { label: 'Role', quantity: 'count', meaning: 'What kind of cell of the tiling it is', kinds: [] },
	gaussian: {
		label: 'Gaussian curvature',
		quantity: 'gaussian',
		meaning: 'Of the face at the cell’s middle: above 0 bulges, 0 can be unrolled, below 0 is a saddle'
	},
	mean: {
		label: 'Mean curvature',
		quantity: 'curvature',
		meaning: 'Of the face at the cell’s middle: above 0 where it bulges outside'
	}
} as const satisfies Record<string, ReadingDefinition>;

/** Every reading of a cell. */
export const CELL_READINGS = { ...MAIN_CELL_READINGS, ...MORE_CELL_READINGS };

export type MainCellReading = keyof typeof MAIN_CELL_READINGS;
export type MoreCellReading = keyof typeof MORE_CELL_READINGS;
export type CellReading = keyof typeof CELL_READINGS;
