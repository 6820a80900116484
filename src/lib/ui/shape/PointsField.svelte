<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { Path } from '$lib/editor/paths.ts';
	import { addBetween } from '$lib/editor/sections.ts';
	import { ShapeEdit } from '$lib/editor/shapeEdit.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import HeightField from './HeightField.svelte';
	import ShapeNumber from './ShapeNumber.svelte';

	interface Props {
		path: Path;
		label: string;
		/** No point can be added or removed. */
		fixed?: boolean;
	}

	let { path, label, fixed = false }: Props = $props();

	const edit = new ShapeEdit(useWorkspace(), () => path, () => label);
	const points = $derived((edit.value as object[] | undefined) ?? []);
	let chosen = $state(0);
	const k = $derived(Math.min(chosen, points.length - 1));
	let error = $state<string>();

	function add() {
		error = edit.change('Add point', (value) => addBetween(value as object[], k));
		if (!error) chosen = Math.min(k, points.length - 2) + 1;
	}
	const remove = () => (error = edit.change('Remove point', (value) => (value as object[]).splice(k, 1)));
</script>

<div class="mt-3 mb-1 flex items-center justify-between">
	<h3 class="heading">{label}</h3>
	{#if !fixed}
		<span class="flex gap-1">
			<button class="rounded p-1 text-soft hover:text-patina" title="Add a point after this one" aria-label="Add a point to {label.toLowerCase()}" onclick={add}>
				<Plus size={14} />
			</button>
			<button
				class="rounded p-1 text-soft enabled:hover:text-rust disabled:opacity-40"
				title={points.length > 2 ? 'Remove this point' : 'Two points are the least'}
				aria-label="Remove a point of {label.toLowerCase()}"
				disabled={points.length <= 2}
				onclick={remove}
			>
				<Trash2 size={14} />
			</button>
		</span>
	{/if}
</div>
<div class="mb-1 flex flex-wrap gap-1" role="group" aria-label={label}>
	{#each points as _, p (p)}
		<button
			class="figure min-w-8 rounded border px-2 py-0.5 {p === k ? 'border-patina bg-wash font-semibold' : 'border-control bg-paper'}"
			aria-pressed={p === k}
			onclick={() => (chosen = p)}>{p + 1}</button
		>
	{/each}
</div>
{#if error}<p class="mb-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
{#key k}
	<ShapeNumber path={[...path, k, 'x']} label="East" help="Along x" quantity="length" step={100} />
	<ShapeNumber path={[...path, k, 'y']} label="North" help="Along y" quantity="length" step={100} />
	<HeightField path={[...path, k, 'z']} label="Height" help="Above the ground of the mass" />
{/key}
