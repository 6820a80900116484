import { CONSTANTS, FUNCTIONS, MEASURES, UNITS } from './formula/compile.ts';
import type { Field, Fields } from './fields.ts';
import type { StepGroup } from './stepKind.ts';
import { STEP_KIND_NAMES, STEP_KINDS } from './stepKinds.ts';

const GROUPS: Readonly<Record<StepGroup, string>> = { points: 'Points', lines: 'Lines', numbers: 'Numbers', pieces: 'Pieces and moulds', bodies: 'Bodies', parts: 'Parts' };

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
	lines.push('### Formulas', '', `Units: ${Object.keys(UNITS).join(', ')}. Constants: ${Object.keys(CONSTANTS).join(', ')}. Measures of steps: ${MEASURES.map((m) => `\`${m}\``).join(', ')}.`, '');
	lines.push(...Object.entries(FUNCTIONS).map(([name, { meaning }]) => `- \`${name}\` ${meaning}`), '');
	return lines.join('\n');
}

/** What every part has is told once. */
const COMMON = ['role', 'material', 'scheduled', 'label'];

function inWords({ label, help, form, optional, schema }: Field): string {
	const preset = schema.safeParse(undefined);
	const otherwise = optional ? '; may be left out' : preset.success && preset.data !== undefined && typeof preset.data !== 'object' ? `; ${JSON.stringify(preset.data)} when left out` : '';
	const kind = { value: 'quantity' in form ? form.quantity : '', ref: 'of' in form ? `${form.of.join(' or ')}${'many' in form && form.many ? ', several' : ''}` : '', option: 'options' in form ? Object.keys(form.options).join(', ') : '', whole: 'whole number', flag: 'yes or no', text: 'text', points: 'pairs of mm', material: 'material', kit: 'kit', module: 'mesh', values: 'values by parameter' }[form.type];
	return `${label.toLowerCase()} (${kind}${otherwise})${help ? `: ${help.replace(/^./, (c) => c.toLowerCase())}` : ''}`;
}
