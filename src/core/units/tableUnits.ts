import { MM_PER_FOOT } from './length.ts';
import type { Quantity } from './quantity.ts';

/** Units that lengths of a file may have: decimal ones, so that figures can be added up. */
export const TABLE_UNITS = ['mm', 'm', 'ft'] as const;
export type TableUnit = (typeof TABLE_UNITS)[number];

/** Lengths and areas by the unit of lengths, with how many digits more or fewer they have than in mm and m2. */
export const LENGTHS: Readonly<
	Record<TableUnit, Readonly<Record<'length' | 'area', { unit: string; per: number; digits: number }>>>
> = {
	mm: { length: { unit: ' mm', per: 1, digits: 0 }, area: { unit: ' m2', per: 1e6, digits: 0 } },
	m: { length: { unit: ' m', per: 1000, digits: 3 }, area: { unit: ' m2', per: 1e6, digits: 0 } },
	ft: {
		length: { unit: ' ft', per: MM_PER_FOOT, digits: 3 },
		area: { unit: ' ft2', per: MM_PER_FOOT * MM_PER_FOOT, digits: -1 }
	}
};

export const OTHERS: Readonly<Record<Exclude<Quantity, 'length' | 'area'>, { unit: string; per: number }>> = {
	volume: { unit: ' m3', per: 1e9 },
	angle: { unit: ' deg', per: Math.PI / 180 },
	mass: { unit: ' kg', per: 1 },
	ratio: { unit: '', per: 1 },
	count: { unit: '', per: 1 },
	curvature: { unit: ' 1/m', per: 1 / 1000 },
	gaussian: { unit: ' 1/m2', per: 1 / 1_000_000 },
	money: { unit: '', per: 1 }
};
