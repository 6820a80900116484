import { MM_PER_FOOT, MM_PER_INCH } from './length.ts';

/** Units that a model file can be in, where it does not tell. */
export const FILE_UNITS = [
	{ name: 'mm', label: 'Millimetres', mm: 1 },
	{ name: 'cm', label: 'Centimetres', mm: 10 },
	{ name: 'm', label: 'Metres', mm: 1000 },
	{ name: 'in', label: 'Inches', mm: MM_PER_INCH },
	{ name: 'ft', label: 'Feet', mm: MM_PER_FOOT }
] as const;
