import { READINGS, READING_NAMES } from '../../readings/faceReadings.ts';
import type { Quantity } from '../../units/quantity.ts';
import { TABLE_NAMES, tableOf, type TableDefinition, type TableName, type Total } from '../tables.ts';
import { OPENING_TABLE } from './openings.ts';

/** What rows of own tables can be of. */
export const ROW_SOURCES = [...TABLE_NAMES, 'openings'] as const;
export type RowSource = TableName | 'openings';

/** What its rows are. */
export const sourceOf = (source: RowSource): TableDefinition =>
	source === 'openings' ? OPENING_TABLE : tableOf(source);

/** Something that own tables can show, filter, group and sort by its name. */
export interface RowColumn {
	readonly label: string;
	readonly meaning: string;
	/** Nothing of words. */
	readonly quantity?: Quantity;
	readonly total: Total;
	/** Digits after the point in files: mm, m2, m3, degrees and kg. */
	readonly decimals: number;
}

export const word = (label: string, meaning: string): RowColumn => ({ label, meaning, total: 'none', decimals: 0 });

/** What every row has. */
const COMMON = {
	mark: word('Mark', 'The name on the piece'),
	face: word('Face', 'The face that it belongs to'),
	storey: word('Storey', 'The level below its middle')
} as const;

/** What all but openings have besides. */
const OF_HOSTS = { zone: word('Zone', 'The first zone that its cell is in') } as const;

/** What rows of parts have besides. */
const OF_PARTS = {
	hostKind: word('Host kind', 'Whether it stands on a cell, an edge, a node, a path or a bay'),
	hostMark: word('Host mark', 'The mark of what it stands on'),
	rule: word('Rule', 'The rule that places it'),
	shape: word('Made as', 'Bar, sheet, plate, blades, solid, ...: the step of the kit'),
	barLength: {
		label: 'Bar length',
		meaning: 'Of bars, blades and joined rods along their lines; nothing of sheets and bodies',
		quantity: 'length',
		total: 'sum',
		decimals: 1
	},
	cost: {
		label: 'Cost',
		meaning: 'By the rates of the project, waste included',
		quantity: 'money',
		total: 'sum',
		decimals: 2
	}
} as const satisfies Record<string, RowColumn>;

export const DECIMALS: Readonly<Record<Quantity, number>> = {
	length: 1,
	area: 4,
	volume: 6,
	angle: 3,
	mass: 2,
	ratio: 4,
	count: 0,
	curvature: 6,
	gaussian: 8,
	money: 2
};

/** Hosts whose readings the rows of a table have. */
export const MEASURED = { panels: 'cell', edges: 'edge', nodes: 'node' } as const;

/** All that own tables of a kind can name. */
export function columnsOf(name: RowSource): Readonly<Record<string, RowColumn>> {
	const { words, columns } = sourceOf(name);
	const found: Record<string, RowColumn> = { ...COMMON, ...(name === 'openings' ? {} : OF_HOSTS) };
	if (name === 'parts') Object.assign(found, OF_PARTS);
	if (name === 'panels') found.role = word('Role', 'The tiling’s kind of cell');
	for (const [key, { label, meaning }] of Object.entries(words)) found[key] ??= word(label, meaning);
	for (const [key, definition] of Object.entries(columns)) found[key] ??= definition;
	const host = MEASURED[name as keyof typeof MEASURED];
	for (const reading of READING_NAMES) {
		const key = reading.slice(reading.indexOf('.') + 1);
		if (READINGS[reading].host !== host || key in found) continue;
		const { label, meaning, quantity } = READINGS[reading];
		found[key] = { label, meaning, quantity, total: 'none', decimals: DECIMALS[quantity] };
	}
	return found;
}
