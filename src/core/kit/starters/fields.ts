import type { KitInput } from '../schema.ts';

type KitParameterInput = KitInput['parameters'][number];
type Step = KitInput['steps'][number];

/** Steps that are told their type where they are made. */
export const steps = (...all: Step[]): Step[] => all;

/** The host's own line, and that line moved by the parameter “off” along the normals of its points. */
export const AWAY = steps(
	{ kind: 'outline', name: 'path' },
	{ kind: 'lift', name: 'away', of: 'path', distance: 'off', towards: 'corners' }
);

interface More {
	formula?: string;
	group?: string;
	help?: string;
	scope?: 'kit' | 'host';
}

const numeric =
	(quantity: 'length' | 'angle' | 'ratio') =>
	(
		name: string,
		label: string,
		preset: number,
		least: number,
		greatest: number,
		more: More = {}
	): KitParameterInput => ({ quantity, name, label, default: preset, least, greatest, ...more });

export const length = numeric('length');
export const ratio = numeric('ratio');
const radians = numeric('angle');
/** Given in degrees. */
export const angle = (
	name: string,
	label: string,
	preset: number,
	least: number,
	greatest: number,
	more: More = {}
): KitParameterInput =>
	radians(
		name,
		label,
		...([preset, least, greatest].map((d) => (d * Math.PI) / 180) as [number, number, number]),
		more
	);
export const count = (
	name: string,
	label: string,
	preset: number,
	least: number,
	greatest: number,
	more: More = {}
): KitParameterInput => ({ quantity: 'count', name, label, default: preset, least, greatest, ...more });
export const yesno = (name: string, label: string, preset: 0 | 1, help = ''): KitParameterInput => ({
	quantity: 'yesno',
	name,
	label,
	default: preset,
	help
});
export const choice = (name: string, label: string, choices: string[], help = ''): KitParameterInput => ({
	quantity: 'choice',
	name,
	label,
	choices,
	default: 0,
	help
});
export const material = (name: string, label: string, preset: string): KitParameterInput => ({
	quantity: 'material',
	name,
	label,
	default: preset
});

export const cell = (least = 3, greatest = 64) =>
	({ kind: 'cell', leastCorners: least, greatestCorners: greatest }) as const;

export const joint = length('joint', 'Joint', 10, 0, 200, { help: 'Half of the gap between two panels' });
export const paneThickness = length('paneThickness', 'Pane thickness', 12, 1, 200, {
	help: 'Solid glass; two panes of 6 mm weigh as much as one of 12 mm'
});

/** Thickness of the metal of a hollow section. */
export const wall = (preset: number, more: More = {}): KitParameterInput =>
	length('wall', 'Wall', preset, 0.5, 50, { help: 'Of the hollow section', ...more });
/** A wall that leaves some of a section hollow, however slim that is. */
export const wallWithin = (...sizes: string[]): string => `min(wall, 0.4 * min(${sizes.join(', ')}))`;
