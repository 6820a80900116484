<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { addLevel, hangersOf, moveLevel, removeLevel } from '$lib/editor/levels.ts';
	import { useEditing } from '$lib/editor/context.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';

	const work = useEditing();
	const levels = $derived(work.project.levels);
	let chosen = $state<string>();
	const level = $derived(levels.find((l) => l.id === chosen) ?? levels[0]);
	let error = $state<string>();
	const change = (label: string, apply: Parameters<typeof work.editor.commit>[1]) =>
		(error = work.editor.commit(label, apply));
</script>

<section class="mt-4 border-t border-rule pt-2" aria-labelledby="levels-heading">
	<div class="flex items-center justify-between">
		<h3
			id="levels-heading"
			class="heading"
			title="Named heights; bases, tops and sections hang on them and follow when they move"
		>
			Levels
		</h3>
		<button
			class="rounded p-1 text-soft hover:text-patina"
			title="Add a level above the highest"
			aria-label="Add a level"
			onclick={() => change('Add level', addLevel)}
		>
			<Plus size={14} />
		</button>
	</div>
	{#if levels.length === 0}
		<p class="text-small text-soft">None yet. A level is a named height; what hangs on it follows when it moves.</p>
	{/if}
	{#each levels as { id, name, height } (id)}
		{@const count = hangersOf(work.project, id)}
		<div class="grid grid-cols-[1fr_20px] items-center gap-1">
			<NumberField
				label={name}
				help="{count} {count === 1 ? 'height hangs' : 'heights hang'} on it"
				quantity="length"
				step={100}
				value={height}
				unit={work.project.units}
				onpreview={(v) => work.editor.preview((draft) => moveLevel(draft, id, v))}
				oncommit={(v) => work.editor.commit(`Move level ${name}`, (draft) => moveLevel(draft, id, v))}
				onrevert={() => work.editor.revert()}
			/>
			<button
				class="text-soft hover:text-rust"
				title="Remove this level; what hangs on it stays where it is"
				aria-label="Remove level {name}"
				onclick={() => change(`Remove level ${name}`, (draft) => removeLevel(draft, id))}><Trash2 size={14} /></button
			>
		</div>
	{/each}
	{#if level}
		<div class="mt-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
			<label for="level-rename" class="text-soft">Rename</label>
			<select id="level-rename" class="field" value={level.id} onchange={(e) => (chosen = e.currentTarget.value)}>
				{#each levels as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
		{#key level.id}
			<TextField
				label="to"
				value={level.name}
				oncommit={(name) =>
					work.editor.commit('Rename level', (draft) => (draft.levels.find((l) => l.id === level.id)!.name = name))}
			/>
		{/key}
	{/if}
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
