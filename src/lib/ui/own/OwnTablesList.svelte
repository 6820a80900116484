<script lang="ts">
	import ArrowDown from '@lucide/svelte/icons/arrow-down';
	import ArrowUp from '@lucide/svelte/icons/arrow-up';
	import Copy from '@lucide/svelte/icons/copy';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { Project } from '$core/project/schema.ts';
	import { READY_TABLES } from '$core/schedule/own/ready.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { addTable, copyTable, moveBy, removeTable } from '$lib/editor/ownTables.ts';
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
	function move(k: number, by: number) {
		work.editor.apply('Reorder schedules', (draft) => moveBy(draft.tables, k, by));
	}
</script>

<section aria-label="Own schedules">
	<h3 class="heading" title="Saved with the project; each is a file of the handover, too">Own schedules</h3>
	<ul class="mt-1">
		{#each work.project.tables as { id, name }, k (id)}
			{@const shown = work.drawer === 'own' && own.table?.id === id}
			<li class="group flex items-center gap-1.5 py-px">
				<button
					class="min-w-0 grow truncate text-left {shown ? 'font-semibold text-patina' : 'hover:text-patina'}"
					aria-current={shown}
					onclick={() => open(id)}>{name}</button
				>
				{#each [{ by: -1, Icon: ArrowUp, word: 'up', off: k === 0 }, { by: 1, Icon: ArrowDown, word: 'down', off: k === work.project.tables.length - 1 }] as { by, Icon, word, off } (by)}
					<button
						class="text-soft opacity-0 group-hover:opacity-100 hover:text-patina focus-visible:opacity-100 disabled:invisible"
						aria-label="Move {name} {word}"
						disabled={off}
						onclick={() => move(k, by)}><Icon size={12} /></button
					>
				{/each}
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
			</li>
			{#if shown}<OwnTableForm {id} />{/if}
		{:else}<li class="text-small text-soft">None yet. Start from a ready one, then change what it shows.</li>{/each}
	</ul>
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
