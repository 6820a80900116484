<script lang="ts">
	import { pathLines } from '$lib/stage/pathLines.ts';
	import Maximize from '@lucide/svelte/icons/maximize';
	import { onMount } from 'svelte';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { ModelPicture } from '$lib/editor/modelPicture.svelte.ts';
	import { PathPoints } from '$lib/editor/pathPoints.svelte.ts';
	import { partColour } from '$core/drawing/partColours.ts';
	import { ReferenceSurfaces } from '$lib/editor/referenceSurfaces.svelte.ts';
	import { SpaceHandles } from '$lib/editor/spaceHandles.svelte.ts';
	import type { PickRay } from '$lib/stage/spacePointer.ts';
	import { SpaceView } from '$lib/stage/spaceView.ts';
	import type { FaceView } from '$core/view/faceView.ts';
	import { STANDARD_VIEWS, STANDARD_VIEW_NAMES, type StandardView } from '$lib/stage/standardViews.ts';
	import CellCard from './CellCard.svelte';
	import OverlayMenu from './OverlayMenu.svelte';
	import Legend from './readings/Legend.svelte';
	import RuleLegend from './placement/RuleLegend.svelte';

	const COLOURS = [
		['rule', 'Rules'],
		['kit', 'Kits'],
		['field', 'Field']
	] as const;

	const work = useWorkspace();
	let canvas: HTMLCanvasElement;
	let failure = $state<string>();
	let lost = $state(false);
	/** Lines of faces are not drawn since their cells are too small in the picture. */
	let tooFar = $state(false);
	let picking = false;
	const pathPoints = new PathPoints(work);

	const { colours, placement } = work;
	const picture = new ModelPicture(work, () => getComputedStyle(canvas).getPropertyValue('--inside').trim());
	$effect(() => picture.followPlace());
	$effect(() => picture.follow());
	const handles = new SpaceHandles(work, picture);
	const references = new ReferenceSurfaces(work);
	$effect(() => references.follow());
	const view = $derived(picture.view);
	const colouring = $derived(picture.colouring);
	const chosen = $derived(view ? work.selection.addresses(view) : []);
	const run = $derived(work.runner.state);
	// What an edit leaves as it was does not have the model from before it drawn once more.
	const materials = $derived(work.project.materials);
	const faceView = $derived(view?.faces.find((f) => f.key === work.face.current?.key));
	const openPath = $derived(work.openPath?.id);

	onMount(() => {
		try {
			const space = new SpaceView(canvas, {
				clicked: (ray, add) => {
					if (pathPoints.drawing) void pathPoints.click(ray).then((error) => (handles.error = error));
					else void pick(ray).then((at) => view && work.selection.choose(view, at, add));
				},
				boxed: (cells) => view && work.selection.chooseAll(view, cells),
				hovered: (ray) => void hover(ray),
				dragged: (k, way, done) => handles.drag(k, way, done),
				panesWanted: () => (picture.wantsPanes = true),
				linesLeftOut: (some) => (tooFar = some),
				contextLost: (gone) => (lost = gone),
				overHandle: (k, x, y) => (over = k === undefined ? undefined : { label: handles.list[k]?.label ?? '', x, y })
			});
			work.space = space;
			return () => {
				work.space = undefined;
				space.dispose();
			};
		} catch (cause) {
			failure = `The model cannot be drawn: this browser has no WebGL (${(cause as Error).message}). The schedule and the files work without it.`;
		}
	});

	const pick = async (ray: PickRay) => work.runner.ask((api) => api.pick(ray.origin, ray.direction));

	/** One question at a time; where the pointer was meanwhile does not matter. */
	async function hover(ray: PickRay | undefined) {
		if (!ray) return void (work.selection.hovered = undefined);
		if (picking) return;
		picking = true;
		try {
			work.selection.hovered = await pick(ray);
		} finally {
			picking = false;
		}
	}

	/** A text, so that other colours of the same faces do not build the model anew. */
	const colouredKeys = $derived(colouring?.faces.map((f) => f.face.key).join(' '));
	$effect(() => work.space?.setDetail(work.detail));
	$effect(() => {
		// What is not seen is shown when it is seen again.
		const { early } = picture;
		if (!work.space || !(early ?? view) || work.place === 'kits') return;
		const style = getComputedStyle(canvas);
		const colour = (name: string) => style.getPropertyValue(`--${name}`).trim();
		const look = {
			materials,
			line: colour('ink'),
			bare: picture.bare,
			curves: picture.lines,
			coloured: colouredKeys === undefined ? undefined : new Set(colouredKeys.split(' ')),
			body: { outside: colour('outside'), inside: colour('inside') },
			plain: colour('inside'),
			panes: picture.panes,
			references: references.list,
			reference: colour('reference')
		};
		if (early) work.space.setEarly(early, look);
		else if (view) work.space.setModel(view, look);
	});
	// After the model, whose origin they hang on.
	$effect(() => handles.follow());
	$effect(() => work.space?.setColours(colouring));
	const incoming = $derived(handles.incoming);
	$effect(() => {
		const parts = incoming?.parts;
		work.space?.setPreview(
			parts && { origin: parts.origin, parts: parts.parts.map((p, k) => ({ ...p, colour: partColour(k) })) }
		);
	});
	$effect(() => {
		if (incoming?.parts)
			work.space?.setPreviewLines(
				incoming.linesOf(incoming.face),
				getComputedStyle(canvas).getPropertyValue('--ink').trim()
			);
	});
	let over = $state<{ label: string; x: number; y: number }>();
	$effect(() => work.space?.setSelection(chosen));
	/** Edges of the chosen face as they follow it, asked for when they are to be seen. */
	let curves = $state.raw<{ face: FaceView; segments: Float32Array }>();
	$effect(() => {
		const face = faceView;
		if (!face || !work.overlay.curves) return;
		void work.runner
			.ask((api) => api.curves(face.hash))
			.then((segments) => {
				if (segments && work.face.view === face) curves = { face, segments };
			});
	});
	$effect(() => {
		const face = faceView;
		const cells = face ? chosen.filter((a) => view!.faces[a.face] === face).map((a) => a.cell) : [];
		const style = getComputedStyle(canvas);
		work.space?.setOverlay({
			face,
			choice: work.overlay,
			cells,
			ink: style.getPropertyValue('--ink').trim(),
			accent: style.getPropertyValue('--patina').trim(),
			curves:
				face && pathLines(face, openPath, work.overlay.curves && curves?.face === face ? curves.segments : undefined)
		});
	});
	$effect(() => {
		const at = work.selection.hovered;
		// An address of an earlier model may point past the end of this one.
		work.space?.setHover(at && at.cell < (view?.faces[at.face]?.cellCount ?? 0) ? at : undefined);
	});

	function onkeydown(event: KeyboardEvent) {
		const turn = 0.12;
		const action: Record<string, () => void> = {
			ArrowLeft: () => work.space?.turn(-turn, 0),
			ArrowRight: () => work.space?.turn(turn, 0),
			ArrowUp: () => work.space?.turn(0, turn),
			ArrowDown: () => work.space?.turn(0, -turn),
			'+': () => work.space?.turn(0, 0, 0.85),
			'-': () => work.space?.turn(0, 0, 1 / 0.85),
			...(pathPoints.drawing ? { Escape: () => (work.flat.tool = 'select') } : {})
		};
		if (!action[event.key] || event.ctrlKey || event.metaKey) return;
		event.preventDefault();
		action[event.key]!();
	}
</script>

<section class="relative min-h-0 min-w-0 overflow-hidden bg-paper" aria-label="Model in space">
	<canvas
		bind:this={canvas}
		class="absolute inset-0 h-full w-full touch-none"
		tabindex="0"
		aria-label="Model. Arrow keys turn it, plus and minus zoom."
		{onkeydown}
	></canvas>
	{#if lost}
		<p class="absolute inset-0 m-auto h-fit max-w-md p-6 text-center text-rust" role="alert">
			The graphics card has dropped the picture. It is drawn again as soon as the card is back; nothing of the project
			is lost.
		</p>
	{/if}
	{#if failure}
		<p class="absolute inset-0 m-auto h-fit max-w-md p-6 text-rust" role="alert">{failure}</p>
	{:else if view && view.bodies.length === 0}
		<p class="absolute inset-0 m-auto h-fit max-w-sm p-6 text-center text-soft">
			Nothing to show yet. Add a mass at the left, and its faces appear here.
		</p>
	{/if}
	<p class="pointer-events-none absolute bottom-2 left-3 rounded bg-paper/80 px-1 text-small text-soft">
		{pathPoints.drawing
			? `Model · click points of ${work.openPath!.name} on its face; Escape ends it`
			: 'Model · drag to turn, right drag to move, wheel to zoom, Shift and drag to choose'}
		{#if tooFar}· come nearer to see the lines of small cells{/if}
	</p>
	<div class="absolute top-2 right-2.5 flex gap-1.5">
		<button
			class="button text-small"
			title="Fit everything, or what is chosen (F)"
			onclick={() => work.space?.fit(chosen)}
		>
			<Maximize size={13} />Fit
		</button>
		{#if work.place === 'placement'}
			<div class="flex rounded border border-control bg-sheet text-small" role="group" aria-label="Colour by">
				{#each COLOURS as [by, label] (by)}
					<button
						class="px-2 py-[3px] first:rounded-l last:rounded-r {placement.colours === by
							? 'bg-wash text-patina'
							: 'hover:bg-wash/60'}"
						aria-pressed={placement.colours === by}
						disabled={by === 'field' && !placement.field}
						title={by === 'field' && !placement.field
							? 'Open a field first'
							: `Colour the cells by ${label.toLowerCase()}`}
						onclick={() => (placement.colours = placement.colours === by ? 'none' : by)}>{label}</button
					>
				{/each}
			</div>
		{/if}
		<OverlayMenu />
		<label>
			<span class="sr-only">Standard view</span>
			<select
				class="button w-20 text-small"
				value=""
				onchange={(e) => {
					work.space?.look(e.currentTarget.value as StandardView);
					e.currentTarget.value = '';
				}}
			>
				<option value="" disabled>View</option>
				{#each STANDARD_VIEW_NAMES as name (name)}
					<option value={name}>{STANDARD_VIEWS[name].label} ({STANDARD_VIEWS[name].key})</option>
				{/each}
			</select>
		</label>
	</div>
	{#if colouring && colours.classes?.legend.length}
		<RuleLegend
			title={colours.title}
			legend={colours.classes.legend}
			onchoose={(k) => view && work.selection.chooseAll(view, colours.cellsOf(k))}
			onclose={() => (colours.by === 'changes' ? (work.issues.coloured = false) : (placement.colours = 'none'))}
		/>
	{:else if colouring && !colours.classes}<Legend />{/if}
	{#if over}
		<p
			class="pointer-events-none absolute rounded border border-rule bg-sheet px-2 py-0.5 text-small shadow-sm"
			style="left: {over.x + 14}px; top: {over.y + 10}px"
		>
			{over.label}
		</p>
	{/if}
	{#if handles.error}
		<p
			class="pointer-events-none absolute top-9 left-3 max-w-md rounded border border-rust bg-sheet px-2.5 py-1 text-small whitespace-pre-line text-rust"
			role="alert"
		>
			{handles.error}
		</p>
	{/if}
	{#if run.kind === 'running'}
		<div
			class="absolute top-2 left-3 flex items-center gap-2 rounded border border-rule bg-sheet px-2.5 py-1 text-small"
			role="status"
		>
			<progress class="h-1.5 w-24" value={run.share}></progress>
			{run.what}
			<button class="text-patina underline" onclick={() => work.runner.cancel()}>Stop</button>
		</div>
	{:else if run.kind === 'heavy'}
		<div
			class="absolute top-2 left-3 max-w-md rounded border border-ochre bg-sheet px-2.5 py-1 text-small"
			role="status"
			data-testid="heavy"
		>
			{run.message}
			{view ? 'The model is from before.' : ''}
			<button class="text-patina underline" onclick={() => work.runner.resume(true)}>Compute it</button>
			{#if work.editor.undoLabel}
				<button class="text-patina underline" onclick={() => work.editor.undo()}>Undo {work.editor.undoLabel}</button>
			{/if}
		</div>
	{:else if work.runner.held && work.runner.stale}
		{@const { waiting } = work.runner}
		<div
			class="absolute top-2 left-3 max-w-lg rounded border border-ochre bg-sheet px-2.5 py-1 text-small"
			role="status"
			data-testid="held"
		>
			Held: {waiting.length > 1 ? `${waiting.length} edits wait` : 'one edit waits'}{#if waiting.length}
				<span class="text-soft">({waiting.slice(-3).join(', ')}{waiting.length > 3 ? ', …' : ''})</span>{/if}. The model
			is from before.
			<button class="text-patina underline" title="Ctrl+Enter" onclick={() => work.runner.resume()}>Compute now</button>
			<button class="text-patina underline" title="G" onclick={() => work.runner.hold(false)}>Go live again</button>
		</div>
	{:else if run.kind === 'stopped'}
		<div
			class="absolute top-2 left-3 flex items-center gap-2 rounded border border-ochre bg-sheet px-2.5 py-1 text-small"
			role="status"
		>
			Stopped. The model is from before the last edit.
			<button class="text-patina underline" onclick={() => work.runner.resume()}>Compute it now</button>
		</div>
	{:else if run.kind === 'died'}
		<div
			class="absolute top-2 left-3 max-w-md rounded border border-rust bg-sheet px-2.5 py-1 text-small text-rust"
			role="alert"
		>
			{run.edit ? `“${run.edit}” cannot be computed.` : 'The change under way cannot be computed.'}
			{run.message} The model is from before it; nothing that was saved is lost.
			<span class="flex gap-3">
				{#if run.edit && work.editor.undoLabel === run.edit}
					<button class="text-patina underline" onclick={() => work.editor.undo()}>Undo it</button>
				{/if}
				<button class="text-patina underline" onclick={() => work.runner.resume()}>Try again</button>
			</span>
		</div>
	{:else if run.kind === 'failed'}
		<p
			class="absolute top-2 left-3 max-w-md rounded border border-rust bg-sheet px-2.5 py-1 text-small text-rust"
			role="alert"
		>
			{run.message}
		</p>
	{/if}
	{#if view && chosen[0]}
		<CellCard {view} at={chosen[0]} more={chosen.length - 1} />
	{/if}
</section>
