import {
	create,
	parseDependencies,
	type ConditionalNode,
	type ConstantNode,
	type FunctionNode,
	type MathNode,
	type OperatorNode,
	type ParenthesisNode,
	type SymbolNode
} from 'mathjs/number';
import { messageOf, ZygasterError } from '../../errors.ts';

/** What a formula may hold, and nothing else. */
export type Formula =
	| { readonly kind: 'number'; readonly value: number }
	| { readonly kind: 'text'; readonly value: string }
	| { readonly kind: 'name'; readonly name: string }
	| { readonly kind: 'operator'; readonly operator: Operator; readonly args: readonly Formula[] }
	| { readonly kind: 'call'; readonly name: string; readonly args: readonly Formula[] }
	| { readonly kind: 'choice'; readonly args: readonly [Formula, Formula, Formula] };

export type Operator =
	| 'add'
	| 'subtract'
	| 'multiply'
	| 'divide'
	| 'pow'
	| 'mod'
	| 'unaryMinus'
	| 'unaryPlus'
	| 'smaller'
	| 'smallerEq'
	| 'larger'
	| 'largerEq'
	| 'equal'
	| 'unequal'
	| 'and'
	| 'or'
	| 'not';

const OPERATORS: ReadonlySet<string> = new Set<Operator>([
	'add',
	'subtract',
	'multiply',
	'divide',
	'pow',
	'mod',
	'unaryMinus',
	'unaryPlus',
	'smaller',
	'smallerEq',
	'larger',
	'largerEq',
	'equal',
	'unequal',
	'and',
	'or',
	'not'
]);

/** The package's parser alone: nothing of it is ever evaluated. */
let parser: ReturnType<typeof create>['parse'] | undefined;
/** Made when the first formula comes: that takes a tenth of a second. */
const parse = (text: string): MathNode => (parser ??= create(parseDependencies!).parse)(text);

/** Formulas are short and come back with every run. */
const known = new Map<string, Formula>();
const MOST_KNOWN = 10_000;

/** A fault in a formula; `at` counts characters from 0 where it is known. */
export class FormulaError extends ZygasterError {
	readonly at: number | undefined;
	constructor(message: string, at?: number) {
		super('formula', message);
		this.at = at;
	}
}

/** Reads a formula in ordinary notation. Throws a FormulaError that says where it cannot be read. */
export function parseFormula(text: string): Formula {
	const there = known.get(text);
	if (there) return there;
	let node: MathNode;
	try {
		node = parse(text);
	} catch (cause) {
		const at = /\(char (\d+)\)/.exec(messageOf(cause))?.[1];
		const what = messageOf(cause)
			.replace(/\s*\(char \d+\)/, '')
			.replace(/^./, (c) => c.toLowerCase());
		throw new FormulaError(
			`“${text}” cannot be read${at ? ` at character ${at}` : ''}: ${what}`,
			at ? Number(at) - 1 : undefined
		);
	}
	const formula = restrict(node, text);
	if (known.size >= MOST_KNOWN) known.clear();
	known.set(text, formula);
	return formula;
}

function restrict(node: MathNode, text: string): Formula {
	const inner = (n: MathNode) => restrict(n, text);
	switch (node.type) {
		case 'ParenthesisNode':
			return inner((node as ParenthesisNode).content);
		case 'ConstantNode': {
			const value: unknown = (node as ConstantNode).value;
			if (typeof value === 'number') return { kind: 'number', value };
			if (typeof value === 'string') return { kind: 'text', value };
			if (typeof value === 'boolean') return { kind: 'number', value: value ? 1 : 0 };
			break;
		}
		case 'SymbolNode':
			return { kind: 'name', name: (node as SymbolNode).name };
		case 'OperatorNode': {
			const { fn, args } = node as OperatorNode;
			if (OPERATORS.has(fn)) return { kind: 'operator', operator: fn as Operator, args: args.map(inner) };
			break;
		}
		case 'RelationalNode':
			throw new FormulaError(`“${text}” compares three things at once; right would be two comparisons joined by “and”`);
		case 'ConditionalNode': {
			const { condition, trueExpr, falseExpr } = node as ConditionalNode;
			return { kind: 'choice', args: [inner(condition), inner(trueExpr), inner(falseExpr)] };
		}
		case 'FunctionNode': {
			const { fn, args } = node as unknown as { fn: { name?: string }; args: FunctionNode['args'] };
			if (typeof fn.name === 'string') return { kind: 'call', name: fn.name, args: args.map(inner) };
			break;
		}
		case 'AssignmentNode':
			throw new FormulaError(`“${text}” holds a single “=”; right is “==” to compare`);
	}
	throw new FormulaError(`“${text}” holds something that formulas here do not know: “${node.toString()}”`);
}

/** Every name that a formula mentions, units and constants with it. */
export function namesIn(formula: Formula): Set<string> {
	const names = new Set<string>();
	const visit = (f: Formula): void => {
		if (f.kind === 'name') names.add(f.name);
		if ('args' in f) f.args.forEach(visit);
	};
	visit(formula);
	return names;
}

/** A formula with a name put in another's place wherever it stands for itself. */
export function renameIn(text: string, from: string, to: string): string {
	return text.replace(/"[^"]*"|[A-Za-z_][A-Za-z0-9_]*/g, (word) => (word === from ? to : word));
}
