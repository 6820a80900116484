<script lang="ts">
	import Brush from '@lucide/svelte/icons/brush';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { addZone, fieldNumber, paintZone, removeZone, zoneFields } from '$lib/editor/zones.ts';
	import { group } from '$core/units/print.ts';
	import TextField from '../TextField.svelte';

	const work = useWorkspace();
	const flat = work.flat;
	const zones = $derived(work.project.zones);
	const chosen = $derived(zones.findIndex((z) => z.id === flat.zone));
	const cellsOf = (parts: (typeof zones)[number]['parts']) =>
		parts.reduce((n, p) => n + p.runs.reduce((m, [, from, to]) => m + to - from + 1, 0), 0);
	let error = $state<string>();

	function add() {
		let id = '';
		error = work.editor.commit('Add zone', (draft) => (id = addZone(draft)));
		if (!error) paint(id);
	}
	function paint(id: string) {
		flat.zone = id;
		if (flat.layout === 'off') flat.layout = 'beside';
		flat.tool = 'paint';
	}
	function remove(id: string) {
		error = work.editor.commit('Remove zone', (draft) => removeZone(draft, id));
		if (flat.zone === id) [flat.zone, flat.tool] = [undefined, 'select'];
	}
	/** The zone's cells become the selection, or the selection goes into the zone. */
	function select(id: string) {
		const view = work.runner.view;
		const zone = zones.find((z) => z.id === id)!;
		if (!view) return;
		const found = view.faces.flatMap(({ key, row, column, cellCount }, face) => {
			const fields = zoneFields(zone, key);
			return Array.from({ length: cellCount }, (_, cell) => ({ face, cell })).filter(({ cell }) =>
				fields.has(fieldNumber({ row: row[cell]!, column: column[cell]! }))
			);
		});
		work.selection.chooseAll(view, found);
	}
	function takeIn(id: string) {
		const view = work.runner.view;
		if (!view) return;
		const chosenCells = work.selection.addresses(view);
		error = work.editor.commit('Take cells into zone', (draft) => {
			for (const [face, { key, row, column }] of view.faces.entries()) {
				const fields = chosenCells
					.filter((a) => a.face === face)
					.map(({ cell }) => ({ row: row[cell]!, column: column[cell]! }));
				if (fields.length) paintZone(draft, id, key, fields, false);
			}
		});
	}
</script>

<section class="mt-4 border-t border-rule pt-2" aria-labelledby="zones-heading">
	<div class="flex items-center justify-between">
		<h3 id="zones-heading" class="heading" title="Named sets of cells, painted by hand">Zones</h3>
		<button
			class="rounded p-1 text-soft hover:text-patina"
			title="Add a zone and paint it"
			aria-label="Add a zone"
			onclick={add}><Plus size={14} /></button
		>
	</div>
	{#if zones.length === 0}
		<p class="text-small text-soft">
			None yet. A zone is a set of cells that you name and paint on the developed view.
		</p>
	{/if}
	<ul class="-mx-1.5">
		{#each zones as zone (zone.id)}
			<li class="group flex items-center gap-2 rounded px-1.5 {flat.zone === zone.id ? 'bg-wash' : 'hover:bg-wash/60'}">
				<span class="h-3 w-3 shrink-0 rounded-sm" style="background: {zone.colour}"></span>
				<button
					class="min-w-0 grow truncate py-[3px] text-left"
					aria-pressed={flat.zone === zone.id}
					onclick={() => (flat.zone = zone.id)}>{zone.name}</button
				>
				<span class="figure text-small text-soft">{group(cellsOf(zone.parts), 0)}</span>
				<button
					class="px-0.5 text-soft hover:text-patina"
					title="Paint on the developed view"
					aria-label="Paint {zone.name}"
					onclick={() => paint(zone.id)}><Brush size={13} /></button
				>
				<button
					class="px-0.5 text-soft hover:text-rust"
					title="Remove"
					aria-label="Remove {zone.name}"
					onclick={() => remove(zone.id)}><Trash2 size={13} /></button
				>
			</li>
		{/each}
	</ul>
	{#if chosen >= 0}
		{@const zone = zones[chosen]!}
		{#key zone.id}
			<TextField
				label="Name"
				value={zone.name}
				oncommit={(name) =>
					work.editor.commit('Rename zone', (draft) => (draft.zones.find((z) => z.id === zone.id)!.name = name))}
			/>
		{/key}
		<div class="flex gap-1.5">
			<button class="button text-small" onclick={() => select(zone.id)}>Select its cells</button>
			<button
				class="button text-small"
				disabled={work.selection.count === 0}
				title="The chosen cells of all faces"
				onclick={() => takeIn(zone.id)}>Take in the chosen</button
			>
		</div>
	{/if}
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
