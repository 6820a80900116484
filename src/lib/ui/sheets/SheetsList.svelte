<script lang="ts">
	import Copy from '@lucide/svelte/icons/copy';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { Project } from '$core/project/schema.ts';
	import { VIEW_WORDS, type SheetView } from '$core/project/sheets.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { inOrder } from '$lib/editor/ownTables.ts';
	import { addSheet, copySheet } from '$lib/editor/sheets.ts';
	import DraggedList from '../DraggedList.svelte';
	import SheetForm from './SheetForm.svelte';

	const work = useWorkspace();
	const { sheets } = work;
	const all = $derived(work.project.handover.sheets);
	let error = $state<string>();

	function make(label: string, change: (draft: Project) => string) {
		let id = '';
		error = work.editor.commit(label, (draft) => (id = change(draft)));
		if (!error) sheets.show(id);
	}
	const nameOf = (id: string) => all.find((s) => s.id === id)?.name ?? id;
	const order = (ids: readonly string[]) =>
		work.editor.apply('Reorder sheets', (draft) => {
			draft.handover.sheets = inOrder(draft.handover.sheets, ids, (s) => s.id);
		});
	function remove(id: string) {
		if (sheets.open === id) sheets.close();
		work.editor.apply(`Remove ${nameOf(id)}`, (draft) => {
			draft.handover.sheets = draft.handover.sheets.filter((s) => s.id !== id);
		});
	}
	function add(kind: SheetView['kind']) {
		if (kind === 'schedule' && work.project.tables.length === 0)
			return void (error = 'There is no schedule of the project’s own; make one in Schedule first.');
		make(`Add sheet ${VIEW_WORDS[kind].toLowerCase()}`, (draft) => addSheet(draft, kind));
	}
</script>

<section aria-label="Sheets">
	<h3 class="heading mt-3 mb-1" title="Drawings on paper, saved with the project">Sheets</h3>
	<DraggedList ids={all.map((s) => s.id)} labelOf={nameOf} onorder={order}>
		{#snippet row(id, at)}
			{@const name = nameOf(id)}
			{@const shown = sheets.open === id}
			<div class="flex items-center gap-1.5 py-px">
				<button
					class="flex min-w-0 grow items-baseline gap-1.5 text-left {shown
						? 'font-semibold text-patina'
						: 'hover:text-patina'}"
					aria-current={shown}
					onclick={() => (shown ? sheets.close() : sheets.show(id))}
					><span class="figure w-4 shrink-0 text-right text-small font-normal text-soft">{at + 1}</span><span
						class="truncate">{name}</span
					><span class="figure ml-auto text-small font-normal text-soft">{all[at]?.paper}</span></button
				>
				<button
					class="text-soft hover:text-patina"
					title="Duplicate"
					aria-label="Duplicate {name}"
					onclick={() => make('Duplicate sheet', (draft) => copySheet(draft, id))}><Copy size={12} /></button
				>
				<button class="text-soft hover:text-rust" title="Remove" aria-label="Remove {name}" onclick={() => remove(id)}
					><Trash2 size={12} /></button
				>
			</div>
			{#if shown}<SheetForm {id} />{/if}
		{/snippet}
	</DraggedList>
	{#if all.length === 0}
		<p class="text-small text-soft">None yet. Add one; it is drawn at once, and leaves with the others as PDF.</p>
	{/if}
	<select
		class="field mt-1"
		aria-label="Add a sheet"
		value=""
		onchange={(e) => {
			const kind = e.currentTarget.value as SheetView['kind'];
			e.currentTarget.value = '';
			add(kind);
		}}
	>
		<option value="" disabled>Add a sheet …</option>
		{#each Object.entries(VIEW_WORDS) as [kind, word] (kind)}<option value={kind}>{word}</option>{/each}
	</select>
	{#if error}<p class="mt-1 text-small text-rust" role="alert">{error}</p>{/if}
</section>
