import { acos, asin, atan, atan2, cos, hypot, pow, sin, tan } from '../../elementary/index.ts';
import { slackOf, snapped } from '../../same.ts';
import type { Quantity } from '../../units/quantity.ts';
import { ANGLE, dimensionInWords, fits, LENGTH, PLAIN, sameDimension, together, type Dimension } from './dimension.ts';
import { FormulaError, parseFormula, type Formula, type Operator } from './parse.ts';

/** Hosts are run in blocks of this many, so that what belongs to them stays in the cache. */
export const BLOCK = 256;

/** Values of a block of hosts. */
export type Column = Float64Array;

/** A formula made ready: `run` fills a column for the first `count` hosts of the block. */
export interface Term {
	readonly dimension: Dimension;
	/** The same for every host of a run. */
	readonly uniform: boolean;
	/** Texts that its values number, from 0. */
	readonly choices?: readonly string[];
	/** The column belongs to the term and is written anew at each run. */
	run(columns: readonly Column[], count: number): Column;
}

/** Something that a formula can name. */
export interface Named {
	/** Index of its column. */
	readonly slot: number;
	readonly dimension: Dimension;
	readonly uniform: boolean;
	readonly choices?: readonly string[];
}

/** What a formula can name where it stands. */
export interface Scope {
	/** A parameter, a value or a reading. */
	named(name: string): Named | undefined;
	/** A reading of steps, such as `length(rim)`; throws where the steps do not have it. */
	measured(measure: string, names: readonly string[]): Named | undefined;
	/** All names, for messages. */
	all(): readonly string[];
}

/** Measures of steps: `length(line)`, `area(part)`, `distance(point, point)`, `miss(crossing)`. */
export const MEASURES = ['length', 'area', 'distance', 'miss'] as const;
export type Measure = (typeof MEASURES)[number];

/** Units that may stand behind a number. */
export const UNITS: Readonly<Record<string, { readonly factor: number; readonly dimension: Dimension }>> = {
	mm: { factor: 1, dimension: LENGTH },
	cm: { factor: 10, dimension: LENGTH },
	m: { factor: 1000, dimension: LENGTH },
	in: { factor: 25.4, dimension: LENGTH },
	ft: { factor: 304.8, dimension: LENGTH },
	deg: { factor: Math.PI / 180, dimension: ANGLE },
	rad: { factor: 1, dimension: ANGLE }
};

export const CONSTANTS: Readonly<Record<string, number>> = { pi: Math.PI, yes: 1, no: 0 };

interface FunctionDefinition {
	readonly least: number;
	readonly most: number;
	/** Throws nothing: an undefined answer means that the arguments do not fit. */
	readonly dimension: (args: readonly Dimension[]) => Dimension | undefined;
	readonly of: (...args: number[]) => number;
	/** Instead of `of`, where what is the same within its tolerance must give the same. */
	readonly within?: (slack: Slack) => (...args: number[]) => number;
	readonly meaning: string;
}

type Slack = ReturnType<typeof slackOf>;

const same = (args: readonly Dimension[]) =>
	args.reduce<Dimension | undefined>((a, b) => a && together(a, b), args[0]!);
const angleIn = ([a]: readonly Dimension[]) => (sameDimension(a!, ANGLE) || a!.zero ? PLAIN : undefined);
const plainIn = (out: Dimension) => (args: readonly Dimension[]) =>
	args.every((a) => sameDimension(a, PLAIN)) ? out : undefined;

/** Pure functions that formulas know. */
export const FUNCTIONS: Readonly<Record<string, FunctionDefinition>> = {
	abs: { least: 1, most: 1, dimension: same, of: Math.abs, meaning: 'without its sign' },
	sign: {
		least: 1,
		most: 1,
		dimension: () => PLAIN,
		of: Math.sign,
		within: (slack) => (x) => (Math.abs(x!) <= slack(x!, 0) ? 0 : Math.sign(x!)),
		meaning: '-1, 0 or 1'
	},
	min: { least: 1, most: 20, dimension: same, of: Math.min, meaning: 'the least of several' },
	max: { least: 1, most: 20, dimension: same, of: Math.max, meaning: 'the greatest of several' },
	clamp: {
		least: 3,
		most: 3,
		dimension: same,
		of: (x, a, b) => Math.min(b!, Math.max(a!, x!)),
		meaning: 'clamp(value, least, greatest)'
	},
	round: {
		least: 1,
		most: 1,
		dimension: same,
		of: Math.round,
		within: (slack) => (x) => Math.round(x! + slack(x!, 0)),
		meaning: 'to the nearest whole number, or mm'
	},
	floor: {
		least: 1,
		most: 1,
		dimension: same,
		of: Math.floor,
		within: (slack) => (x) => Math.floor(x! + slack(x!, 0)),
		meaning: 'down to a whole number, or mm'
	},
	ceil: {
		least: 1,
		most: 1,
		dimension: same,
		of: Math.ceil,
		within: (slack) => (x) => Math.ceil(x! - slack(x!, 0)),
		meaning: 'up to a whole number, or mm'
	},
	mod: {
		least: 2,
		most: 2,
		dimension: same,
		of: remainder,
		within: remainderWithin,
		meaning: 'what is left over, never below 0'
	},
	sqrt: {
		least: 1,
		most: 1,
		dimension: ([a]) => ({ length: a!.length / 2, angle: a!.angle / 2, ...(a!.bare ? { bare: true } : {}) }),
		of: Math.sqrt,
		meaning: 'square root'
	},
	hypot: { least: 2, most: 3, dimension: same, of: hypot, meaning: 'root of the squares added up' },
	sin: { least: 1, most: 1, dimension: angleIn, of: sin, meaning: 'sine of an angle' },
	cos: { least: 1, most: 1, dimension: angleIn, of: cos, meaning: 'cosine of an angle' },
	tan: { least: 1, most: 1, dimension: angleIn, of: tan, meaning: 'tangent of an angle' },
	asin: { least: 1, most: 1, dimension: plainIn(ANGLE), of: asin, meaning: 'the angle with this sine' },
	acos: { least: 1, most: 1, dimension: plainIn(ANGLE), of: acos, meaning: 'the angle with this cosine' },
	atan: { least: 1, most: 1, dimension: plainIn(ANGLE), of: atan, meaning: 'the angle with this tangent' },
	atan2: { least: 2, most: 2, dimension: (args) => same(args) && ANGLE, of: atan2, meaning: 'atan2(rise, run)' }
};

function remainder(a: number, b: number): number {
	const r = a % b;
	return r < 0 ? r + Math.abs(b) : r;
}

/** What is left over; nothing, where a number is a multiple up to its tolerance. */
function remainderWithin(slack: Slack): (...args: number[]) => number {
	return (a, b) => remainder(snapped(a!, b!, slack(a!, b!)), b!);
}

/** Makes a formula ready that must be of a quantity. Throws a FormulaError where it does not fit. */
export function compileFormula(text: string, quantity: Quantity | 'yesno', scope: Scope): Term {
	const term = compileTerm(text, scope);
	if (term.choices)
		throw new FormulaError(
			`“${text}” is a choice; right would be a comparison such as ${text} == "${term.choices[0]}"`
		);
	const wanted = quantity === 'yesno' ? 'count' : quantity;
	if (fits(term.dimension, wanted)) return term;
	const unit = wanted === 'angle' ? ' (write 30 deg)' : '';
	throw new FormulaError(
		`“${text}” is ${dimensionInWords(term.dimension)}; wanted is ${quantity === 'yesno' ? 'a condition' : dimensionInWords(dimensionOfWanted(wanted))}${unit}`
	);
}

/** Makes a formula ready whose quantity is its own. Throws a FormulaError where it cannot be read. */
export const compileTerm = (text: string, scope: Scope): Term => compile(parseFormula(text), scope, text);

const dimensionOfWanted = (quantity: Quantity): Dimension => ({
	length: quantity === 'length' ? 1 : quantity === 'area' ? 2 : 0,
	angle: quantity === 'angle' ? 1 : 0
});

function compile(formula: Formula, scope: Scope, text: string): Term {
	const inner = (f: Formula) => compile(f, scope, text);
	switch (formula.kind) {
		case 'number':
			return constant(formula.value, { ...PLAIN, bare: true, ...(formula.value === 0 ? { zero: true } : {}) });
		case 'text':
			throw new FormulaError(`“${text}” holds the text "${formula.value}", which can only be compared with a choice`);
		case 'name':
			return nameTerm(formula.name, scope, text);
		case 'choice':
			return choiceTerm(formula.args.map(inner) as [Term, Term, Term], text);
		case 'call':
			return callTerm(formula, scope, text);
		case 'operator': {
			const chosen = textComparison(formula, scope, text);
			return chosen ?? operatorTerm(formula.operator, formula.args.map(inner), text);
		}
	}
}

function constant(value: number, dimension: Dimension): Term {
	const column = new Float64Array(BLOCK).fill(value);
	return { dimension, uniform: true, run: () => column };
}

function nameTerm(name: string, scope: Scope, text: string): Term {
	const named = scope.named(name);
	if (named) return slotTerm(named);
	const unit = Object.hasOwn(UNITS, name) ? UNITS[name] : undefined;
	if (unit) return constant(unit.factor, unit.dimension);
	if (Object.hasOwn(CONSTANTS, name)) return constant(CONSTANTS[name]!, { ...PLAIN, bare: true });
	throw new FormulaError(`there is no “${name}” in “${text}”; ${nearestWords(name, scope.all())}`);
}

const slotTerm = ({ slot, dimension, uniform, choices }: Named): Term => ({
	dimension,
	uniform,
	...(choices ? { choices } : {}),
	run: (columns) => columns[slot]!
});

/** The names that look most like one, for a message. */
export function nearestWords(name: string, all: readonly string[]): string {
	const close = all.filter((known) => known.toLowerCase().startsWith(name.slice(0, 2).toLowerCase()));
	const shown = (close.length ? close : all).slice(0, 12);
	return shown.length ? `known here: ${shown.join(', ')}` : 'nothing has a name here';
}

function choiceTerm([condition, yes, no]: [Term, Term, Term], text: string): Term {
	if (!fits(condition.dimension, 'count'))
		throw new FormulaError(
			`the condition in “${text}” is ${dimensionInWords(condition.dimension)}; right would be a comparison`
		);
	const dimension = together(yes.dimension, no.dimension);
	if (!dimension)
		throw new FormulaError(
			`“${text}” is ${dimensionInWords(yes.dimension)} in one case and ${dimensionInWords(no.dimension)} in the other`
		);
	const out = new Float64Array(BLOCK);
	return {
		dimension,
		uniform: condition.uniform && yes.uniform && no.uniform,
		run(columns, count) {
			const [c, a, b] = [condition.run(columns, count), yes.run(columns, count), no.run(columns, count)];
			for (let h = 0; h < count; h++) out[h] = c[h] !== 0 ? a[h]! : b[h]!;
			return out;
		}
	};
}

function callTerm(
	{ name, args }: { readonly name: string; readonly args: readonly Formula[] },
	scope: Scope,
	text: string
): Term {
	if ((MEASURES as readonly string[]).includes(name)) {
		const names = args.map((a) => {
			if (a.kind !== 'name') throw new FormulaError(`“${name}” in “${text}” takes names of steps`);
			return a.name;
		});
		const named = scope.measured(name, names);
		if (named) return slotTerm(named);
	}
	const definition = Object.hasOwn(FUNCTIONS, name) ? FUNCTIONS[name] : undefined;
	if (!definition)
		throw new FormulaError(
			`there is no function “${name}” in “${text}”; known: ${[...MEASURES, ...Object.keys(FUNCTIONS)].join(', ')}`
		);
	const { least, most, of } = definition;
	if (args.length < least || args.length > most)
		throw new FormulaError(
			`“${name}” in “${text}” takes ${least === most ? least : `${least} to ${most}`} values; given are ${args.length}`
		);
	const terms = args.map((a) => compile(a, scope, text));
	const dimension = definition.dimension(terms.map((t) => t.dimension));
	if (!dimension)
		throw new FormulaError(
			`“${name}” in “${text}” is given ${terms.map((t) => dimensionInWords(t.dimension)).join(' and ')}, which does not fit`
		);
	return mapped(
		terms,
		dimension,
		definition.within ? definition.within(slackOf(same(terms.map((t) => t.dimension)) ?? PLAIN)) : of
	);
}

/** `material == "oak"`: a choice against one of its texts. */
function textComparison(
	{ operator, args }: { readonly operator: Operator; readonly args: readonly Formula[] },
	scope: Scope,
	text: string
): Term | undefined {
	const at = args.findIndex((a) => a.kind === 'text');
	if (at < 0) return undefined;
	const { value } = args[at] as { value: string };
	if (operator !== 'equal' && operator !== 'unequal')
		throw new FormulaError(`"${value}" in “${text}” can only be compared by == or !=`);
	const other = compile(args[1 - at]!, scope, text);
	const index = other.choices?.indexOf(value) ?? -1;
	if (index < 0)
		throw new FormulaError(
			other.choices
				? `"${value}" in “${text}” is none of the choices ${other.choices.map((c) => `"${c}"`).join(', ')}`
				: `"${value}" in “${text}” is compared with something that is no choice`
		);
	return mapped([other], PLAIN, operator === 'equal' ? (x) => Number(x === index) : (x) => Number(x !== index));
}

/** Comparisons: numbers that are the same within the tolerance of what they measure are neither larger nor smaller. */
const COMPARISONS: Readonly<Partial<Record<Operator, (off: number, slack: number) => boolean>>> = {
	smaller: (off, slack) => off < -slack,
	smallerEq: (off, slack) => off <= slack,
	larger: (off, slack) => off > slack,
	largerEq: (off, slack) => off >= -slack,
	equal: (off, slack) => Math.abs(off) <= slack,
	unequal: (off, slack) => !(Math.abs(off) <= slack)
};

const BINARY: Readonly<Partial<Record<Operator, (a: number, b: number) => number>>> = {
	add: (a, b) => a + b,
	subtract: (a, b) => a - b,
	multiply: (a, b) => a * b,
	divide: (a, b) => a / b,
	and: (a, b) => Number(a !== 0 && b !== 0),
	or: (a, b) => Number(a !== 0 || b !== 0),
	pow: pow
};

function operatorTerm(operator: Operator, terms: readonly Term[], text: string): Term {
	const chosen = terms.find((t) => t.choices);
	if (chosen)
		throw new FormulaError(`a choice in “${text}” can only be compared with one of "${chosen.choices!.join('", "')}"`);
	const dimensions = terms.map((t) => t.dimension);
	const [a, b] = dimensions as [Dimension, Dimension];
	const bare = dimensions.every((d) => d.bare) ? { bare: true } : {};
	const clash = () =>
		new FormulaError(
			`${dimensionInWords(a)} and ${dimensionInWords(b)} do not go together in “${text}”${[a, b].some((d) => sameDimension(d, ANGLE)) ? '; an angle is written 30 deg' : ''}`
		);
	switch (operator) {
		case 'unaryMinus':
			return mapped(terms, a, (x) => -x);
		case 'unaryPlus':
			return terms[0]!;
		case 'not':
			return mapped(terms, PLAIN, (x) => Number(x === 0));
		case 'multiply':
			return mapped(terms, { length: a.length + b.length, angle: a.angle + b.angle, ...bare }, BINARY.multiply!);
		case 'divide':
			return mapped(terms, { length: a.length - b.length, angle: a.angle - b.angle, ...bare }, BINARY.divide!);
		case 'pow': {
			const power = terms[1]!;
			if (!sameDimension(b, PLAIN)) throw clash();
			if (sameDimension(a, PLAIN)) return mapped(terms, { ...PLAIN, ...bare }, pow);
			if (!b.bare)
				throw new FormulaError(`the power in “${text}” must be written as a number, since its unit hangs on it`);
			const p = power.run([], 1)[0]!;
			return mapped(terms, { length: a.length * p, angle: a.angle * p }, pow);
		}
		case 'and':
		case 'or':
			return mapped(terms, PLAIN, BINARY[operator]!);
		default: {
			const dimension = together(a, b);
			if (!dimension) throw clash();
			const compare = COMPARISONS[operator];
			const slack = slackOf(dimension);
			if (compare) return mapped(terms, PLAIN, (x, y) => Number(compare(x! - y!, slack(x!, y!))));
			return mapped(terms, dimension, operator === 'mod' ? remainderWithin(slack) : BINARY[operator]!);
		}
	}
}

/** A pure function of other terms, host by host. */
function mapped(terms: readonly Term[], dimension: Dimension, of: (...args: number[]) => number): Term {
	const out = new Float64Array(BLOCK);
	const uniform = terms.every((t) => t.uniform);
	const [first, second] = terms as [Term, Term?];
	return {
		dimension,
		uniform,
		run(columns, count) {
			if (terms.length === 1) {
				const a = first.run(columns, count);
				for (let h = 0; h < count; h++) out[h] = of(a[h]!);
			} else if (terms.length === 2) {
				const a = first.run(columns, count);
				const b = second!.run(columns, count);
				for (let h = 0; h < count; h++) out[h] = of(a[h]!, b[h]!);
			} else {
				const all = terms.map((t) => t.run(columns, count));
				for (let h = 0; h < count; h++) out[h] = of(...all.map((c) => c[h]!));
			}
			return out;
		}
	};
}
