import { namesIn, parseFormula, renameIn } from './formula/parse.ts';
import type { Fields } from './fields.ts';
import { STEP_KINDS, type AnyStep } from './stepKinds.ts';

/** Names that a step takes from others: what its fields refer to, and what its formulas mention; pieces that it runs on apart. */
export function referencesOf(step: AnyStep): {
	readonly takes: readonly string[];
	readonly mentions: readonly string[];
} {
	const takes: string[] = [];
	const mentions: string[] = [];
	const formula = (value: unknown) => {
		if (typeof value === 'string') mentions.push(...mentioned(value));
	};
	formula(step.when);
	for (const [name, { form }] of Object.entries(STEP_KINDS[step.kind].fields as Fields)) {
		const value = (step as Record<string, unknown>)[name];
		if (form.type === 'ref')
			takes.push(...((Array.isArray(value) ? value : value === undefined ? [] : [value]) as string[]));
		if (form.type === 'value') formula(value);
		if (form.type === 'values') Object.values(value as object).forEach(formula);
	}
	return { takes, mentions };
}

/** Names in a formula; none where it cannot be read, which is told where it is compiled. */
export function mentioned(text: string): readonly string[] {
	try {
		return [...namesIn(parseFormula(text))];
	} catch {
		return [];
	}
}

/** A step with a name put in another's place, in references and formulas. */
export function renamedIn<S extends AnyStep>(step: S, from: string, to: string): S {
	const out = { ...step } as Record<string, unknown>;
	const swap = (value: unknown) => (value === from ? to : value);
	const formula = (value: unknown) => (typeof value === 'string' ? renameIn(value, from, to) : value);
	if (out.when !== undefined) out.when = formula(out.when);
	out.on = swap(out.on);
	if (out.on === undefined) delete out.on;
	for (const [name, { form }] of Object.entries(STEP_KINDS[step.kind].fields as Fields)) {
		const value = out[name];
		if (value === undefined) continue;
		if (form.type === 'ref') out[name] = Array.isArray(value) ? value.map(swap) : swap(value);
		if (form.type === 'value') out[name] = formula(value);
		if (form.type === 'values')
			out[name] = Object.fromEntries(Object.entries(value as object).map(([k, v]) => [k, formula(v)]));
	}
	return out as S;
}

/** What a step makes for others: of one that moves something, the same as what it moves. */
export function shapeMade(step: AnyStep, steps: readonly AnyStep[]): string {
	let at: AnyStep | undefined = step;
	for (let k = 0; at && k <= steps.length; k++) {
		const { makes } = STEP_KINDS[at.kind];
		if (makes !== 'same') return makes;
		const { of } = at as { of?: string };
		at = steps.find((s) => s.name === of);
	}
	return 'line';
}
