<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { Path } from '$lib/editor/paths.ts';
	import { addBetween } from '$lib/editor/sections.ts';
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import type { FormItem } from '$lib/editor/shapeForm.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import VaultSketch from './VaultSketch.svelte';
	import ShapeForm from './ShapeForm.svelte';

	interface Props {
		path: Path;
		label: string;
		/** What one element is called. */
		one: string;
		grows: 'between' | 'anywhere' | 'never';
		items: (k: number, count: number) => FormItem[];
	}

	let { path, label, one, grows, items }: Props = $props();

	const work = useWorkspace();
	const edit = new PathEdit(
		'shape',
		work,
		() => path,
		() => label
	);
	const list = $derived((edit.value as object[] | undefined) ?? []);
	let chosen = $state(0);
	const k = $derived(Math.min(chosen, list.length - 1));
	const removable = $derived(list.length > 2 && (grows === 'anywhere' || (k > 0 && k < list.length - 1)));
	let error = $state<string>();

	function add() {
		let at = k;
		error = edit.change(`Add ${one}`, (value) => (at = addBetween(value as object[], k)));
		if (!error) chosen = at;
	}
	const remove = () => (error = edit.change(`Remove ${one}`, (value) => (value as object[]).splice(k, 1)));
</script>

<div class="mt-3 mb-1 flex items-center justify-between">
	<h3 class="heading">{label}</h3>
	{#if grows !== 'never'}<span class="flex gap-1">
			<button
				class="rounded p-1 text-soft hover:text-patina"
				title="Add a {one} after this one"
				aria-label="Add a {one}"
				onclick={add}
			>
				<Plus size={14} />
			</button>
			<button
				class="rounded p-1 text-soft enabled:hover:text-rust disabled:opacity-40"
				title={removable
					? `Remove this ${one}`
					: grows === 'between'
						? `The first and the last ${one} stay`
						: `Two ${one}s are the least`}
				aria-label="Remove this {one}"
				disabled={!removable}
				onclick={remove}
			>
				<Trash2 size={14} />
			</button>
		</span>{/if}
</div>
<div class="mb-2 flex flex-wrap gap-1" role="group" aria-label={label}>
	{#each list as _, s (s)}
		<button
			class="figure min-w-8 rounded border px-2 py-0.5 {s === k
				? 'border-patina bg-wash font-semibold'
				: 'border-control bg-paper'}"
			aria-pressed={s === k}
			onclick={() => (chosen = s)}>{s + 1}</button
		>
	{/each}
</div>
{#if error}<p class="mb-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
{#if work.face.current?.mass.shape.kind === 'vault'}<VaultSketch {k} />{/if}
{#key k}<ShapeForm items={items(k, list.length)} base={[...path, k]} />{/key}
