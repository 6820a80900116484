<script lang="ts">
	import { cellText } from '$lib/editor/ownTableState.svelte.ts';
	import { isRight } from '$lib/editor/ownTableTexts.ts';
	import type { OwnColumnView } from '$lib/worker/ownTables.ts';

	interface Props {
		column: OwnColumnView;
		row: number;
		/** Its value can be set by hand from here. */
		settable: boolean;
		/** It is being written into. */
		writing: boolean;
		onwrite: () => void;
		onaccept: (text: string) => void;
	}
	const { column, row, settable, writing, onwrite, onaccept }: Props = $props();
	const text = $derived(cellText(column, row));
	const beyond = $derived(column.kind === 'figures' ? column.beyond[row]! : 0);
	const focused = (input: HTMLInputElement) => (input.focus(), input.select());
	const write = (event: Event) => (event.stopPropagation(), onwrite());
</script>

{#if writing}
	<input
		class="field h-5 min-w-0 py-0"
		aria-label={column.label}
		maxlength="500"
		value={text}
		{@attach focused}
		onclick={(e) => e.stopPropagation()}
		onblur={(e) => onaccept(e.currentTarget.value)}
		onkeydown={(e) => {
			if (e.key === 'Enter') e.currentTarget.blur();
			if (e.key === 'Escape') {
				e.currentTarget.value = text;
				e.currentTarget.blur();
			}
		}}
	/>
{:else if column.kind === 'notes'}
	<button
		role="gridcell"
		class="min-h-5 truncate text-left {column.texts.has(row) ? '' : 'text-soft/60 hover:text-soft'}"
		title="Write {column.label.toLowerCase()}"
		onclick={write}>{text || '…'}</button
	>
{:else if column.kind === 'figures' && settable && !Number.isNaN(column.values[row])}
	<button
		role="gridcell"
		class="figure min-h-5 truncate text-right underline decoration-rule decoration-dotted underline-offset-2 hover:text-patina"
		title="Set by hand for this one"
		onclick={write}>{text}</button
	>
{:else if column.kind === 'fault'}
	<span role="gridcell" class="truncate text-rust" title={column.fault}>fault</span>
{:else}
	<span
		role="gridcell"
		class="truncate {isRight(column) ? 'figure text-right' : ''} {beyond ? 'font-semibold text-rust' : ''}"
		title={beyond ? (beyond === 1 ? 'Below the least' : 'Above the greatest') : text}>{text}</span
	>
{/if}
