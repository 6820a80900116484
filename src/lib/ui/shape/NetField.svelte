<script lang="ts">
	import type { Path } from '$lib/editor/paths.ts';
	import { addBetween } from '$lib/editor/sections.ts';
	import { POINT_ITEMS } from '$lib/editor/shapeForm.ts';
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import ShapeForm from './ShapeForm.svelte';

	type Row = { x: number; y: number; z: unknown }[];

	let { path }: { path: Path } = $props();

	const edit = new PathEdit(
		'shape',
		useWorkspace(),
		() => path,
		() => 'Net'
	);
	const rows = $derived((edit.value as Row[] | undefined) ?? []);
	const columns = $derived(rows[0]?.length ?? 0);
	let chosen = $state({ row: 0, column: 0 });
	const row = $derived(Math.min(chosen.row, rows.length - 1));
	const column = $derived(Math.min(chosen.column, columns - 1));
	let error = $state<string>();

	const addColumn = () =>
		(error = edit.change('Add column', (value) => (value as Row[]).forEach((r) => addBetween(r, column))));
	const addRow = () =>
		(error = edit.change('Add row', (value) => {
			const net = value as Row[];
			const low = Math.min(row, net.length - 2);
			const mean = net[low]!.map((p, i) => {
				const pair = [p, net[low + 1]![i]!];
				addBetween(pair, 0);
				return pair[1]!;
			});
			net.splice(low + 1, 0, mean);
		}));
	const removeColumn = () =>
		(error = edit.change('Remove column', (value) => (value as Row[]).forEach((r) => r.splice(column, 1))));
	const removeRow = () => (error = edit.change('Remove row', (value) => (value as Row[]).splice(row, 1)));
</script>

<h3 class="heading mt-3 mb-1">Net, {columns} × {rows.length} points</h3>
<div
	class="mb-1.5 grid w-fit gap-0.5"
	style="grid-template-columns: repeat({columns}, 14px)"
	role="group"
	aria-label="Points of the net, the lowest row below"
>
	{#each rows.map((_, j) => rows.length - 1 - j) as j (j)}
		{#each { length: columns } as _, i (i)}
			<button
				class="h-3.5 rounded-full border {j === row && i === column
					? 'border-patina bg-patina'
					: 'border-control bg-paper hover:bg-wash'}"
				aria-pressed={j === row && i === column}
				aria-label="Row {j + 1}, column {i + 1}"
				title="Row {j + 1}, column {i + 1}"
				onclick={() => (chosen = { row: j, column: i })}
			></button>
		{/each}
	{/each}
</div>
<div class="mb-1 flex flex-wrap gap-1 text-small">
	<button class="button" title="Add a row above the chosen point" onclick={addRow}>+ row</button>
	<button class="button" disabled={rows.length <= 2} title="Remove the row of the chosen point" onclick={removeRow}
		>− row</button
	>
	<button class="button" title="Add a column after the chosen point" onclick={addColumn}>+ column</button>
	<button class="button" disabled={columns <= 2} title="Remove the column of the chosen point" onclick={removeColumn}
		>− column</button
	>
</div>
{#if error}<p class="mb-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
{#key `${row},${column}`}
	<ShapeForm items={POINT_ITEMS} base={[...path, row, column]} />
{/key}
