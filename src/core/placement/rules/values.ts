import { FormulaError } from '../../kit/formula/parse.ts';
import type { KitParameter } from '../../kit/schema.ts';
import { stepOf } from '../fields/ease.ts';
import { randomColumn } from '../fields/evaluate.ts';
import { varies, type RuleValue, type VaryingValue } from './schema.ts';
import type { RuleScope } from './scope.ts';

/** What a parameter is given: the same for all hosts, or by host, as numbers (NaN where there is none) or as one of several words. */
export type Resolved =
	| { readonly kind: 'same'; readonly value: number | string }
	| { readonly kind: 'numbers'; readonly column: Float64Array }
	| { readonly kind: 'words'; readonly words: readonly string[]; readonly index: Uint16Array };

/** Whether a parameter is a text, or the id of a material. */
export const isText = ({ quantity }: KitParameter) => quantity === 'text' || quantity === 'material';

/**
 * A value of a rule on every host. Throws a FormulaError where it cannot be worked out, or is of a kind that the
 * parameter has not.
 */
export function resolveValue(value: RuleValue, parameter: KitParameter, scope: RuleScope): Resolved {
	if (!varies(value)) return { kind: 'same', value };
	const several = severalOf(value, scope);
	if (!several) {
		if (isText(parameter)) throw new FormulaError('it is a text, which follows a list, steps of a field or a choice');
		return { kind: 'numbers', column: numbersOf(value, parameter, scope) };
	}
	const { values, index } = several;
	if (isText(parameter)) return { kind: 'words', words: values.map(String), index };
	return { kind: 'numbers', column: Float64Array.from(index, (k) => Number(values[k])) };
}

function numbersOf(value: VaryingValue, parameter: KitParameter, scope: RuleScope): Float64Array {
	if (value.kind === 'formula') {
		const { quantity } = parameter;
		return scope.formula(
			value.formula,
			quantity === 'choice' || quantity === 'text' || quantity === 'material' ? 'count' : quantity
		);
	}
	const { field, from, to } = value as Extract<VaryingValue, { kind: 'field' }>;
	const whole = parameter.quantity === 'count' || parameter.quantity === 'choice' || parameter.quantity === 'yesno';
	return scope.field(field).shares.map((share) => {
		const number = from + share * (to - from);
		return whole ? Math.round(number) : number;
	});
}

/** Which of several values each host has, where a value names several. */
function severalOf(
	value: VaryingValue,
	scope: RuleScope
): { readonly values: readonly (number | string)[]; readonly index: Uint16Array } | undefined {
	switch (value.kind) {
		case 'formula':
		case 'field':
			return undefined;
		case 'steps': {
			const { values } = value;
			return { values, index: Uint16Array.from(scope.field(value.field).shares, (s) => stepOf(s, values.length)) };
		}
		case 'list': {
			const { values } = value;
			return { values, index: Uint16Array.from(scope.hosts.lineOf(value.along), (n) => (n - 1) % values.length) };
		}
		case 'choice': {
			const total = value.values.reduce((sum, { weight }) => sum + weight, 0);
			const index = Uint16Array.from(randomColumn(scope, value.seed), (chance) => {
				let left = chance * total;
				const k = value.values.findIndex(({ weight }) => (left -= weight) < 0);
				return k < 0 ? value.values.length - 1 : k;
			});
			return { values: value.values.map((v) => v.value), index };
		}
	}
}
