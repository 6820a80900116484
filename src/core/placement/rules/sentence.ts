import { group, printFull } from '../../units/print.ts';
import type { LengthUnit, Quantity } from '../../units/quantity.ts';
import type { Field } from '../fields/schema.ts';
import { READINGS_OF_SET } from './ruleHosts.ts';
import type { Condition, Rule, RuleSet } from './schema.ts';

/** A stretch of a sentence; what was chosen stands out. */
export interface Words {
	readonly text: string;
	readonly strong?: boolean;
}

/** What conditions name, as people call it. */
export interface Names {
	readonly units: LengthUnit;
	readonly host: RuleSet['host'];
	readonly zones: readonly { readonly id: string; readonly name: string }[];
	readonly paths: readonly { readonly id: string; readonly name: string }[];
	readonly fields: readonly Pick<Field, 'id' | 'name' | 'source'>[];
	readonly rules: readonly Pick<Rule, 'id' | 'name' | 'where'>[];
	/** Names of faces by their addresses. */
	readonly faces: ReadonlyMap<string, string>;
}

const plain = (text: string): Words => ({ text });
const strong = (text: string): Words => ({ text, strong: true });
const ORDINALS: Readonly<Record<number, string>> = { 1: 'st', 2: 'nd', 3: 'rd' };

/** 1st, 2nd, 3rd, 4th, ... */
export function ordinal(n: number): string {
	const teens = n % 100 > 10 && n % 100 < 14;
	return `${group(n, 0)}${teens ? 'th' : (ORDINALS[n % 10] ?? 'th')}`;
}

/** Where a rule holds, as a sentence. */
export function whereInWords(where: readonly Condition[], names: Names): Words[] {
	if (where.length === 0) return [plain('all others')];
	return where.flatMap((condition, k) => [...(k > 0 ? [plain(', ')] : []), ...conditionInWords(condition, names)]);
}

/** The sentence as plain text. */
export const plainWords = (words: readonly Words[]): string => words.map((w) => w.text).join('');

function conditionInWords(condition: Condition, names: Names): Words[] {
	const named = (list: readonly { readonly id: string; readonly name?: string | undefined }[], id: string) =>
		list.find((item) => item.id === id)?.name ?? id;
	switch (condition.kind) {
		case 'zone':
			return [plain('in zone '), strong(named(names.zones, condition.zone))];
		case 'face':
			return [plain('on '), strong(condition.faces.map((f) => names.faces.get(f) ?? f).join(', '))];
		case 'role':
			return [strong(condition.role)];
		case 'border': {
			const { state, within } = condition;
			if (state === 'face' || state === 'earlier') {
				const where = strong(state === 'face' ? 'another face' : 'an earlier face');
				return [plain(within > 0 ? `within ${within} ${within === 1 ? 'cell' : 'cells'} of ` : 'beside '), where];
			}
			const near = within > 0 ? ` within ${within} ${within === 1 ? 'cell' : 'cells'} of` : '';
			if (state === 'whole') return [strong('whole')];
			if (state === 'cut')
				return within > 0 ? [plain(`${near.trim()} a `), strong('cut'), plain(' cell')] : [strong('cut')];
			return within > 0
				? [plain(`${near.trim()} `), strong(state === 'border' ? 'the border' : 'an opening')]
				: state === 'border'
					? [plain('at the '), strong('border')]
					: [plain('beside an '), strong('opening')];
		}
		case 'lines': {
			const { of, from, to, every } = condition;
			const what = names.host === 'path' ? 'line' : of;
			if (every > 1) {
				const which = every === 2 ? (from % 2 === 1 ? 'odd' : 'even') : `every ${ordinal(every)}`;
				const rest =
					every === 2 && from <= 2 && to === undefined
						? ''
						: every > 2 && from === 1 && to === undefined
							? ''
							: ` from ${from}${to === undefined ? '' : ` to ${to}`}`;
				return every === 2 ? [strong(`${which} ${what}s`), plain(rest)] : [strong(`${which} ${what}`), plain(rest)];
			}
			if (to === from) return [plain(`${what} `), strong(String(from))];
			return [plain(`${what}s `), strong(to === undefined ? `from ${from}` : `${from} to ${to}`)];
		}
		case 'checker':
			return [strong('checker'), plain(condition.odd ? ', the other half' : '')];
		case 'reading': {
			const definition = readingOf(condition.reading, names.host);
			return between(definition.label.toLowerCase(), definition.quantity, definition.kinds, condition, names.units);
		}
		case 'rank':
			return [
				plain('the '),
				strong(`${group(condition.count, 0)} ${condition.most === 'least' ? 'least' : 'greatest'}`),
				plain(` by ${readingOf(condition.reading, names.host).label.toLowerCase()}`)
			];
		case 'share':
			return [
				strong(printFull(condition.share, 'ratio', names.units)),
				plain(
					condition.clump > 0
						? ` at random, in clumps of ${printFull(condition.clump, 'length', names.units)}`
						: ' at random'
				)
			];
		case 'beside': {
			const k = names.rules.findIndex((r) => r.id === condition.rule);
			const rule = names.rules[k];
			const what = rule ? (rule.name ?? `rule ${k + 1}`) : condition.rule;
			return [plain(condition.within === 1 ? 'beside ' : `within ${condition.within} of `), strong(what)];
		}
		case 'field': {
			const field = names.fields.find((f) => f.id === condition.field);
			return between(
				field?.name ?? condition.field,
				field ? quantityOfField(field, names.host) : 'ratio',
				undefined,
				condition,
				names.units
			);
		}
		case 'path':
			return [plain('on '), strong(condition.paths.map((id) => named(names.paths, id)).join(', '))];
		case 'formula':
			return [strong(condition.formula)];
		case 'any':
			return condition.of.flatMap((c, k) => [...(k > 0 ? [plain(' or ')] : []), ...conditionInWords(c, names)]);
		case 'not':
			return [plain('not '), ...conditionInWords(condition.of, names)];
	}
}

const readingOf = (name: string, host: RuleSet['host']) =>
	READINGS_OF_SET[host][name] ?? { label: name, quantity: 'count' as const, meaning: '' };

/** What a field's values measure; formulas are plain numbers as far as this can tell. */
export function quantityOfField({ source }: Pick<Field, 'source'>, host: RuleSet['host']): Quantity {
	switch (source.kind) {
		case 'distance':
		case 'height':
		case 'along':
			return 'length';
		case 'direction':
			return 'angle';
		case 'reading':
			return readingOf(source.reading, host).quantity;
		default:
			// Pictures, chance and noise go from 0 to 1.
			return 'ratio';
	}
}

function between(
	label: string,
	quantity: Quantity,
	kinds: readonly string[] | undefined,
	{ from, to }: { readonly from?: number | undefined; readonly to?: number | undefined },
	units: LengthUnit
): Words[] {
	const print = (value: number) => kinds?.[value] ?? printFull(value, quantity, units);
	const start = plain(`${label} `);
	if (from !== undefined && to !== undefined)
		return [start, strong(from === to ? print(from) : `${print(from)} to ${print(to)}`)];
	return [start, strong(from === undefined ? `up to ${print(to!)}` : `from ${print(from)}`)];
}
