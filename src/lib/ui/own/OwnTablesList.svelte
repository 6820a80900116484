<script lang="ts">
	import Copy from '@lucide/svelte/icons/copy';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { Project } from '$core/project/schema.ts';
	import { READY_TABLES } from '$core/schedule/own/ready.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { addTable, copyTable, inOrder, removeTable } from '$lib/editor/ownTables.ts';
	import DraggedList from '../DraggedList.svelte';
	import OwnTableForm from './OwnTableForm.svelte';

	const work = useWorkspace();
	const { own } = work;
	let error = $state<string>();

	function open(id: string) {
		own.open = id;
		[work.drawer, work.drawerOpen] = ['own', true];
	}
	function make(label: string, change: (draft: Project) => string) {
		let id = '';
		error = work.editor.commit(label, (draft) => (id = change(draft)));
		if (!error) open(id);
	}
	const nameOf = (id: string) => work.project.tables.find((t) => t.id === id)?.name ?? id;
	const order = (ids: readonly string[]) =>
		work.editor.apply('Reorder schedules', (draft) => {
			draft.tables = inOrder(draft.tables, ids, (t) => t.id);
		});
</script>

<section aria-label="Own schedules">
	<h3 class="heading" title="Saved with the project; each is a file of the handover, too">Own schedules</h3>
	<DraggedList ids={work.project.tables.map((t) => t.id)} labelOf={nameOf} onorder={order}>
		{#snippet row(id)}
			{@const name = nameOf(id)}
			{@const shown = work.drawer === 'own' && own.table?.id === id}
			<div class="flex items-center gap-1.5 py-px">
				<button
					class="min-w-0 grow truncate text-left {shown ? 'font-semibold text-patina' : 'hover:text-patina'}"
					aria-current={shown}
					onclick={() => open(id)}>{name}</button
				>
				<button
					class="text-soft hover:text-patina"
					title="Duplicate"
					aria-label="Duplicate {name}"
					onclick={() => make('Duplicate schedule', (draft) => copyTable(draft, id))}><Copy size={12} /></button
				>
				<button
					class="text-soft hover:text-rust"
					title="Remove"
					aria-label="Remove {name}"
					onclick={() => work.editor.apply(`Remove ${name}`, (draft) => removeTable(draft, id))}
					><Trash2 size={12} /></button
				>
			</div>
			{#if shown}<OwnTableForm {id} />{/if}
		{/snippet}
	</DraggedList>
	{#if work.project.tables.length === 0}
		<p class="text-small text-soft">None yet. Start from a ready one, then change what it shows.</p>
	{/if}
	<select
		class="field mt-1"
		aria-label="Start a schedule"
		value=""
		onchange={(e) => {
			const ready = READY_TABLES.find((t) => t.name === e.currentTarget.value);
			e.currentTarget.value = '';
			if (ready) make(`Add schedule ${ready.name}`, (draft) => addTable(draft, ready));
		}}
	>
		<option value="" disabled>Start a schedule from …</option>
		{#each READY_TABLES as { name } (name)}<option>{name}</option>{/each}
	</select>
	{#if error}<p class="mt-1 text-small text-rust" role="alert">{error}</p>{/if}
</section>
