<script lang="ts">
	import Maximize from '@lucide/svelte/icons/maximize';
	import X from '@lucide/svelte/icons/x';
	import { onMount, untrack } from 'svelte';
	import { DevelopedEvents } from '$lib/editor/developedEvents.svelte.ts';
	import { FLAT_TOOLS, type FlatTool } from '$lib/editor/flatState.svelte.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { fieldNumber, zoneFields } from '$lib/editor/zones.ts';
	import { FlatCanvas } from '$lib/stage/flatCanvas.ts';
	import type { FlatColours } from '$lib/stage/flatFrame.ts';
	import { FlatPointer } from '$lib/stage/flatPointer.ts';
	import { FlatScene } from '$lib/stage/flatScene.ts';
	import { printFull } from '$core/units/print.ts';
	import FlatToolIcon from './FlatToolIcon.svelte';

	const work = useWorkspace();
	const flat = work.flat;
	let element: HTMLCanvasElement;
	let canvas = $state.raw<FlatCanvas>();

	const view = $derived(work.runner.view);
	const index = $derived(view?.faces.findIndex((f) => f.key === work.face.current?.key) ?? -1);
	$effect(() => {
		// Asked anew for every model.
		void view;
		void flat.show(index < 0 ? undefined : work.face.current?.key);
	});
	// A flat face belongs to the model that it was asked for; one of other cells would not fit it.
	const scene = $derived.by(() => {
		const [face, laid] = [view?.faces[index], flat.view];
		if (!face || laid?.key !== face.key || laid.corners.length !== face.corners.length * 2) return undefined;
		return new FlatScene(face, laid);
	});
	const events = new DevelopedEvents(
		work,
		() => scene,
		() => index
	);

	function colours(): FlatColours {
		const style = getComputedStyle(element);
		const of = (name: string) => style.getPropertyValue(`--${name}`).trim();
		return {
			ink: of('ink'),
			soft: of('soft'),
			sheet: of('sheet'),
			patina: of('patina'),
			wash: of('wash'),
			rust: of('rust'),
			ochre: of('ochre'),
			rule: of('rule')
		};
	}

	onMount(() => {
		const made = new FlatCanvas(element, colours, (mm) => printFull(mm, 'length', work.project.units));
		const pointer = new FlatPointer(element, made, events);
		events.cancelDrawing = () => pointer.cancel();
		canvas = made;
		return () => {
			pointer.dispose();
			made.dispose();
		};
	});
	$effect(() => canvas?.setScene(scene));

	const zones = $derived(
		work.project.zones.map(({ name, colour, ...zone }) => {
			const fields = zoneFields({ name, colour, ...zone }, work.face.current?.key ?? '');
			// The stroke under way is shown, and taken into the zone when it is done.
			if (zone.id === flat.zone)
				for (const field of events.stroke)
					if (flat.tool === 'erase') fields.delete(fieldNumber(field));
					else fields.add(fieldNumber(field));
			return { name, colour, has: (row: number, column: number) => fields.has(fieldNumber({ row, column })) };
		})
	);
	const selection = $derived(
		view
			? work.selection
					.addresses(view)
					.filter((a) => a.face === index)
					.map((a) => a.cell)
			: []
	);
	const hovered = $derived(work.selection.hovered?.face === index ? work.selection.hovered.cell : undefined);
	const colouring = $derived.by(() => {
		const { readings, colours: own } = work;
		const none = () => getComputedStyle(element).getPropertyValue('--inside').trim();
		const placed = own.classes?.classes[own.faces.findIndex((f) => f === scene?.face)];
		if (placed) return { host: 'cell' as const, classes: placed, palette: own.palette, none: none() };
		const k = readings.faces.findIndex((f) => f.face === scene?.face);
		const classes = readings.coloured ? readings.classes[k] : undefined;
		return (
			classes && {
				host: readings.reading.host,
				classes,
				palette: readings.scale.palette,
				none: none()
			}
		);
	});
	$effect(() =>
		canvas?.setMarks({
			selection,
			hovered,
			zones,
			colouring,
			opening: flat.opening,
			line: events.line,
			lineClosed: events.lineClosed,
			points: [...events.fieldPoints.lines, ...events.pathPoints.lines]
		})
	);
	$effect(() => {
		// Laid flat anew for every model, and for every change of the open field.
		void view;
		void work.openField;
		void events.fieldPoints.refresh();
	});
	$effect(() => {
		void view;
		void work.openPath;
		void events.pathPoints.refresh();
	});
	// What is chosen elsewhere comes into the picture.
	$effect(() => {
		const [first] = selection;
		if (first !== undefined) untrack(() => canvas?.reveal(first));
	});
	$effect(() => {
		void flat.tool;
		untrack(() => events.cancelDrawing());
	});

	const TOOLS = (Object.keys(FLAT_TOOLS) as FlatTool[]).filter((t) => t !== 'line');
	const usable = (tool: FlatTool) =>
		tool === 'paint' || tool === 'erase' ? flat.zone !== undefined || work.paintedField !== undefined : true;
	const percent = (ratio: number) => `${ratio >= 1 ? '+' : '−'}${(Math.abs(ratio - 1) * 100).toFixed(1)} %`;
</script>

<section
	class="relative min-h-0 min-w-0 overflow-hidden border-rule bg-paper {flat.layout === 'under'
		? 'border-t'
		: 'border-l'}"
	aria-label="Developed view"
>
	<canvas
		bind:this={element}
		class="absolute inset-0 h-full w-full touch-none {flat.tool === 'select' ? '' : 'cursor-crosshair'}"
		tabindex="0"
		data-testid="flat-canvas"
		aria-label="Face laid flat. Arrow keys move it, plus and minus zoom."
	></canvas>
	<div
		class="absolute top-2 left-2 flex rounded border border-control bg-sheet"
		role="toolbar"
		aria-label="Tools of the developed view"
	>
		{#each TOOLS as tool (tool)}
			<button
				class="p-1.5 first:rounded-l last:rounded-r disabled:opacity-35 {flat.tool === tool
					? 'bg-wash text-patina'
					: 'text-soft enabled:hover:text-patina'}"
				title={usable(tool)
					? `${FLAT_TOOLS[tool].label}: ${FLAT_TOOLS[tool].help}`
					: `${FLAT_TOOLS[tool].label}: choose a zone under Setting-out first, or open a painted field under Placement`}
				aria-label={FLAT_TOOLS[tool].label}
				aria-pressed={flat.tool === tool}
				disabled={!usable(tool)}
				onclick={() => (flat.tool = tool)}><FlatToolIcon {tool} /></button
			>
		{/each}
	</div>
	<div class="absolute top-2 right-2 flex gap-1.5">
		<button
			class="button text-small"
			title="Bring the whole face, or what is chosen, into the picture"
			onclick={() => canvas?.fit(selection)}><Maximize size={13} />Fit</button
		>
		<button
			class="button text-small"
			title={flat.layout === 'beside' ? 'Lay it under the model' : 'Lay it beside the model'}
			onclick={() => (flat.layout = flat.layout === 'beside' ? 'under' : 'beside')}
			>{flat.layout === 'beside' ? 'Under' : 'Beside'}</button
		>
		<button
			class="button px-1.5"
			title="Close the developed view (D)"
			aria-label="Close the developed view"
			onclick={() => (flat.layout = 'off')}><X size={13} /></button
		>
	</div>
	{#if index < 0}
		<p class="absolute inset-0 m-auto h-fit max-w-xs p-6 text-center text-soft">
			{view
				? 'This face is not divided, so that there is nothing to lay flat. Its switch is under Mass, what is wrong with its division under Setting-out.'
				: 'The model is on its way.'}
		</p>
	{:else if scene}
		<p
			class="pointer-events-none absolute bottom-2 left-3 rounded bg-paper/80 px-1 text-small text-soft"
			data-testid="flat-stretch"
		>
			{#if scene.flat.unrolls}Developed view · unrolls without stretch
			{:else}Developed view · lengths off by {percent(scene.flat.stretch[0])} to {percent(scene.flat.stretch[1])}{/if}
		</p>
	{/if}
	{#if events.error}
		<p
			class="absolute bottom-9 left-3 max-w-md rounded border border-rust bg-sheet px-2.5 py-1 text-small whitespace-pre-line text-rust"
			role="alert"
		>
			{events.error}
		</p>
	{:else if flat.tool !== 'select'}
		<p class="pointer-events-none absolute bottom-9 left-3 rounded border border-rule bg-sheet px-2 py-0.5 text-small">
			{flat.tool === 'line' && events.pointsAsked
				? `Click ${events.pointsAsked === 1 ? 'the place' : `${events.pointsAsked} places`} on the face`
				: FLAT_TOOLS[flat.tool].help}
		</p>
	{/if}
</section>
