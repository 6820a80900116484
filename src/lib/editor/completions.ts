import type { Completion } from '@codemirror/autocomplete';
import { CONSTANTS, FUNCTIONS, MEASURES, UNITS } from '../../core/kit/formula/compile.ts';
import { readingsOf } from '../../core/kit/kitNumbers.ts';
import type { Kit, Step } from '../../core/kit/schema.ts';
import { BUILT_IN } from '../../core/placement/rules/scope.ts';
import { READINGS_OF_SET } from '../../core/placement/rules/ruleHosts.ts';
import type { RuleSet } from '../../core/placement/rules/schema.ts';
import type { Project } from '../../core/project/schema.ts';

const MEASURE_HELP = {
	length: 'along a line',
	area: 'of a sheet or a closed line',
	distance: 'between two points',
	miss: 'of a crossing of two lines'
} as const;
/** Numbers that pieces bring along. */
const PIECE_NUMBERS: Readonly<Record<string, readonly string[]>> = {
	repeat: ['index', 'count', 'share'],
	each: ['index', 'count'],
	divide: ['i', 'j', 'columns', 'rows']
};

/** What a formula of a rule or a field can name: the project's numbers and fields, readings of its hosts, functions and units. */
export function ruleCompletions(
	{ numbers, fields }: Pick<Project, 'numbers' | 'fields'>,
	host: RuleSet['host']
): Completion[] {
	const named = (label: string, detail: string, boost: number): Completion => ({
		label,
		detail,
		boost,
		type: 'variable'
	});
	return [
		...numbers.map((n) => named(n.id, n.name, 5)),
		...fields.map((f) => named(f.id, f.name, 5)),
		...Object.entries(BUILT_IN).map(([name, { meaning }]) => named(name, meaning, 3)),
		...Object.entries(READINGS_OF_SET[host]).map(([name, { label }]) => named(name, label, 2)),
		...commonCompletions()
	];
}

const commonCompletions = (): Completion[] => [
	...Object.entries(FUNCTIONS).map(([name, { meaning }]) => ({
		label: name,
		detail: meaning,
		boost: 0,
		type: 'function',
		apply: `${name}(`
	})),
	...Object.keys(UNITS).map((name) => ({ label: name, detail: 'unit', boost: -1, type: 'keyword' })),
	...Object.keys(CONSTANTS).map((name) => ({ label: name, detail: 'number', boost: -1, type: 'constant' }))
];

/** What a formula can name: parameters, numbers, readings of the host, measures of steps, functions and units. */
export function completionsFor(kit: Kit, steps: readonly Step[], on: string | undefined): Completion[] {
	const pieces = steps.find((s) => s.name === on);
	const named = (label: string, detail: string, boost: number, type = 'variable'): Completion => ({
		label,
		detail,
		boost,
		type
	});
	return [
		...kit.parameters
			.filter((p) => p.quantity !== 'text' && p.quantity !== 'material')
			.map((p) => named(p.name, p.label, 5)),
		...steps.filter((s) => s.kind === 'value').map((s) => named(s.name, 'number', 4)),
		...(pieces ? (PIECE_NUMBERS[pieces.kind] ?? []).map((name) => named(name, `of ${pieces.name}`, 4)) : []),
		...Object.entries(readingsOf(kit.host.kind)).map(([name, { label }]) => named(name, label, 2)),
		...steps.filter((s) => s.kind !== 'value' && s.on === on).map((s) => named(s.name, s.kind, 0, 'text')),
		...MEASURES.map((name) => ({ ...named(name, MEASURE_HELP[name], 1, 'function'), apply: `${name}(` })),
		...commonCompletions()
	];
}
