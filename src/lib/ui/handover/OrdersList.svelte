<script lang="ts">
	import { isFormat } from '$core/formats/format.ts';
	import { WRITERS } from '$core/formats/writers.ts';
	import { bytesInWords } from '$lib/editor/handedFiles.ts';
	import { addressOf, isUnderWay, type Order } from '$lib/editor/orders.svelte.ts';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { useWorkspace } from '$lib/editor/context.ts';

	/** What was ordered of this project, by whomever: to be taken again, or stopped. */
	const work = useWorkspace();
	const { orders } = work;
	const SHOWN = 12;
	let all = $state(false);
	const shown = $derived(all ? orders.list : orders.list.slice(0, SHOWN));
	const nameOf = ({ format, options }: Order) =>
		work.project.tables.find((t) => t.id === options.table)?.name ??
		work.project.handover.sheets.find((s) => s.id === options.sheet)?.name ??
		(isFormat(format) ? WRITERS[format].label : format);
	const timeOf = ({ orderedAt }: Order) =>
		new Date(orderedAt).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
</script>

<section aria-label="Orders" class="mt-4 text-small">
	<h3 class="heading mb-1">Orders</h3>
	{#if orders.trouble}<p class="text-rust" role="alert">{orders.trouble} It is asked again.</p>{/if}
	{#if orders.list.length === 0}<p class="text-soft">None yet. Files that are made are kept here.</p>{/if}
	<ul>
		{#each shown as order (order.id)}
			<li class="border-t border-rule py-1" data-testid="order">
				<div class="flex items-baseline justify-between gap-2">
					<span class="min-w-0 truncate" title={order.fileName ?? undefined}>{nameOf(order)}</span>
					{#if order.state === 'done'}
						<a class="figure shrink-0 text-patina underline" href={addressOf(order)} title="Take it again"
							>{bytesInWords(order.size ?? 0)}</a
						>
					{:else if isUnderWay(order)}
						<button class="shrink-0 text-patina hover:underline" onclick={() => orders.cancel(order.id)}>Stop</button>
					{:else}<span class="shrink-0 text-soft">{order.state === 'failed' ? 'failed' : 'stopped'}</span>{/if}
				</div>
				{#if order.state === 'running'}<progress class="h-1.5 w-full" value={order.progress}></progress>{/if}
				{#if order.state === 'failed' && order.message}
					<p class="whitespace-pre-line text-rust">{order.message}</p>
				{/if}
				{#if order.state === 'done' && order.message}
					<p class="whitespace-pre-line text-ochre-ink">{order.message}</p>
				{/if}
				<p class="flex items-baseline gap-2 text-soft">
					<span class="min-w-0 flex-1"
						>{timeOf(order)} · {order.issue ? `issue ${order.issue}` : `revision ${order.revision}`}{order.state ===
						'waiting'
							? ' · waits'
							: ''}</span
					>
					{#if !isUnderWay(order)}
						<button
							class="shrink-0 hover:text-rust"
							aria-label="Throw {nameOf(order)} away"
							title="Throw this file away; it can be made again"
							onclick={() => orders.remove(order.id)}><Trash2 size={12} /></button
						>
					{/if}
				</p>
			</li>
		{/each}
	</ul>
	{#if orders.list.length > SHOWN && !all}
		<button class="text-patina hover:underline" onclick={() => (all = true)}
			>{orders.list.length - SHOWN} earlier ones</button
		>
	{/if}
</section>
