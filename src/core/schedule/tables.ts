import { BAY_READINGS } from '../kit/bayReadings.ts';
import { CELL_READINGS } from '../readings/cellReadings.ts';
import { EDGE_READINGS, NODE_READINGS } from '../readings/lineReadings.ts';
import type { Quantity } from '../units/quantity.ts';

/** How a schedule column is totalled. */
export type Total = 'sum' | 'greatest' | 'none';

/** A column of figures. */
export interface ColumnDefinition {
	readonly label: string;
	readonly quantity: Quantity;
	readonly meaning: string;
	readonly total: Total;
	/** Digits after the point in files: mm, m2, m3, degrees and kg. */
	readonly decimals: number;
}

/** A column of words. */
export interface WordDefinition {
	readonly label: string;
	readonly meaning: string;
}

/** A table of the schedule: what its rows are, and their columns in order behind the mark. */
export interface TableDefinition {
	readonly label: string;
	/** One row, and several, in words. */
	readonly one: string;
	readonly many: string;
	readonly mark: string;
	readonly words: Readonly<Record<string, WordDefinition>>;
	readonly columns: Readonly<Record<string, ColumnDefinition>>;
}

const figure = (
	{ label, quantity, meaning }: Pick<ColumnDefinition, 'label' | 'quantity' | 'meaning'>,
	total: Total,
	decimals: number
): ColumnDefinition => ({ label, quantity, meaning, total, decimals });

const KIT: WordDefinition = { label: 'Kit', meaning: 'What stands there; several kits with a plus between' };
const PIECES: ColumnDefinition = {
	label: 'Pieces',
	quantity: 'count',
	meaning: 'Parts that are made for it',
	total: 'sum',
	decimals: 0
};
const WEIGHT: ColumnDefinition = {
	label: 'Weight',
	quantity: 'mass',
	meaning: 'All scheduled parts: volume × density',
	total: 'sum',
	decimals: 2
};
const PART_LENGTH: ColumnDefinition = {
	label: 'Part length',
	quantity: 'length',
	meaning: 'All scheduled bars together',
	total: 'sum',
	decimals: 1
};
const OWNER = {
	row: figure({ label: 'Row', quantity: 'count', meaning: 'Of the cell that it is named by' }, 'none', 0),
	column: figure({ label: 'Column', quantity: 'count', meaning: 'Of the cell that it is named by' }, 'none', 0)
};

export const TABLES = {
	panels: {
		label: 'Panels',
		one: 'panel',
		many: 'panels',
		mark: 'Face, row, column',
		words: { kit: KIT },
		columns: {
			row: figure(CELL_READINGS.row, 'none', 0),
			column: figure(CELL_READINGS.column, 'none', 0),
			width: figure(CELL_READINGS.width, 'none', 1),
			height: figure(CELL_READINGS.height, 'none', 1),
			area: figure(CELL_READINGS.area, 'sum', 4),
			warp: figure(CELL_READINGS.warp, 'greatest', 2),
			share: figure(CELL_READINGS.share, 'none', 4),
			frameLength: {
				label: 'Frame length',
				quantity: 'length',
				meaning: 'Around the outside of the frame; 0 without one',
				total: 'sum',
				decimals: 1
			},
			weight: WEIGHT
		}
	},
	edges: {
		label: 'Edges',
		one: 'edge',
		many: 'edges',
		mark: 'The first cell beside it, and which of its sides it is',
		words: { kit: KIT, kind: EDGE_READINGS.kind },
		columns: {
			...OWNER,
			length: figure(EDGE_READINGS.length, 'sum', 1),
			dihedral: figure(EDGE_READINGS.dihedral, 'none', 3),
			twist: figure(EDGE_READINGS.twist, 'none', 3),
			startAngle: figure(EDGE_READINGS.startAngle, 'none', 3),
			endAngle: figure(EDGE_READINGS.endAngle, 'none', 3),
			pieces: PIECES,
			partLength: PART_LENGTH,
			weight: WEIGHT
		}
	},
	nodes: {
		label: 'Nodes',
		one: 'node',
		many: 'nodes',
		mark: 'The first cell around it, and which of its corners it is',
		words: { kit: KIT },
		columns: {
			...OWNER,
			valence: figure(NODE_READINGS.valence, 'none', 0),
			elevation: figure(NODE_READINGS.elevation, 'none', 1),
			pieces: PIECES,
			weight: WEIGHT
		}
	},
	paths: {
		label: 'Paths',
		one: 'path',
		many: 'paths',
		mark: 'Face, A across or U up, which line, and a letter where it is broken',
		words: { kit: KIT },
		columns: {
			row: figure({ label: 'Line', quantity: 'count', meaning: 'Counted from 1 at the starting border' }, 'none', 0),
			points: figure({ label: 'Points', quantity: 'count', meaning: 'How many nodes it runs through' }, 'sum', 0),
			length: figure({ label: 'Length', quantity: 'length', meaning: 'From node to node all along' }, 'sum', 1),
			pieces: PIECES,
			partLength: PART_LENGTH,
			weight: WEIGHT
		}
	},
	bays: {
		label: 'Bays',
		one: 'bay',
		many: 'bays',
		mark: 'Its first cell, and how many it has across and up',
		words: { kit: KIT },
		columns: {
			row: figure(BAY_READINGS.row, 'none', 0),
			column: figure(BAY_READINGS.column, 'none', 0),
			width: figure(BAY_READINGS.width, 'none', 1),
			height: figure(BAY_READINGS.height, 'none', 1),
			area: figure(BAY_READINGS.area, 'sum', 4),
			warp: figure(BAY_READINGS.warp, 'greatest', 2),
			pieces: PIECES,
			weight: WEIGHT
		}
	},
	parts: {
		label: 'Parts',
		one: 'part',
		many: 'parts',
		mark: 'What it stands on',
		words: {
			kit: { label: 'Kit', meaning: 'The kit that makes it' },
			part: { label: 'Part', meaning: 'The step of the kit that makes it' },
			role: { label: 'Role', meaning: 'What it is for' },
			material: { label: 'Material', meaning: 'What it is made of' },
			towards: {
				label: 'Towards',
				meaning: 'Of node pieces: the marks of the edges, and of their bars, that they hold, in order'
			},
			type: { label: 'Type', meaning: 'Pieces that are alike within the limits of their role have the same' }
		},
		columns: {
			piece: figure(
				{ label: 'Piece', quantity: 'count', meaning: 'Which of the part’s pieces on that host, counted from 1' },
				'none',
				0
			),
			length: figure({ label: 'Length', quantity: 'length', meaning: 'Of bars, along their line' }, 'sum', 1),
			area: figure({ label: 'Area', quantity: 'area', meaning: 'Of sheets one side, of bars all around' }, 'sum', 4),
			volume: figure({ label: 'Volume', quantity: 'volume', meaning: 'Of its material' }, 'sum', 6),
			weight: { ...WEIGHT, meaning: 'Volume × density' }
		}
	}
} as const satisfies Record<string, TableDefinition>;

export type TableName = keyof typeof TABLES;
export const TABLE_NAMES = Object.keys(TABLES) as TableName[];

/** The definition, for whoever takes any table. */
export const tableOf = (name: TableName): TableDefinition => TABLES[name];

/** Columns of words and then of figures of a table. */
export const wordNames = (name: TableName): string[] => Object.keys(TABLES[name].words);
export const columnNames = (name: TableName): string[] => Object.keys(TABLES[name].columns);
