<script lang="ts">
	import GripVertical from '@lucide/svelte/icons/grip-vertical';
	import type { Snippet } from 'svelte';
	import { dragHandle, dragHandleZone, type DndEvent } from 'svelte-dnd-action';

	/** A list whose rows are dragged, or moved by keys (space, arrows), into another order. */
	interface Props {
		ids: readonly string[];
		labelOf: (id: string) => string;
		row: Snippet<[id: string, at: number]>;
		onorder: (ids: readonly string[]) => void;
	}
	let { ids, labelOf, row, onorder }: Props = $props();

	/** What is dragged goes by another id for a while: `of` stays. */
	interface Item {
		readonly id: string;
		readonly of: string;
	}
	let dragged = $state.raw<readonly Item[]>();
	const items = $derived(dragged ?? ids.map((id) => ({ id, of: id })));
	function settle(now: readonly Item[]) {
		dragged = undefined;
		const order = now.map((item) => item.of);
		if (order.join() !== ids.join()) onorder(order);
	}
</script>

<ul
	use:dragHandleZone={{ items: items as Item[], flipDurationMs: 120, dropTargetStyle: {} }}
	onconsider={(e: CustomEvent<DndEvent<Item>>) => (dragged = e.detail.items)}
	onfinalize={(e: CustomEvent<DndEvent<Item>>) => settle(e.detail.items)}
>
	{#each items as { id, of }, k (id)}
		<li class="flex items-start gap-0.5">
			<span
				use:dragHandle
				class="mt-1 shrink-0 cursor-grab text-soft/60 hover:text-soft"
				aria-label="Drag {labelOf(of)} to another place"><GripVertical size={12} /></span
			>
			<div class="min-w-0 grow">{@render row(of, k)}</div>
		</li>
	{/each}
</ul>
