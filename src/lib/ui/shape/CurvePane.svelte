<script lang="ts">
	import FileUp from '@lucide/svelte/icons/file-up';
	import FlipHorizontal2 from '@lucide/svelte/icons/flip-horizontal-2';
	import Maximize from '@lucide/svelte/icons/maximize';
	import RefreshCcw from '@lucide/svelte/icons/refresh-ccw';
	import Spline from '@lucide/svelte/icons/spline';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import X from '@lucide/svelte/icons/x';
	import { onMount } from 'svelte';
	import {
		arcThrough,
		insertPoint,
		middleOf,
		mirrorLine,
		movePoint,
		removePoint,
		reverseLine,
		withPoint
	} from '$lib/editor/drawing.ts';
	import { readLine } from '$lib/editor/lineFiles.ts';
	import { setAt } from '$lib/editor/paths.ts';
	import { profileOutline } from '$lib/editor/profiles.ts';
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { type Drawing } from '$lib/editor/workspace.svelte.ts';
	import { CurveCanvas } from '$lib/stage/curveCanvas.ts';
	import { messageOf } from '$core/errors.ts';
	import type { DrawnProfile } from '$core/mass/profile.ts';
	import NumberField from '../NumberField.svelte';

	let { drawing }: { drawing: Drawing } = $props();

	const work = useWorkspace();
	const edit = new PathEdit(
		'shape',
		work,
		() => drawing.path,
		() => drawing.label
	);
	const line = $derived(edit.value as DrawnProfile);
	const n = $derived(line.points.length);
	let chosen = $state<number>();
	const k = $derived(chosen !== undefined && chosen < n ? chosen : undefined);
	const point = $derived(k === undefined ? undefined : line.points[k]!);
	let container: HTMLDivElement;
	let canvas = $state.raw<CurveCanvas>();
	let grid = $state(1000);
	let snap = $state(true);
	let error = $state<string>();
	let unit = $state(1);
	let files: HTMLInputElement;

	const PLANES = {
		plan: ['East', 'North', 'Seen from above, north up'],
		section: ['Along', 'Height', 'Upright: the way and the height'],
		radius: ['Radius', 'Height', 'Distance from the axis, and height']
	} as const;
	const [first, second, explained] = $derived(PLANES[drawing.plane]);

	const commit = (label: string, next: DrawnProfile) => {
		if (next !== line) error = work.editor.commit(label, setLine(next));
	};
	const setLine = (next: DrawnProfile) =>
		work.face.onMass((mass) => setAt(mass.shape, drawing.path, structuredClone(next)));
	const preview = (next: DrawnProfile) => (error = work.editor.preview(setLine(next)));
	/** Half a field of the grid, so that the middle can be hit too. */
	const snapped = (v: number) => (snap ? Math.round(v / (grid / 2)) * (grid / 2) : Math.round(v));

	/** Shows a change while it goes on; what is not possible is left for the last that was. */
	function drag(label: string, make: (line: DrawnProfile) => DrawnProfile, done: boolean) {
		from ??= line;
		const next = make(from);
		preview(next);
		if (!error) last = next;
		if (!done) return;
		if (last) commit(label, last);
		else work.editor.revert();
		error = from = last = undefined;
	}
	let from: DrawnProfile | undefined;
	let last: DrawnProfile | undefined;

	onMount(() => {
		const style = getComputedStyle(container);
		const colour = (name: string) => style.getPropertyValue(`--${name}`).trim();
		canvas = new CurveCanvas(container, {
			line: colour('patina'),
			fill: colour('wash'),
			point: colour('rust'),
			rule: colour('rule'),
			paper: colour('sheet'),
			text: colour('soft')
		});
		canvas.onselect = (at) => (chosen = at);
		canvas.ongrid = (step) => (grid = step);
		canvas.onmove = (at, x, y, done) => drag('Move point', (l) => movePoint(l, at, snapped(x), snapped(y)), done);
		canvas.onarc = (at, x, y, done) =>
			drag('Bend stretch', (l) => withPoint(l, at, { arc: arcThrough(l, at, x, y) }), done);
		canvas.oninsert = (at, x, y) => {
			commit('Add point', insertPoint(line, at, snapped(x), snapped(y)));
			if (!error) chosen = at + 1;
		};
		return () => canvas?.dispose();
	});
	$effect(() => {
		canvas?.show({
			points: line.points,
			outline: profileOutline(line),
			middles: Array.from({ length: line.closed ? n : n - 1 }, (_, s) => middleOf(line, s)),
			selected: k,
			closed: line.closed,
			axis: drawing.plane === 'radius'
		});
	});

	function onkeydown(event: KeyboardEvent) {
		if ((event.target as HTMLElement).closest('input, select')) return;
		const step = (snap ? grid / 2 : 10) * (event.shiftKey ? 10 : 1);
		const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
		if (way && k !== undefined)
			commit('Move point', movePoint(line, k, point!.x + way[0]! * step, point!.y + way[1]! * step));
		else if (event.key === 'Delete' && k !== undefined) remove();
		else if (event.key === 'n' || event.key === 'N') chosen = ((k ?? -1) + 1) % n;
		else if (event.key === 'Escape') work.drawing = undefined;
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	const remove = () => {
		commit('Remove point', removePoint(line, k!));
		chosen = Math.max(0, k! - 1);
	};

	async function bringIn(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		if (!file) return;
		try {
			commit(`Bring in ${file.name}`, readLine(file.name, await file.text(), unit));
			if (!error) canvas?.fit();
		} catch (cause) {
			error = messageOf(cause);
		}
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<section class="flex min-h-0 flex-col border-l border-rule bg-sheet" aria-label="Drawing: {drawing.label}" {onkeydown}>
	<header class="flex items-center gap-1.5 border-b border-rule px-3 py-1.5">
		<h2 class="font-semibold">{drawing.label}</h2>
		<span class="truncate text-small text-soft">{explained}</span>
		<button
			class="ml-auto rounded p-1 text-soft hover:text-patina"
			title="Close (Esc)"
			aria-label="Close the drawing"
			onclick={() => (work.drawing = undefined)}><X size={15} /></button
		>
	</header>
	<div class="flex flex-wrap items-center gap-1.5 border-b border-rule px-3 py-1.5 text-small">
		<button class="button" title="Bring the whole line into the picture" onclick={() => canvas?.fit()}
			><Maximize size={13} />Fit</button
		>
		<button class="button" title="Left and right change over" onclick={() => commit('Mirror line', mirrorLine(line))}
			><FlipHorizontal2 size={13} />Mirror</button
		>
		{#if !line.closed}
			<button
				class="button"
				title="Run the line the other way; its outside is to the right of the way"
				onclick={() => commit('Reverse line', reverseLine(line))}><RefreshCcw size={13} />Reverse</button
			>
		{/if}
		{#if !drawing.closed}
			<label class="flex items-center gap-1.5" title="The last point runs on to the first">
				<input
					type="checkbox"
					class="accent-patina"
					checked={line.closed}
					onchange={(e) => commit('Close line', { ...line, closed: e.currentTarget.checked })}
				/>Closed
			</label>
		{/if}
		<label class="flex items-center gap-1.5" title="Points snap to half a field of the grid">
			<input type="checkbox" class="accent-patina" bind:checked={snap} />Snap
		</label>
		<span class="ml-auto flex items-center gap-1">
			<select
				class="rounded border border-control bg-paper py-0.5"
				bind:value={unit}
				aria-label="Unit of the file"
				title="Unit where the file does not say"
			>
				<option value={1}>mm</option>
				<option value={10}>cm</option>
				<option value={1000}>m</option>
				<option value={25.4}>in</option>
				<option value={304.8}>ft</option>
			</select>
			<button class="button" title="Take the longest line of an SVG or DXF file" onclick={() => files.click()}
				><FileUp size={13} />From a file</button
			>
			<input
				bind:this={files}
				type="file"
				accept=".svg,.dxf"
				class="hidden"
				aria-label="Line file"
				onchange={bringIn}
			/>
		</span>
	</div>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div
		bind:this={container}
		class="min-h-0 grow bg-paper"
		tabindex="0"
		role="application"
		aria-label="Line. N chooses the next point, arrow keys move it, Delete removes it."
		data-testid="curve-canvas"
	></div>
	{#if error}<p class="border-t border-rust px-3 py-1 text-small whitespace-pre-line text-rust" role="alert">
			{error}
		</p>{/if}
	<footer class="grid h-[104px] shrink-0 content-center border-t border-rule px-3 py-1">
		{#if point && k !== undefined}
			<div class="grid grid-cols-2 gap-x-4">
				<NumberField
					label="{first} of {k + 1}"
					quantity="length"
					unit={work.project.units}
					step={100}
					value={point.x}
					onpreview={(v) => preview(movePoint(line, k, v, point.y))}
					oncommit={(v) => work.editor.commit('Move point', setLine(movePoint(line, k, v, point.y)))}
					onrevert={edit.revert}
				/>
				<NumberField
					label="{second} of {k + 1}"
					quantity="length"
					unit={work.project.units}
					step={100}
					value={point.y}
					onpreview={(v) => preview(movePoint(line, k, point.x, v))}
					oncommit={(v) => work.editor.commit('Move point', setLine(movePoint(line, k, point.x, v)))}
					onrevert={edit.revert}
				/>
			</div>
			<div class="flex items-center gap-2 text-small">
				<button
					class="button"
					aria-pressed={point.smooth}
					title="Smooth points are round, corners are square"
					onclick={() =>
						commit(point.smooth ? 'Make corner' : 'Make smooth', withPoint(line, k, { smooth: !point.smooth }))}
				>
					<Spline size={13} />{point.smooth ? 'Make it a corner' : 'Make it smooth'}
				</button>
				{#if point.arc !== 0}
					<button class="button" onclick={() => commit('Straighten stretch', withPoint(line, k, { arc: 0 }))}
						>Straighten the arc after it</button
					>
				{/if}
				<button
					class="button ml-auto"
					disabled={removePoint(line, k) === line}
					title="Remove this point (Delete)"
					onclick={remove}><Trash2 size={13} />Remove</button
				>
			</div>
		{:else}
			<p class="text-small text-soft">
				Drag a point, or the small diamond between two to bend an arc. Double-click the line to add a point. Click a
				point to type its place.
			</p>
		{/if}
	</footer>
</section>
