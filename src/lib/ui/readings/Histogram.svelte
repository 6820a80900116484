<script lang="ts">
	import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
	import { onMount } from 'svelte';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { group, printFull } from '$core/units/print.ts';

	/** A bar was pressed. */
	let { onbar }: { onbar: (bar: number, add: boolean) => void } = $props();

	Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

	const work = useWorkspace();
	const readings = work.readings;
	let canvas: HTMLCanvasElement;
	let chart = $state.raw<Chart>();
	/** The bar that the keyboard is on. */
	let at = $state<number>();

	const { quantity } = $derived(readings.reading);
	const print = (value: number) => printFull(value, quantity, work.project.units);
	const bars = $derived(readings.bars);
	/** Colour of each bar: that of its middle. */
	const colours = $derived(
		Array.from(
			{ length: bars },
			(_, k) =>
				readings.scale.palette[
					Math.min(readings.scale.palette.length - 1, Math.floor(((k + 0.5) / bars) * readings.scale.palette.length))
				]!
		)
	);
	const border = (k: number) => readings.scale.from + ((readings.scale.to - readings.scale.from) * k) / bars;
	const labels = $derived(Array.from({ length: bars }, (_, k) => readings.scale.kinds?.[k] ?? print(border(k))));
	const words = (k: number) =>
		`${readings.scale.kinds?.[k] ?? `${print(border(k))} to ${print(border(k + 1))}`}: ${group(readings.counts[k] ?? 0, 0)}${readings.referenceCounts ? `, before ${group(readings.referenceCounts[k] ?? 0, 0)}` : ''}`;

	onMount(() => {
		const style = getComputedStyle(canvas);
		const colour = (name: string) => style.getPropertyValue(`--${name}`).trim();
		const font = { family: 'IBM Plex Mono', size: 11 };
		const made = new Chart(canvas, {
			type: 'bar',
			data: { labels: [], datasets: [] },
			options: {
				animation: false,
				responsive: true,
				maintainAspectRatio: false,
				onClick: (event, _, c) => {
					const bar = c.scales.x?.getValueForPixel(event.x ?? 0);
					if (bar !== undefined) onbar(bar, (event.native as MouseEvent).shiftKey);
				},
				plugins: {
					tooltip: {
						displayColors: false,
						mode: 'index',
						intersect: false,
						callbacks: { title: () => '', label: (item) => (item.datasetIndex === 0 ? words(item.dataIndex) : '') }
					}
				},
				scales: {
					x: {
						grid: { display: false },
						ticks: { color: colour('soft'), font, maxTicksLimit: 7, maxRotation: 0, autoSkip: true },
						stacked: true
					},
					y: {
						beginAtZero: true,
						grid: { color: colour('rule') },
						ticks: {
							color: colour('soft'),
							font,
							maxTicksLimit: 5,
							precision: 0,
							callback: (count) => group(Number(count), 0)
						},
						title: { display: true, text: 'Count', color: colour('soft'), font: { family: 'IBM Plex Sans', size: 11 } }
					}
				}
			}
		});
		chart = made;
		return () => made.destroy();
	});
	$effect(() => {
		if (!chart) return;
		const style = getComputedStyle(canvas);
		const ink = style.getPropertyValue('--ink').trim();
		chart.data.labels = labels;
		chart.data.datasets = [
			{
				data: [...readings.counts],
				backgroundColor: colours,
				borderColor: colours.map((c, k) => (k === at ? ink : c)),
				borderWidth: colours.map((_, k) => (k === at ? 2 : 0)),
				barPercentage: 1,
				categoryPercentage: 0.94,
				grouped: false,
				order: 1
			},
			// The reference stands behind, as an outline.
			...(readings.referenceCounts
				? [
						{
							data: [...readings.referenceCounts],
							backgroundColor: 'transparent',
							borderColor: ink,
							borderWidth: 1.2,
							borderSkipped: false as const,
							barPercentage: 1,
							categoryPercentage: 0.94,
							grouped: false,
							order: 0
						}
					]
				: [])
		];
		chart.update('none');
		canvas.dataset.counts = [...readings.counts].join(' ');
	});

	function onkeydown(event: KeyboardEvent) {
		const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
		if (step) at = Math.max(0, Math.min(bars - 1, (at ?? (step > 0 ? -1 : bars)) + step));
		else if ((event.key === 'Enter' || event.key === ' ') && at !== undefined) onbar(at, event.shiftKey);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<!-- A picture that the arrow keys go through. -->
<div
	class="relative min-h-0 grow"
	role="application"
	aria-label="Histogram of {readings.reading.label}. Arrow keys go from bar to bar, Enter chooses its cells."
>
	<canvas bind:this={canvas} tabindex="0" data-testid="histogram" {onkeydown} onblur={() => (at = undefined)}></canvas>
</div>
<p class="h-4 truncate text-least text-soft" aria-live="polite">
	{at === undefined
		? readings.referenceName
			? `Outline: ${readings.referenceName}. A bar chooses its cells.`
			: 'A bar chooses its cells; Shift adds them.'
		: words(at)}
</p>
