import { CONSTANTS, FUNCTIONS, MEASURES, UNITS } from './formula/compile.ts';
import type { ReadingDefinition } from '../readings/definition.ts';
import { COINCIDENT_MM, SAME_ANGLE, SAME_RATIO } from '../tolerances.ts';
import { readingsOf } from './kitNumbers.ts';
import type { Field, Fields } from './fields.ts';
import type { StepGroup } from './stepKind.ts';
import { STEP_KIND_NAMES, STEP_KINDS } from './stepKinds.ts';

const GROUPS: Readonly<Record<StepGroup, string>> = {
	points: 'Points',
	lines: 'Lines',
	numbers: 'Numbers',
	pieces: 'Pieces and moulds',
	bodies: 'Bodies',
	parts: 'Parts'
};

/** The steps and formulas of the kit language as Markdown, for `docs/kits.md`. */
export function writeLanguageReference(): string {
	const lines: string[] = [];
	for (const [group, label] of Object.entries(GROUPS)) {
		lines.push(`### ${label}`, '');
		for (const kind of STEP_KIND_NAMES.filter((k) => STEP_KINDS[k].group === group)) {
			const { label: name, help, fields } = STEP_KINDS[kind];
			lines.push(`**\`${kind}\`** ${name}. ${help}.`, '');
			const own = Object.entries(fields as Fields).filter(([field]) => !COMMON.includes(field) || kind === 'kit');
			if (own.length) lines.push(...own.map(([field, definition]) => `- \`${field}\` ${inWords(definition)}`), '');
		}
	}
	lines.push('### Formulas', '', ...OPERATORS, '');
	lines.push(
		`Units: ${Object.keys(UNITS).join(', ')}. Constants: ${Object.keys(CONSTANTS).join(', ')}. Measures of steps: ${MEASURES.map((m) => `\`${m}\``).join(', ')}.`,
		''
	);
	lines.push(...Object.entries(FUNCTIONS).map(([name, { meaning }]) => `- \`${name}\` ${meaning}`), '');
	lines.push(
		'### Readings of hosts',
		'',
		'Names that formulas can use of what a kit stands on, and `on` pieces of what these are. In mm, mm² and radians unless a unit is written; curvatures are 1/mm and 1/mm². A formula fails on a host that does not have the reading, such as the fourth edge of a triangle.',
		''
	);
	for (const [kinds, readings] of READINGS)
		lines.push(
			`**${kinds}**`,
			'',
			...Object.entries(readings).map(
				([name, { quantity, meaning }]) =>
					`- \`${name}\` (${quantity}) ${meaning.replace(/^./, (c) => c.toLowerCase())}`
			),
			''
		);
	return lines.join('\n');
}

/** What stands between names and numbers, loosest last. */
const OPERATORS = [
	'From the tightest to the loosest: `^` (the power of a length must be a number), `-x`, `not x`, `*` `/` `%` (what is left over, as `mod`), `+` `-`, `<` `<=` `>` `>=` `==` `!=`, `and`, `or`, `condition ? this : that`. Brackets as usual; a condition is 1 where it holds and 0 elsewhere. A choice is compared with one of its texts: `finish == "oak"`.',
	'',
	`Comparisons, and \`floor\`, \`ceil\`, \`round\`, \`mod\` and \`sign\`, go by the tolerance of what is compared, so that like hosts are treated alike whatever rounding made of their last digits: lengths within ${COINCIDENT_MM} mm are the same, areas and volumes as far as a square or a cube whose sides are off by that, angles within ${SAME_ANGLE} rad, plain numbers within ${SAME_RATIO} of the larger one (or of 1). \`width >= 3 m\` holds on a cell of 2999.995 mm, \`width > 3 m\` on none below 3000.01 mm.`
];

const READINGS: readonly (readonly [string, Readonly<Record<string, ReadingDefinition>>])[] = [
	['Cells, and cells with depth', readingsOf('cell')],
	['Edges', readingsOf('edge')],
	['Nodes', readingsOf('node')],
	['Paths', readingsOf('path')],
	['Bays', readingsOf('bay')]
];

/** What every part has is told once. */
const COMMON = ['role', 'material', 'scheduled', 'label'];

function inWords({ label, help, form, optional, schema }: Field): string {
	const preset = schema.safeParse(undefined);
	const otherwise = optional
		? '; may be left out'
		: preset.success && preset.data !== undefined && typeof preset.data !== 'object'
			? `; ${JSON.stringify(preset.data)} when left out`
			: '';
	const kind = {
		value: 'quantity' in form ? form.quantity : '',
		ref: 'of' in form ? `${form.of.join(' or ')}${'many' in form && form.many ? ', several' : ''}` : '',
		option: 'options' in form ? Object.keys(form.options).join(', ') : '',
		whole: 'whole number',
		flag: 'yes or no',
		text: 'text',
		points: 'pairs of mm',
		material: 'material',
		kit: 'kit',
		module: 'mesh',
		values: 'values by parameter'
	}[form.type];
	return `${label.toLowerCase()} (${kind}${otherwise})${help ? `: ${help.replace(/^./, (c) => c.toLowerCase())}` : ''}`;
}
