import { pow } from '../../elementary/index.ts';
import { LENGTHS, OTHERS, type TableUnit } from '../../units/tableUnits.ts';
import type { MadeColumn } from './runTable.ts';
import { COLUMN_UNITS, type OwnColumn } from './schema.ts';

/** How figures of a column are written: divided by `per`, with so many digits after the point, in a unit. */
export interface WrittenFigures {
	readonly unit: string;
	readonly per: number;
	readonly decimals: number;
}

/** Digits that a column of lengths gains by a greater unit. */
const GAINED: Readonly<Record<keyof typeof COLUMN_UNITS, number>> = { mm: 0, cm: 1, m: 3, in: 2, ft: 3 };
const POWERS = ['', '', '2', '3'];

/** How the figures of a column are written where lengths are in these units: a unit of its own goes before. */
export function writtenFigures(
	column: Extract<MadeColumn, { kind: 'figures' }>,
	own: OwnColumn,
	units: TableUnit,
	currency: string
): WrittenFigures {
	const { quantity, dimension, decimals } = column;
	const chosen = own.kind === 'value' ? own.unit : undefined;
	const asked = own.kind === 'value' && own.decimals !== undefined;
	const { length: power, angle } = dimension;
	if (quantity === 'money') return { unit: ` ${currency}`, per: 1, decimals };
	if (angle === 0 && chosen && power >= 1 && power <= 3 && Number.isInteger(power))
		return {
			unit: ` ${chosen}${POWERS[power]}`,
			per: pow(COLUMN_UNITS[chosen], power),
			decimals: asked ? decimals : power === 1 ? decimals + GAINED[chosen] : DIGITS_OF_POWERS
		};
	if (quantity === 'length' || quantity === 'area') {
		const { unit, per, digits } = LENGTHS[units][quantity];
		return { unit, per, decimals: asked ? decimals : decimals + digits };
	}
	if (quantity) return { ...OTHERS[quantity], decimals };
	if (power === 0 && angle === 0) return { unit: '', per: 1, decimals };
	// Other powers, such as kilograms over an area, are of metres.
	const of = power < 0 ? ` 1/m${POWERS[-power] ?? `^${-power}`}` : power === 0 ? '' : ` m^${power}`;
	return { unit: angle === 0 ? of : `${of} rad^${angle}`, per: pow(1000, power), decimals };
}

/** Of areas and volumes in a unit of their own. */
const DIGITS_OF_POWERS = 4;

/** What a summary is called before its figure; a sum needs no word. */
export const SUMMARY_WORDS = {
	none: '',
	sum: '',
	least: 'least',
	greatest: 'greatest',
	mean: 'mean',
	spread: 'spread',
	count: 'count'
} as const;
