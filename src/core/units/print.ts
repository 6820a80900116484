import { square } from '../elementary/index.ts';
import { COINCIDENT_MM } from '../tolerances.ts';
import { MM_PER_FOOT, MM_PER_INCH } from './length.ts';
import type { LengthUnit, Quantity } from './quantity.ts';

/** A figure made ready to be shown: digits and unit apart, so that a table can name the unit once. */
export interface PrintedFigure {
	readonly text: string;
	readonly unit: string;
}

/** Between groups of three digits (ISO 80000-1). */
const GROUP = ' ';

/** Prints a value of the core (mm, mm2, radians, kg) in the project's unit. `NaN` prints as a dash. */
export function printQuantity(value: number, quantity: Quantity, unit: LengthUnit): PrintedFigure {
	if (Number.isNaN(value)) return { text: '–', unit: '' };
	switch (quantity) {
		case 'length':
			return printLength(value, unit);
		case 'area':
			return unit === 'ft-in'
				? { text: group(value / square(MM_PER_FOOT), 2), unit: 'ft²' }
				: { text: group(value / 1e6, 2), unit: 'm²' };
		case 'volume':
			return unit === 'ft-in'
				? { text: group(value / (square(MM_PER_FOOT) * MM_PER_FOOT), 3), unit: 'ft³' }
				: { text: group(value / 1e9, 4), unit: 'm³' };
		case 'angle':
			return { text: group((value * 180) / Math.PI, 1), unit: '°' };
		case 'mass':
			return { text: group(value, 1), unit: 'kg' };
		case 'ratio':
			return { text: group(value * 100, 1), unit: '%' };
		case 'curvature':
			return { text: group(value * 1000, 4), unit: '1/m' };
		case 'gaussian':
			return { text: group(value * 1e6, 5), unit: '1/m²' };
		case 'money':
			return { text: group(value, 2), unit: '' };
		case 'count':
			return { text: group(value, 0), unit: '' };
	}
}

/** Digits and unit in one text, such as `1 500 mm` or `23.8°`. */
export function printFull(value: number, quantity: Quantity, unit: LengthUnit): string {
	const figure = printQuantity(value, quantity, unit);
	if (figure.unit === '') return figure.text;
	return figure.unit === '°' ? `${figure.text}°` : `${figure.text} ${figure.unit}`;
}

/** Unit that a column of a quantity is headed with; empty where each figure carries its own. */
export function headingUnit(quantity: Quantity, unit: LengthUnit): string {
	return quantity === 'length' && unit === 'ft-in' ? '' : printQuantity(0, quantity, unit).unit;
}

function printLength(mm: number, unit: LengthUnit): PrintedFigure {
	if (unit === 'm') return { text: group(mm / 1000, 3), unit: 'm' };
	if (unit === 'ft-in') return { text: printFeet(mm), unit: '' };
	// Small lengths, such as warps, need the tenth; rounding alone does not make a figure less than whole.
	const whole = Math.abs(mm - Math.round(mm)) < COINCIDENT_MM;
	return { text: group(mm, Math.abs(mm) < 100 && !whole ? 1 : 0), unit: 'mm' };
}

/** Feet and inches to the nearest sixteenth, such as `5' 6 1/2"`. */
function printFeet(mm: number): string {
	const sixteenths = Math.round((Math.abs(mm) / MM_PER_INCH) * 16);
	const feet = Math.floor(sixteenths / 192);
	const inches = Math.floor((sixteenths % 192) / 16);
	let part = sixteenths % 16;
	let below = 16;
	while (part > 0 && part % 2 === 0) [part, below] = [part / 2, below / 2];
	const fraction = part ? `${part}/${below}` : '';
	const tail = [inches || !fraction ? String(inches) : '', fraction].filter(Boolean).join(' ');
	return `${mm < 0 && sixteenths > 0 ? '−' : ''}${feet ? `${group(feet, 0)}' ` : ''}${tail}"`;
}

/** A number with fixed decimals and grouped digits. */
export function group(value: number, decimals: number): string {
	const fixed = Math.abs(value).toFixed(decimals);
	const [whole, part] = fixed.split('.') as [string, string?];
	const grouped = whole.length > 3 ? whole.replace(/\B(?=(\d{3})+$)/g, GROUP) : whole;
	const sign = value < 0 && Number(fixed) !== 0 ? '−' : '';
	return sign + grouped + (part ? `.${part}` : '');
}
