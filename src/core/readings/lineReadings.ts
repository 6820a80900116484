import type { ReadingDefinition } from './definition.ts';

/** Every reading of an edge. */
export const EDGE_READINGS = {
	length: {
		label: 'Length',
		quantity: 'length',
		meaning: 'Straight from node to node; along a round opening that of the curve'
	},
	onFace: {
		label: 'Length on the face',
		quantity: 'length',
		meaning: 'Of the edge as it follows the face, instead of the chord'
	},
	rise: {
		label: 'Rise over the chord',
		quantity: 'length',
		meaning: 'How far the face stands off the straight edge at most'
	},
	dihedral: {
		label: 'Dihedral angle',
		quantity: 'angle',
		meaning: 'Between the two cells, measured inside: 180° runs on flat, less is a ridge or a mere twist, more a valley'
	},
	slope: { label: 'Slope', quantity: 'angle', meaning: 'From level: 0° lies flat, 90° is upright' },
	twist: {
		label: 'Twist',
		quantity: 'angle',
		meaning:
			'How far the normal at its end is turned against that at its start, about the edge; above 0 as a right-hand screw'
	},
	startAngle: {
		label: 'Angle at the start',
		quantity: 'angle',
		meaning: 'Between the edge and the plane square to the normal there: above 0 it leaves outwards, below 0 inwards'
	},
	endAngle: { label: 'Angle at the end', quantity: 'angle', meaning: 'The same at its other end, seen from there' },
	kind: {
		label: 'Kind',
		quantity: 'count',
		meaning: 'Whether it runs across, up or slantwise on the grid, or lies on a border',
		kinds: ['across', 'up', 'diagonal', 'border']
	},
	elevation: { label: 'Lowest point', quantity: 'length', meaning: 'Height of the lower end above the ground' }
} as const satisfies Record<string, ReadingDefinition>;

/** Every reading of a node. */
export const NODE_READINGS = {
	valence: { label: 'Valence', quantity: 'count', meaning: 'How many edges meet there' },
	defect: {
		label: 'Angle defect',
		quantity: 'angle',
		meaning: 'What the angles of the cells around it lack of a full turn; nothing at a border'
	},
	elevation: { label: 'Height', quantity: 'length', meaning: 'Height above the ground' },
	cells: { label: 'Cells', quantity: 'count', meaning: 'How many cells have a corner there' }
} as const satisfies Record<string, ReadingDefinition>;

export type EdgeReading = keyof typeof EDGE_READINGS;
export type NodeReading = keyof typeof NODE_READINGS;
