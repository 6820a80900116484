import type { Kit } from '../../kit/schema.ts';
import type { PlacedValues } from '../../placement/place.ts';
import type { Quantity } from '../../units/quantity.ts';
import type { RulePlacement } from '../kitsOf.ts';
import { word, DECIMALS, type RowColumn } from './columns.ts';

/** What parameters of kits are called among the columns of rows, behind this. */
export const KIT_VALUE = 'kit_';
export const isKitValue = (column: string): boolean => column.startsWith(KIT_VALUE);
export const parameterOf = (column: string): string => column.slice(KIT_VALUE.length);

type Kits = readonly Pick<Kit, 'name' | 'parameters'>[];

/** The parameters of kits as columns; of kits that call one alike the first says what it measures. */
export function kitColumns(kits: Kits): Record<string, RowColumn> {
	const found: Record<string, RowColumn> = {};
	for (const { name, parameters } of kits)
		for (const p of parameters) {
			const meaning = `The value of “${p.label}” of the kit, as ${name} has it`;
			const label = `Kit: ${p.label}`;
			found[KIT_VALUE + p.name] ??=
				quantityOf(p) === undefined
					? word(label, meaning)
					: { label, meaning, quantity: quantityOf(p)!, total: 'none', decimals: DECIMALS[quantityOf(p)!] };
		}
	return found;
}

/** What a parameter measures; nothing of those in words. */
export function quantityOf({ quantity }: Kit['parameters'][number]): Quantity | undefined {
	return quantity === 'choice' || quantity === 'text' || quantity === 'material' || quantity === 'yesno'
		? undefined
		: quantity;
}

/** The value of a parameter by row of a placement: NaN where its kit has none of that name and quantity, or works it out by itself. */
export function figureOn({ kit, values }: RulePlacement, name: string, quantity: Quantity): (row: number) => number {
	const parameter = kit.parameters.find((p) => p.name === name && quantityOf(p) === quantity);
	if (!parameter || !values || ownFormula(parameter, values)) return () => NaN;
	const column = values.columns[name];
	return column ? (row) => column[row]! : () => values.alike[name] ?? NaN;
}

/** The same of a parameter in words; empty where there is none. */
export function wordOn({ kit, values }: RulePlacement, name: string): (row: number) => string {
	const parameter = kit.parameters.find((p) => p.name === name && quantityOf(p) === undefined);
	if (!parameter || !values || ownFormula(parameter, values)) return () => '';
	const column = values.columns[name];
	const wordOf = (value: number) =>
		parameter.quantity === 'choice' ? (parameter.choices[value] ?? '') : value === 0 ? 'no' : 'yes';
	if (column) return (row) => wordOf(column[row]!);
	const text = values.texts[name] ?? wordOf(values.alike[name] ?? 0);
	return () => text;
}

/** A formula of the kit's holds where nobody gives a value. */
const ownFormula = (parameter: Kit['parameters'][number], { given }: PlacedValues) =>
	'formula' in parameter && parameter.formula !== undefined && !given.has(parameter.name);
