<script lang="ts">
	import Gauge from '@lucide/svelte/icons/gauge';
	import Maximize from '@lucide/svelte/icons/maximize';
	import { onMount } from 'svelte';
	import { shapeOfTrial, type TrialHost } from '$core/kit/trialHosts.ts';
	import { printFull } from '$core/units/print.ts';
	import { hostInWords, shownBy, shownQuantity } from '$lib/editor/kitSteps.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { BenchView } from '$lib/stage/benchView.ts';
	import LimitsPane from './LimitsPane.svelte';
	import ParameterPane from './ParameterPane.svelte';
	import StepList from './StepList.svelte';

	const work = useWorkspace();
	const { bench } = work;
	const unit = $derived(work.project.units);
	let canvas = $state<HTMLCanvasElement>()!;
	let view = $state.raw<BenchView>();
	let failure = $state<string>();
	let places = $state.raw<readonly (readonly [number, number])[]>([]);
	/** The host as it was when a corner was taken. */
	let held: TrialHost | undefined;

	onMount(() => {
		const style = getComputedStyle(canvas);
		const colour = (name: string) => style.getPropertyValue(`--${name}`).trim();
		let made: BenchView;
		try {
			made = new BenchView(canvas, {
				line: colour('soft'),
				point: colour('ochre'),
				chosen: colour('patina'),
				host: colour('ink')
			});
		} catch {
			failure = 'This browser shows no 3D pictures (WebGL is missing or switched off).';
			return;
		}
		made.oncontext = (gone) =>
			(failure = gone
				? 'The graphics card has dropped the picture. It is drawn again as soon as the card is back.'
				: undefined);
		made.onpick = (step) => bench.pick(step);
		made.onplaces = (at) => (places = at);
		made.oncorner = (corner, way, done) => {
			held ??= bench.shown;
			if (held) bench.moveCorner(corner, way, held);
			if (done) held = undefined;
		};
		view = made;
		return () => made.dispose();
	});

	const kit = $derived(bench.kit);
	const host = $derived(bench.shown);
	$effect(() => {
		// What is not seen is not tried.
		if (work.place !== 'kits') return;
		void [kit, host, bench.values, work.project.materials, work.project.kits, work.project.modules];
		bench.request();
	});

	const sides = $derived.by((): (readonly [number, number])[] => {
		if (!host) return [];
		const { kind, corners: n } = shapeOfTrial(host);
		const { bay } = host;
		const ring = (from: number) => Array.from({ length: n }, (_, k) => [from + k, from + ((k + 1) % n)] as const);
		if (kind === 'cell') return ring(0);
		if (kind === 'box') return [...ring(0), ...ring(n), ...Array.from({ length: n }, (_, k) => [k, n + k] as const)];
		if (bay) {
			const wide = bay.across + 1;
			const grid = Array.from({ length: n }, (_, k) => k);
			return [
				...grid.filter((k) => k % wide < bay.across).map((k) => [k, k + 1] as const),
				...grid.filter((k) => k + wide < n).map((k) => [k, k + wide] as const)
			];
		}
		if (kind === 'node') return Array.from({ length: n }, (_, k) => [0, k + 1] as const);
		return Array.from({ length: n - 1 }, (_, k) => [k, k + 1] as const);
	});
	$effect(() => {
		if (!view || !host) return;
		view.show({
			trial: bench.trial,
			corners: host.points,
			sides,
			chosen: shownBy(bench.steps, bench.step),
			pickable: bench.pickable,
			looks: work.project.materials,
			lines: bench.lines
		});
	});
	let fittedTo = '';
	$effect(() => {
		const key = `${kit?.id} ${host?.id}`;
		// The picture is fitted to the first trial of a kit on a host.
		if (!view || !bench.trial || key === fittedTo || held) return;
		fittedTo = key;
		view.fit();
	});

	const quantityOf = (name: string) => shownQuantity(kit!.parameters.find((p) => p.name === name)!.quantity);
	const cornerName = (k: number) =>
		host?.kind === 'node'
			? k
			: host?.kind === 'box' && k >= host.points.length / 2
				? k - host.points.length / 2 + 1
				: k + 1;
	const failed = $derived(bench.trial?.failures ?? []);
	const tried = $derived(Object.entries(bench.values));

	function onkeydown(event: KeyboardEvent) {
		if (event.key === 'Escape' && bench.picking) bench.picking = undefined;
		else if ((event.key === 'f' || event.key === 'F') && event.target === canvas) view?.fit();
		else return;
		event.stopPropagation();
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<section class="grid min-h-0 min-w-0 grid-cols-[284px_1fr_256px]" aria-label="Bench" {onkeydown}>
	{#if kit}
		<StepList />
		<div class="grid min-h-0 min-w-0 grid-rows-[auto_1fr_auto]">
			<header
				class="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-rule bg-sheet px-2.5 py-1.5 text-small"
			>
				<label class="flex min-w-0 items-center gap-1.5">
					<select
						class="rounded border border-control bg-paper py-0.5"
						aria-label="Trial host"
						title="Trial host"
						value={host?.id ?? ''}
						onchange={(e) => {
							const id = e.currentTarget.value;
							if (id === 'project') void bench.takeFromProject();
							else bench.host = bench.hosts.find((h) => h.id === id);
						}}
					>
						{#each bench.hosts as h (h.id)}<option value={h.id}>{h.label}</option>{/each}
						{#if host?.id === 'project'}<option value="project">{host.label}</option>{/if}
					</select>
				</label>
				<button
					class="button"
					title="The chosen cell of the model, or one of {work.face.current
						? `${work.face.current.mass.name} › ${work.face.current.face.name}`
						: 'the chosen face'}"
					onclick={() => bench.takeFromProject()}>From the model</button
				>
				<label class="flex items-center gap-1" title="Lines and points of all steps"
					><input type="checkbox" class="accent-patina" bind:checked={bench.lines} />Lines</label
				>
				<button class="button" title="Fit the picture (F)" onclick={() => view?.fit()}><Maximize size={13} />Fit</button
				>
				<button
					class="button ml-auto"
					disabled={bench.trying !== undefined}
					title="Run the kit over the limits of its parameters and over odd hosts"
					onclick={() => bench.tryLimits()}><Gauge size={13} />Try the limits</button
				>
			</header>
			<div class="relative min-h-0 min-w-0 overflow-hidden bg-paper">
				<canvas
					bind:this={canvas}
					class="absolute inset-0 h-full w-full touch-none"
					tabindex="0"
					aria-label="Picture. Drag a corner to move it, drag elsewhere to turn."
					data-testid="bench-canvas"
				></canvas>
				{#each places as [x, y], k (k)}
					<span
						data-corner={cornerName(k)}
						class="pointer-events-none absolute rounded bg-sheet/85 px-1 text-small font-semibold text-rust"
						style="left: {x + 8}px; top: {y - 20}px">{cornerName(k)}</span
					>
				{/each}
				{#if failure}<p class="absolute inset-0 m-auto h-fit max-w-sm p-6 text-center text-rust" role="alert">
						{failure}
					</p>{/if}
				{#if bench.picking}
					<p class="absolute top-2 left-3 rounded border border-patina bg-sheet px-2.5 py-1 text-small" role="status">
						Click a {bench.picking.form.of.filter((f) => f === 'point' || f === 'line').join(' or a ')} for {bench
							.picking.step}. Esc ends.
					</p>
				{:else if tried.length}
					<p class="absolute top-2 left-3 rounded border border-ochre bg-sheet px-2.5 py-1 text-small" role="status">
						Tried with {tried
							.map(
								([name, value]) =>
									`${kit.parameters.find((p) => p.name === name)?.label ?? name} ${typeof value === 'number' ? printFull(value, quantityOf(name), unit) : value}`
							)
							.join(', ')}.
						<button class="ml-1 text-patina underline" onclick={() => (bench.values = {})}>Back to the defaults</button>
					</p>
				{/if}
				<p class="pointer-events-none absolute bottom-2 left-3 rounded bg-paper/80 px-1 text-small text-soft">
					{kit.name} · for {hostInWords(kit)} · version {kit.version}
				</p>
			</div>
			<footer class="max-h-[40vh] overflow-auto border-t border-rule bg-sheet">
				<p
					class="px-3 py-1 text-small {bench.trial?.error || failed.length ? 'text-rust' : 'text-soft'}"
					role="status"
					data-testid="bench-state"
				>
					{#if !bench.trial}Working …
					{:else if bench.trial.error}{bench.trial.error.message}
					{:else if failed.length}{failed.map((f) => `${f.step}: ${f.reason}`).join(' · ')}
					{:else}Fits this host · {bench.trial.time.toFixed(2)} ms and {(bench.trial.bytes / 1024).toFixed(1)} kB a host{/if}
				</p>
				<LimitsPane />
			</footer>
		</div>
		<ParameterPane />
	{:else}
		<p class="col-span-3 m-auto max-w-sm p-6 text-center text-soft">
			This project has no kit. Make one, or take a starter, at the left.
		</p>
	{/if}
</section>
