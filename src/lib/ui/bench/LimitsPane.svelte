<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import type { LimitFault } from '$core/placement/limits.ts';
	import { printFull } from '$core/units/print.ts';
	import { group } from '$core/units/print.ts';
	import { shownQuantity } from '$lib/editor/kitSteps.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	const work = useWorkspace();
	const { bench } = work;
	const report = $derived(bench.limits);
	let shown = $state.raw<LimitFault>();

	function inWords({ values }: LimitFault): string {
		const names = Object.entries(values).map(([name, value]) => {
			const parameter = bench.kit?.parameters.find((p) => p.name === name);
			if (!parameter || typeof value === 'string') return `${name} ${value}`;
			return `${parameter.label} ${parameter.quantity === 'choice' ? parameter.choices[value] : printFull(value, shownQuantity(parameter.quantity), work.project.units)}`;
		});
		return names.length > 3 ? 'all at their limits' : names.join(', ') || 'defaults';
	}
</script>

{#if bench.trying !== undefined}
	<p class="flex items-center gap-2 border-t border-rule px-3 py-1 text-small" role="status">
		<progress class="h-1.5 w-32" value={bench.trying}></progress>Trying the limits
		<button class="text-patina underline" onclick={() => bench.stopLimits()}>Stop</button>
	</p>
{:else if report}
	<section class="border-t border-rule" aria-label="Limits">
		<header class="flex items-center gap-2 px-3 py-1 text-small">
			<h4 class="font-semibold">{report.faults.length ? 'Where it does not hold' : 'It holds everywhere'}</h4>
			<span class="text-soft">{group(report.runs, 0)} runs, {report.time.toFixed(2)} ms a host</span>
			<button
				class="ml-auto p-0.5 text-soft hover:text-patina"
				aria-label="Close the limits"
				onclick={() => (bench.limits = undefined)}><X size={13} /></button
			>
		</header>
		{#if report.faults.length}
			<ul class="max-h-44 overflow-auto pb-1 text-small">
				{#each report.faults as fault, k (k)}
					<li>
						<button
							class="grid w-full grid-cols-[70px_92px_1fr_1.3fr] gap-x-2 px-3 py-[3px] text-left hover:bg-wash {shown ===
							fault
								? 'bg-wash'
								: ''}"
							onclick={() => (bench.showFault(fault), (shown = fault))}
						>
							<span class="truncate">{fault.host.label}</span>
							<span class="truncate font-semibold text-rust">{fault.step}</span>
							<span class="truncate" title={inWords(fault)}>{inWords(fault)}</span>
							<span class="truncate text-soft" title={fault.what}>{fault.what}</span>
						</button>
					</li>
				{/each}
			</ul>
		{/if}
	</section>
{/if}
