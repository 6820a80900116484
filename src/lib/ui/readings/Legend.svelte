<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { printFull } from '$core/units/print.ts';

	const work = useWorkspace();
	const readings = work.readings;
	const scale = $derived(readings.scale);
	const print = (value: number) => printFull(value, readings.reading.quantity, work.project.units);
	const gradient = $derived(
		scale.palette
			.map((colour, k) => `${colour} ${(k / scale.palette.length) * 100}% ${((k + 1) / scale.palette.length) * 100}%`)
			.join(', ')
	);
	const beyond = $derived({ below: readings.spread.least < scale.from, above: readings.spread.greatest > scale.to });
	const where = $derived(readings.scope === 'all' ? 'all faces shown' : (work.face.view?.name ?? ''));
</script>

<div
	class="absolute bottom-9 left-3 w-56 rounded border border-rule bg-sheet px-2.5 py-1.5 text-small shadow-sm"
	role="img"
	aria-label="Legend: {readings.reading.label}"
	data-testid="legend"
>
	<p class="flex items-baseline gap-1.5">
		<strong title={readings.reading.meaning}>{readings.reading.label}</strong>
		<span class="truncate text-soft">{where}</span>
		<button
			class="ml-auto self-center text-soft hover:text-patina"
			title="No colours"
			aria-label="Stop colouring"
			onclick={() => (readings.coloured = false)}><X size={13} /></button
		>
	</p>
	{#if scale.kinds}
		<ul class="mt-0.5 flex flex-wrap gap-x-3">
			{#each scale.kinds as kind, k (k)}
				<li class="flex items-center gap-1.5">
					<span class="h-2.5 w-2.5 rounded-sm border border-control" style="background: {scale.palette[k]}"
					></span>{kind}
				</li>
			{/each}
		</ul>
	{:else if readings.spread.count}
		<div
			class="mt-1 h-3 rounded-sm border border-control"
			style="background: linear-gradient(to right, {gradient})"
		></div>
		<p class="figure mt-0.5 flex justify-between">
			<span>{beyond.below ? '≤ ' : ''}{print(scale.from)}</span>
			<span>{print((scale.from + scale.to) / 2)}</span>
			<span>{beyond.above ? '≥ ' : ''}{print(scale.to)}</span>
		</p>
	{:else}
		<p class="text-soft">Nothing here has this reading.</p>
	{/if}
</div>
