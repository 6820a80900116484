import { cornersInWords } from '../../core/kit/corners.ts';
import type { Fields } from '../../core/kit/fields.ts';
import { renameIn } from '../../core/kit/formula/parse.ts';
import { referencesOf, renamedIn, shapeMade } from '../../core/kit/references.ts';
import { allSteps, type Kit, type KitParameter, type Step } from '../../core/kit/schema.ts';
import { STEP_KINDS, type StepKindName } from '../../core/kit/stepKinds.ts';
import { printFull } from '../../core/units/print.ts';
import type { LengthUnit, Quantity } from '../../core/units/quantity.ts';

/** A name that nothing in the kit has. */
export function freeWord(kit: Kit, base: string): string {
	const taken = new Set([...kit.parameters.map((p) => p.name), ...allSteps(kit).map((s) => s.name)]);
	if (!taken.has(base)) return base;
	const stem = base.replace(/\d+$/, '');
	for (let k = 2; ; k++) if (!taken.has(`${stem}${k}`)) return `${stem}${k}`;
}

/** A new step of a kind, its fields filled with what fits: the latest lines and points, the first material. */
export function newStep(
	kit: Kit,
	steps: readonly Step[],
	kind: StepKindName,
	first: { readonly material: string; readonly kit: string; readonly mesh?: string | undefined }
): Step {
	const definition = STEP_KINDS[kind];
	const step: Record<string, unknown> = { kind, name: freeWord(kit, kind) };
	// Steps follow what they are made of: on pieces where the last step is.
	const on = definition.makes === 'pieces' || definition.makes === 'mould' ? undefined : steps.at(-1)?.on;
	if (on !== undefined) step.on = on;
	for (const [name, { form, optional, preset }] of Object.entries(definition.fields as Fields)) {
		if (form.type === 'ref') {
			const fits = steps
				.filter((s) => s.on === on && (form.of as readonly string[]).includes(shapeMade(s, steps)))
				.map((s) => s.name);
			if (fits.length === 0 && !optional)
				throw new Error(
					`${definition.label} needs a ${form.of.join(' or a ')} to start from, and there is none above; add one first.`
				);
			const ends = wantsTwo(kind, name) ? fits.slice(-2) : fits.slice(-1);
			if (form.many && !optional) step[name] = ends;
			else if (!form.many && (!optional || name === 'mould')) step[name] = fits.at(-1);
		} else if (form.type === 'material') step[name] = first.material;
		else if (form.type === 'kit') step[name] = first.kit;
		else if (preset !== undefined && !optional) step[name] = preset;
	}
	if (kind === 'module') {
		const lines = steps.filter((s) => s.on === on && shapeMade(s, steps) === 'line').map((s) => s.name);
		[step.lower, step.upper] = [lines.at(-2) ?? lines.at(-1), lines.at(-1)];
		const body = steps.findLast((s) => s.on === step.mould && STEP_KINDS[s.kind].makes === 'body');
		if (step.mould && body) step.body = body.name;
		else if (first.mesh) [step.file, step.mould] = [first.mesh, undefined];
		else throw new Error('Module needs a mould with a body on it, or a mesh from a file; add one first.');
	}
	// Two lines in a row make a ribbon, two points a line.
	if (kind === 'ribbon') {
		const lines = steps.filter((s) => s.on === on && shapeMade(s, steps) === 'line').map((s) => s.name);
		[step.from, step.to] = [lines.at(-2) ?? lines.at(-1) ?? '', lines.at(-1) ?? ''];
	}
	const read = definition.schema.safeParse(step);
	return (read.success ? read.data : step) as Step;
}

const wantsTwo = (kind: StepKindName, field: string) =>
	(kind === 'line' && field === 'through') ||
	(kind === 'middle' && field === 'of') ||
	(kind === 'loft' && field === 'through') ||
	(kind === 'combine' && field === 'of');

/** Gives a step or a parameter another name, wherever it is mentioned. Changes the kit. */
export function renameInKit(kit: Kit, from: string, to: string): void {
	const renameSteps = (steps: readonly Step[]) =>
		steps.map((s) => ({ ...renamedIn(s, from, to), name: s.name === from ? to : s.name }));
	kit.steps = renameSteps(kit.steps);
	for (const variant of kit.variants) variant.steps = renameSteps(variant.steps);
	for (const parameter of kit.parameters) {
		if (parameter.name === from) parameter.name = to;
		if ('formula' in parameter && parameter.formula !== undefined)
			parameter.formula = renameIn(parameter.formula, from, to);
	}
	for (const step of allSteps(kit)) if ('material' in step && step.material === from) step.material = to;
}

/** Names of the steps that take from a step or mention it, or run on it. */
export function usersOfStep(steps: readonly Step[], name: string): string[] {
	return steps
		.filter((s) => s.on === name || referencesOf(s).takes.includes(name) || referencesOf(s).mentions.includes(name))
		.map((s) => s.name);
}

/** Names of the steps that show what a step makes: itself; of pieces and moulds the steps on them, of bodies the parts made of them. */
export function shownBy(steps: readonly Step[], name: string | undefined, passed: readonly string[] = []): string[] {
	const step = steps.find((s) => s.name === name && !passed.includes(s.name));
	if (!step) return [];
	const { makes } = STEP_KINDS[step.kind];
	if (makes === 'pieces' || makes === 'mould')
		return steps.filter((s) => s.on === step.name || (s.kind === 'module' && s.mould === step.name)).map((s) => s.name);
	if (makes !== 'body') return [step.name];
	return usersOfStep(steps, step.name).flatMap((user) => shownBy(steps, user, [...passed, step.name]));
}

/** A value as it is typed: a number in the project's unit, or its formula. */
export const printValue = (value: number | string, quantity: Quantity | 'yesno', unit: LengthUnit): string =>
	typeof value === 'string' ? value : quantity === 'yesno' ? (value ? 'yes' : 'no') : printFull(value, quantity, unit);

/** One step of a kit as a reader would say it, behind its kind. */
export function stepInWords(step: Step, unit: LengthUnit): string {
	const words: string[] = [];
	for (const [name, field] of Object.entries(STEP_KINDS[step.kind].fields as Fields)) {
		const value = (step as Record<string, unknown>)[name];
		if (value === undefined || value === '' || name === 'scheduled' || name === 'role') continue;
		const { form } = field;
		if (form.type === 'ref')
			words.push(
				Array.isArray(value)
					? value.length > 3
						? `${value.slice(0, 2).join(', ')} and ${value.length - 2} more`
						: value.join(', ')
					: String(value)
			);
		else if (form.type === 'value' && isMeant(step.kind, name, value))
			words.push(printValue(value as number | string, form.quantity, unit));
		else if (form.type === 'option' && value !== field.preset) words.push(form.options[String(value)]!.toLowerCase());
		else if (form.type === 'whole' && value !== field.preset) words.push(String(value));
		else if (form.type === 'material' || form.type === 'kit') words.push(String(value));
	}
	return words.join(' · ');
}

/** Values with a default are told where they differ from it. */
function isMeant(kind: StepKindName, name: string, value: unknown): boolean {
	const read = STEP_KINDS[kind].fields[name]!.schema.safeParse(undefined);
	return !read.success || read.data !== value;
}

/** What a host is, in a few words. */
const EDGE_LAYERS = {
	face: '',
	layer: ', on the second layer',
	middles: ', from middle to middle of cells on the second layer',
	rising: ', from the face up to the second layer',
	falling: ', from the second layer down to the face'
} as const;

export function hostInWords({ host }: Pick<Kit, 'host'>): string {
	switch (host.kind) {
		case 'cell':
		case 'box': {
			return `cells${host.kind === 'box' ? ' with depth' : ''} of ${cornersInWords(host)}`;
		}
		case 'edge':
			return `${host.edges.length ? `edges: ${host.edges.join(', ')}` : 'all edges'}${EDGE_LAYERS[host.on]}`;
		case 'node':
			return { all: 'all nodes', inside: 'nodes inside', border: 'nodes on borders' }[host.nodes];
		case 'path':
			return `paths ${host.along}${host.every > 1 ? `, one line in ${host.every}` : ''}`;
		case 'bay':
			return `bays of ${host.across} × ${host.up} cells`;
	}
}

/** A parameter's quantity for the fields that show numbers. */
export const shownQuantity = (quantity: KitParameter['quantity']): Quantity =>
	quantity === 'length' || quantity === 'angle' || quantity === 'ratio' ? quantity : 'count';
