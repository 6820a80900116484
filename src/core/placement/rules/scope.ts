import { FormulaError } from '../../kit/formula/parse.ts';
import { BLOCK, compileFormula, compileTerm, type Named, type Scope, type Term } from '../../kit/formula/compile.ts';
import { dimensionOf, LENGTH, PLAIN, type Dimension } from '../../kit/formula/dimension.ts';
import type { LevelHeight } from '../../settingout/directions.ts';
import type { LaidOpening } from '../../tiling/openings/layOpening.ts';
import type { Quantity } from '../../units/quantity.ts';
import type { Field } from '../fields/schema.ts';
import { fieldColumn, type FieldColumn } from '../fields/evaluate.ts';
import type { FieldHosts } from '../fields/facePoints.ts';
import { READINGS_OF_SET, type RuleHosts } from './ruleHosts.ts';
import type { SharedNumber } from './schema.ts';

/** What formulas of rules and fields can name beside readings. */
export interface RuleWorld {
	/** Address of the face, by which random choices of two faces differ. */
	readonly key: string;
	readonly numbers: readonly SharedNumber[];
	readonly fields: readonly Field[];
	readonly levels: readonly LevelHeight[];
	/** Where the openings of the face lie flat. */
	readonly openings: readonly LaidOpening[];
}

/** Names of the project that every formula of a rule knows. */
export const BUILT_IN: Readonly<Record<string, { readonly dimension: Dimension; readonly meaning: string }>> = {
	storey: { dimension: LENGTH, meaning: 'Height of the storey that the host is in, from level to level' },
	level: { dimension: PLAIN, meaning: 'Number of that storey, counted from 1; 0 below the lowest level' },
	module: { dimension: LENGTH, meaning: 'Mean width of the cells of the face' }
};

/** Hosts with everything that can be said of them by name. Fields are worked out when they are asked for, once. */
export class RuleScope<Hosts extends FieldHosts = RuleHosts> implements Scope {
	readonly hosts: Hosts;
	readonly world: RuleWorld;
	/** Columns in the order of their slots. */
	private readonly columns: Float64Array[] = [];
	private readonly slots = new Map<string, Named>();
	private readonly fields = new Map<string, FieldColumn>();
	private readonly underWay: string[] = [];

	constructor(hosts: Hosts, world: RuleWorld) {
		this.hosts = hosts;
		this.world = world;
	}

	named(name: string): Named | undefined {
		const known = this.slots.get(name);
		if (known) return known;
		const found = this.find(name);
		if (!found) return undefined;
		const named = { slot: this.columns.push(found.values) - 1, dimension: found.dimension, uniform: false };
		this.slots.set(name, named);
		return named;
	}

	measured(): undefined {
		return undefined;
	}

	all(): readonly string[] {
		const { numbers, fields } = this.world;
		return [
			...numbers.map((n) => n.id),
			...fields.map((f) => f.id),
			...Object.keys(BUILT_IN),
			...Object.keys(READINGS_OF_SET[this.hosts.kind])
		];
	}

	/** A formula's value on every host. Throws a FormulaError where it cannot be read or its units do not fit. */
	formula(text: string, quantity: Quantity | 'yesno'): Float64Array {
		return this.run(compileFormula(text, quantity, this));
	}

	/** The same with the dimension that it has. */
	term(text: string): { readonly values: Float64Array; readonly dimension: Dimension } {
		const term = compileTerm(text, this);
		return { values: this.run(term), dimension: term.dimension };
	}

	/** A field on every host. Throws a FormulaError where there is none, or where it hangs on itself. */
	field(id: string): FieldColumn {
		const known = this.fields.get(id);
		if (known) return known;
		const field = this.world.fields.find((f) => f.id === id);
		if (!field)
			throw new FormulaError(
				`there is no field “${id}”; known: ${this.world.fields.map((f) => f.id).join(', ') || 'none'}`
			);
		if (this.underWay.includes(id))
			throw new FormulaError(`the field “${field.name}” hangs on itself: ${[...this.underWay, id].join(' → ')}`);
		this.underWay.push(id);
		try {
			const made = fieldColumn(field, this);
			this.fields.set(id, made);
			return made;
		} finally {
			this.underWay.pop();
		}
	}

	private run(term: Term): Float64Array {
		const out = new Float64Array(this.hosts.count);
		for (let from = 0; from < out.length; from += BLOCK) {
			const count = Math.min(BLOCK, out.length - from);
			const block = this.columns.map((c) => c.subarray(from, from + count));
			out.set(term.run(block, count).subarray(0, count), from);
		}
		return out;
	}

	private find(name: string): { readonly values: Float64Array; readonly dimension: Dimension } | undefined {
		const { count, kind } = this.hosts;
		const number = this.world.numbers.find((n) => n.id === name);
		if (number) return { values: new Float64Array(count).fill(number.value), dimension: dimensionOf(number.quantity) };
		if (this.world.fields.some((f) => f.id === name)) return this.field(name);
		if (Object.hasOwn(BUILT_IN, name)) return { values: this.builtIn(name), dimension: BUILT_IN[name]!.dimension };
		const values = this.hosts.reading(name);
		return values && { values, dimension: dimensionOf(READINGS_OF_SET[kind][name]!.quantity) };
	}

	private builtIn(name: string): Float64Array {
		const { hosts } = this;
		if (name === 'module') {
			if (!hosts.onCells) throw new FormulaError('“module” is known once the face has cells, which this makes first');
			return new Float64Array(hosts.count).fill(meanOf(hosts.onCells.face.readings.columns.width));
		}
		const heights = this.world.levels.map((l) => l.height).sort((a, b) => a - b);
		return Float64Array.from({ length: hosts.count }, (_, h) => {
			const z = hosts.centres[h * 3 + 2]!;
			const below = heights.filter((height) => height <= z).length;
			if (name === 'level') return below;
			return below > 0 && below < heights.length ? heights[below]! - heights[below - 1]! : NaN;
		});
	}
}

/** The mean of some numbers; none of none. */
const meanOf = (values: Float64Array) => values.reduce((a, b) => a + b, 0) / values.length;
