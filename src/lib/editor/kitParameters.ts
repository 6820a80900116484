import type { Kit, KitParameter } from '../../core/kit/schema.ts';
import { freeWord } from './kitSteps.ts';

/** Kinds of parameters, in the order of the list that they are chosen from. */
export const PARAMETER_KINDS = [
	['length', 'Length'],
	['angle', 'Angle'],
	['ratio', 'Ratio'],
	['count', 'Count'],
	['yesno', 'Yes or no'],
	['choice', 'Choice'],
	['material', 'Material'],
	['text', 'Text']
] as const satisfies readonly (readonly [KitParameter['quantity'], string])[];

/** A new parameter with a name that nothing in the kit has. */
export function newParameter(kit: Kit, quantity: KitParameter['quantity'], material: string): KitParameter {
	const name = freeWord(kit, quantity);
	const described = { name, label: PARAMETER_KINDS.find(([q]) => q === quantity)![1], group: '', help: '' };
	const numeric = (preset: number, least: number, greatest: number) => ({
		...described,
		default: preset,
		least,
		greatest,
		scope: 'kit' as const
	});
	switch (quantity) {
		case 'length':
			return { quantity, ...numeric(100, 0, 1000) };
		case 'angle':
			return { quantity, ...numeric(0, -Math.PI / 2, Math.PI / 2) };
		case 'ratio':
			return { quantity, ...numeric(0.5, 0, 1) };
		case 'count':
			return { quantity, ...numeric(4, 1, 100) };
		case 'yesno':
			return { quantity, ...described, default: 1, least: 0, greatest: 1, scope: 'kit' };
		case 'choice':
			return { quantity, ...described, choices: ['one', 'two'], default: 0, scope: 'kit' };
		case 'material':
			return { quantity, ...described, default: material };
		case 'text':
			return { quantity, ...described, default: '' };
	}
}
