<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import type { ColourClass } from '$lib/editor/placementState.svelte.ts';
	import { group } from '$core/units/print.ts';

	interface Props {
		title: string;
		legend: readonly ColourClass[];
		onchoose: (k: number) => void;
		onclose: () => void;
	}
	let { title, legend, onchoose, onclose }: Props = $props();
	const MOST = 12;
	const shown = $derived(legend.map((entry, k) => ({ ...entry, k })).filter((entry) => entry.count > 0));
</script>

<div
	class="absolute bottom-9 left-3 max-h-[60%] w-60 overflow-auto rounded border border-rule bg-sheet px-2.5 py-1.5 text-small shadow-sm"
	data-testid="legend"
	role="group"
	aria-label="Legend: {title}"
>
	<p class="flex items-baseline gap-1.5">
		<strong>{title}</strong>
		<button
			class="ml-auto self-center text-soft hover:text-patina"
			title="No colours"
			aria-label="Stop colouring"
			onclick={onclose}><X size={13} /></button
		>
	</p>
	<ul class="mt-0.5">
		{#each shown.slice(0, MOST) as { label, colour, count, k } (k)}
			<li>
				<button
					class="flex w-full items-center gap-1.5 py-px text-left hover:text-patina"
					title="Choose these cells"
					onclick={() => onchoose(k)}
				>
					<span class="h-2.5 w-2.5 shrink-0 rounded-sm border border-control" style="background: {colour}"></span>
					<span class="min-w-0 grow truncate">{label}</span>
					<span class="figure">{group(count, 0)}</span>
				</button>
			</li>
		{/each}
	</ul>
	{#if shown.length > MOST}<p class="text-soft">and {shown.length - MOST} more</p>{/if}
</div>
