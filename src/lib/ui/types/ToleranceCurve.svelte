<script lang="ts">
	import { CategoryScale, Chart, LinearScale, LineController, LineElement, PointElement, Tooltip } from 'chart.js';
	import { onMount } from 'svelte';
	import { group } from '$core/units/print.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { TypesView } from '$lib/worker/types.ts';

	/** How many types there are with tighter and wider tolerances. */
	let { found }: { found: TypesView } = $props();

	Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);
	/** Shares of the tolerances that hold. */
	const SHARES = [0.5, 1, 2, 4, 8, 16] as const;
	const work = useWorkspace();
	let canvas = $state<HTMLCanvasElement>();
	let counts = $state.raw<readonly number[]>();
	let asked = $state(false);
	let chart: Chart | undefined;

	async function compute() {
		asked = true;
		counts = await work.runner.ask((api) => api.typesByTolerance(SHARES));
		asked = false;
	}
	// Counts of another state of the model say nothing here.
	$effect(() => {
		void found;
		counts = undefined;
	});
	onMount(() => () => chart?.destroy());
	$effect(() => {
		if (!canvas || !counts) return;
		chart?.destroy();
		const style = getComputedStyle(canvas);
		const colour = (name: string) => style.getPropertyValue(`--${name}`).trim();
		const font = { family: 'IBM Plex Mono', size: 11 };
		chart = new Chart(canvas, {
			type: 'line',
			data: {
				labels: SHARES.map((s) => `×${s}`),
				datasets: [
					{ data: [...counts], borderColor: colour('patina'), backgroundColor: colour('patina'), tension: 0.2 }
				]
			},
			options: {
				animation: false,
				responsive: true,
				maintainAspectRatio: false,
				plugins: { tooltip: { callbacks: { label: (item) => `${group(item.parsed.y ?? 0, 0)} types` } } },
				scales: {
					x: {
						title: { display: true, text: 'Times the tolerance', color: colour('soft') },
						ticks: { font, color: colour('soft') },
						grid: { display: false }
					},
					y: { beginAtZero: true, ticks: { font, color: colour('soft'), precision: 0 } }
				}
			}
		});
	});
</script>

{#if counts}
	<div class="h-28 shrink-0">
		<canvas
			bind:this={canvas}
			aria-label="Types by tolerance: {SHARES.map((s, k) => `${s} times ${group(counts?.[k] ?? 0, 0)}`).join(', ')}"
		></canvas>
	</div>
{:else}
	<button class="button justify-center" disabled={asked} onclick={compute}
		>{asked ? 'Counting …' : 'What does a millimetre buy?'}</button
	>
{/if}
