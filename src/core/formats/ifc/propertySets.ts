import { stepReal, stepText, type Instance } from '../step/stepText.ts';
import type { GlobalIds } from './globalId.ts';
import type { IfcWriter } from './ifcWriter.ts';

const [MM2_PER_M2, MM3_PER_M3] = [1e6, 1e9];

/** What values of properties may be here, with what the file's unit is of ours. */
const MEASURES = { LENGTHMEASURE: 1, AREAMEASURE: 1 / MM2_PER_M2, PLANEANGLEMEASURE: 1, REAL: 1, INTEGER: 1 } as const;
export type Measure = keyof typeof MEASURES;

/** A quantity: what it is of, its name by the standard, and its figure in mm, mm2, mm3 or kg. */
export type Quantity = readonly [kind: keyof typeof QUANTITY_UNITS, name: string, value: number];
const QUANTITY_UNITS = { LENGTH: 1, AREA: 1 / MM2_PER_M2, VOLUME: 1 / MM3_PER_M3, WEIGHT: 1 } as const;

/** Sets of properties and quantities of things. */
export class PropertySets {
	private readonly step: IfcWriter;
	/** Properties that stand once, whoever has them. */
	private readonly known = new Map<string, Map<string, Instance>>();

	constructor(step: IfcWriter) {
		this.step = step;
	}

	/** Gives a thing a set of properties; the ids of the set and of its relation are the parts `part` and `part + 1` of `ids`. */
	properties(ids: GlobalIds, part: number, name: string, of: Instance, properties: readonly Instance[]): void {
		const { step } = this;
		const set = step.root('IFCPROPERTYSET', ids, part, stepText(name), '$', properties);
		step.root('IFCRELDEFINESBYPROPERTIES', ids, part + 1, '$', '$', [of], set);
	}

	/** Gives a thing a set of those quantities that are more than nothing. */
	quantities(ids: GlobalIds, part: number, name: string, of: Instance, quantities: readonly Quantity[]): void {
		const { step } = this;
		const values: Instance[] = [];
		for (const [kind, label, value] of quantities)
			if (value > 0)
				values.push(
					step.add(`IFCQUANTITY${kind}`, `'${label}'`, '$', '$', stepReal(value * QUANTITY_UNITS[kind]), '$')
				);
		if (values.length === 0) return;
		const set = step.root('IFCELEMENTQUANTITY', ids, part, `'${name}'`, '$', '$', values);
		step.root('IFCRELDEFINESBYPROPERTIES', ids, part + 1, '$', '$', [of], set);
	}

	/** A property with a value that many have, which is written once. */
	shared(name: string, value: string, type: 'LABEL' | 'IDENTIFIER' | 'INTEGER' | 'BOOLEAN' = 'LABEL'): Instance {
		const known = this.known.get(name) ?? new Map<string, Instance>();
		this.known.set(name, known);
		const there = known.get(value);
		if (there) return there;
		const made = this.own(name, value, type);
		known.set(value, made);
		return made;
	}

	/** A property whose value no other thing has. */
	own(name: string, value: string, type: 'LABEL' | 'IDENTIFIER' | 'INTEGER' | 'BOOLEAN' = 'LABEL'): Instance {
		const text = type === 'LABEL' || type === 'IDENTIFIER' ? stepText(value) : value;
		return this.step.add('IFCPROPERTYSINGLEVALUE', stepText(name), '$', `IFC${type}(${text})`, '$');
	}

	/** A property that was measured: mm, mm2, radians or a plain number. */
	measured(name: string, value: number, measure: Measure): Instance {
		const text = measure === 'INTEGER' ? String(Math.round(value)) : stepReal(value * MEASURES[measure]);
		return this.step.add('IFCPROPERTYSINGLEVALUE', stepText(name), '$', `IFC${measure}(${text})`, '$');
	}

	/** What the standard asks to be said of what is outside, under the mark that it goes by. */
	common(reference: string): Instance[] {
		return [this.shared('Reference', reference, 'IDENTIFIER'), this.shared('IsExternal', '.T.', 'BOOLEAN')];
	}
}
