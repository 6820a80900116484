<script lang="ts">
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { KitParameter } from '$core/kit/schema.ts';
	import { parseQuantity } from '$core/units/parse.ts';
	import { printFull } from '$core/units/print.ts';
	import { completionsFor } from '$lib/editor/completions.ts';
	import { renameInKit, freeWord, shownQuantity } from '$lib/editor/kitSteps.ts';
	import { renameValue } from '$lib/editor/placement.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import TextField from '../TextField.svelte';
	import FormulaField from './FormulaField.svelte';

	let { parameter, onrenamed }: { parameter: KitParameter; onrenamed: (to: string) => void } = $props();

	const work = useWorkspace();
	const { bench } = work;
	const kit = $derived(bench.kit!);
	const unit = $derived(work.project.units);
	const p = $derived(kit.parameters.indexOf(parameter));
	const set = (field: string, value: unknown) =>
		bench.commit(`Change ${parameter.label.toLowerCase()}`, (draft) => {
			const { [field]: _, ...others } = draft.parameters[p] as Record<string, unknown>;
			draft.parameters[p] = (value === undefined ? others : { ...others, [field]: value }) as KitParameter;
		});
	function setNumber(field: string, text: string): string | undefined {
		const parsed = parseQuantity(text, shownQuantity(parameter.quantity), unit);
		return 'error' in parsed ? parsed.error : set(field, parsed.value);
	}
	function rename(to: string): string | undefined {
		if (freeWord(kit, to) !== to) return `“${to}” is taken by another step or parameter`;
		const error = work.editor.commit(`Rename ${parameter.name}`, (draft) => {
			const from = parameter.name;
			renameInKit(draft.kits[bench.k]!, from, to);
			renameValue(draft, kit.id, from, to);
		});
		if (!error) onrenamed(to);
		return error;
	}
	const remove = () =>
		work.editor.commit(`Remove ${parameter.label.toLowerCase()}`, (draft) => {
			draft.kits[bench.k]!.parameters.splice(p, 1);
			renameValue(draft, kit.id, parameter.name, undefined);
		});
	const fault = $derived(
		bench.trial?.error && !bench.trial.error.step && bench.trial.error.message.includes(`${parameter.label}:`)
			? bench.trial.error.message
			: undefined
	);
</script>

<div class="mb-1 rounded border border-rule bg-paper px-2 py-0.5">
	<TextField label="Label" value={parameter.label} oncommit={(v) => set('label', v)} />
	<TextField label="Name" help="How formulas call it" value={parameter.name} oncommit={rename} />
	{#if 'least' in parameter && parameter.quantity !== 'yesno'}
		{@const print = (v: number) => printFull(v, shownQuantity(parameter.quantity), unit)}
		<TextField label="Least" value={print(parameter.least)} oncommit={(v) => setNumber('least', v)} />
		<TextField label="Greatest" value={print(parameter.greatest)} oncommit={(v) => setNumber('greatest', v)} />
	{/if}
	{#if 'formula' in parameter || ('least' in parameter && parameter.quantity !== 'yesno')}
		<FormulaField
			label="Formula"
			help="Its value where nothing is given"
			hint="none"
			value={('formula' in parameter && parameter.formula) || ''}
			{fault}
			completions={() => completionsFor(kit, [], undefined)}
			oncommit={(text) => set('formula', text || undefined)}
		/>
	{/if}
	{#if 'scope' in parameter}
		<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
			<label for="scope-{parameter.name}" class="text-soft">Differs</label>
			<select
				id="scope-{parameter.name}"
				class="field"
				value={parameter.scope}
				onchange={(e) => set('scope', e.currentTarget.value)}
			>
				<option value="kit">one value for all hosts</option>
				<option value="host">one for each host</option>
			</select>
		</div>
	{/if}
	{#if parameter.quantity === 'choice'}
		<TextField
			label="Choices"
			help="Separated by commas"
			value={parameter.choices.join(', ')}
			oncommit={(v) =>
				set(
					'choices',
					v
						.split(',')
						.map((c) => c.trim())
						.filter(Boolean)
				)}
		/>
	{/if}
	<TextField label="Group" value={parameter.group} oncommit={(v) => set('group', v)} />
	<TextField label="Help" value={parameter.help} oncommit={(v) => set('help', v)} />
	<button class="my-1 flex items-center gap-1 text-small text-soft hover:text-rust" onclick={remove}
		><Trash2 size={12} />Remove the parameter</button
	>
</div>
