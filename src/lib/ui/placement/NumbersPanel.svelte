<script lang="ts">
	import Pencil from '@lucide/svelte/icons/pencil';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { SharedNumber } from '$core/placement/rules/schema.ts';
	import { renameNumber } from '$lib/editor/ruleWords.ts';
	import { freeName } from '$lib/editor/names.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';

	const work = useWorkspace();
	const numbers = $derived(work.project.numbers);
	const PRESETS = { length: 1000, angle: Math.PI / 6, ratio: 0.5, count: 3 } as const;
	let error = $state<string>();
	const edit = (label: string, change: Parameters<typeof work.editor.commit>[1]) =>
		(error = work.editor.commit(label, change));

	function add(quantity: SharedNumber['quantity']) {
		edit('Add a number', (draft) => {
			const taken = [...draft.numbers.map((n) => n.id), ...draft.fields.map((f) => f.id)];
			const id = freeName('n', taken, '');
			draft.numbers.push({ id, name: id, quantity, value: PRESETS[quantity] });
		});
	}
	/** The number that is being renamed. */
	let renamed = $state<string>();
	/** Numbers are called in formulas by the same word that people read. */
	function rename(k: number, word: string): string | undefined {
		const fault = work.editor.commit('Rename a number', (draft) => renameNumber(draft, numbers[k]!.id, word));
		if (!fault) renamed = undefined;
		return fault;
	}
</script>

<section class="mt-4 border-t border-rule pt-2" aria-labelledby="numbers-heading">
	<h3 id="numbers-heading" class="heading" title="Numbers that formulas of several rules call by name">
		Shared numbers
	</h3>
	{#each numbers as number, k (number.id)}
		<div class="grid grid-cols-[1fr_auto_auto] items-center gap-x-1">
			<NumberField
				label={number.name}
				help="Formulas call it {number.id}"
				value={number.value}
				quantity={number.quantity}
				unit={work.project.units}
				onpreview={(value) => work.editor.preview((draft) => void (draft.numbers[k]!.value = value))}
				oncommit={(value) =>
					work.editor.commit(`Change ${number.name}`, (draft) => void (draft.numbers[k]!.value = value))}
				onrevert={() => work.editor.revert()}
			/>
			<button
				class="text-soft hover:text-patina"
				title="Rename"
				aria-label="Rename {number.name}"
				aria-expanded={renamed === number.id}
				onclick={() => (renamed = renamed === number.id ? undefined : number.id)}><Pencil size={12} /></button
			>
			<button
				class="text-soft hover:text-rust"
				title="Remove"
				aria-label="Remove {number.name}"
				onclick={() => edit('Remove a number', (draft) => draft.numbers.splice(k, 1))}><Trash2 size={12} /></button
			>
		</div>
		{#if renamed === number.id}
			<TextField label="Name" help="How formulas call it" value={number.id} oncommit={(word) => rename(k, word)} />
		{/if}
	{:else}
		<p class="text-small text-soft">
			None yet. A formula can call them, and <em>storey</em>, <em>level</em> and <em>module</em>, by name.
		</p>
	{/each}
	<p class="mt-0.5 flex gap-2 text-small text-soft">
		<span class="flex items-center"><Plus size={12} />Number:</span>
		{#each Object.keys(PRESETS) as quantity (quantity)}
			<button class="text-patina hover:underline" onclick={() => add(quantity as 'length')}>{quantity}</button>
		{/each}
	</p>
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
