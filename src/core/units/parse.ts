import { square } from '../elementary/index.ts';
import { MM_PER_FOOT, parseLength } from './length.ts';
import type { LengthUnit, Quantity } from './quantity.ts';

/** Reads what a user typed for a quantity; the value is in inner units (mm, radians). */
export function parseQuantity(
	text: string,
	quantity: Quantity,
	unit: LengthUnit
): { value: number } | { error: string } {
	if (quantity === 'length') {
		const length = parseLength(text, unit);
		return 'mm' in length ? { value: length.mm } : length;
	}
	const feet = unit === 'ft-in';
	const suffix = {
		angle: '°',
		ratio: '%',
		count: '',
		area: feet ? ' ft²' : ' m²',
		volume: feet ? ' ft³' : ' m³',
		mass: 'kg',
		curvature: ' 1/m',
		gaussian: ' 1/m²',
		money: ''
	}[quantity];
	const digits = text
		.trim()
		.replace(/(deg|[°%]|kg|1\/m[²2]?|(m|ft)[²2³3])$/i, '')
		.replace(/\s/g, '')
		.replace('−', '-')
		.replace(',', '.');
	const number = Number(digits);
	if (digits === '' || !Number.isFinite(number))
		return { error: `“${text.trim()}” is not a number. Right would be 12${suffix}.` };
	if (quantity === 'count' && !Number.isInteger(number))
		return { error: `“${text.trim()}” is not a whole number. Right would be ${Math.round(number)}.` };
	if (quantity === 'angle') return { value: (number * Math.PI) / 180 };
	if (quantity === 'area')
		return {
			value:
				number * (/ft[²2]$/i.test(text.trim()) || (feet && !/m[²2]$/i.test(text.trim())) ? square(MM_PER_FOOT) : 1e6)
		};
	if (quantity === 'volume') {
		const cubicFeet = /ft[³3]$/i.test(text.trim()) || (feet && !/m[³3]$/i.test(text.trim()));
		return { value: number * (cubicFeet ? square(MM_PER_FOOT) * MM_PER_FOOT : 1e9) };
	}
	const per = { ratio: 100, curvature: 1000, gaussian: 1e6, count: 1, mass: 1, money: 1 };
	return { value: number / per[quantity] };
}
