<script lang="ts">
	import Download from '@lucide/svelte/icons/download';
	import FileUp from '@lucide/svelte/icons/file-up';
	import PenLine from '@lucide/svelte/icons/pen-line';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import X from '@lucide/svelte/icons/x';
	import { onMount } from 'svelte';
	import { printCorners, usersOf } from '$lib/editor/ownTilings.ts';
	import { partColour } from '$core/drawing/partColours.ts';
	import type { UnitEdit } from '$lib/editor/unitEdit.svelte.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { UnitCanvas } from '$lib/stage/unitCanvas.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';

	let { edit }: { edit: UnitEdit } = $props();

	const work = useWorkspace();
	const tiling = $derived(edit.tiling!);
	const unit = $derived(tiling.unit);
	const faults = $derived(edit.faults);
	const cell = $derived(edit.selected === undefined ? undefined : unit.cells[edit.selected]);
	const users = $derived(usersOf(work.project, tiling.id));
	let container: HTMLDivElement;
	let canvas = $state.raw<UnitCanvas>();
	let files: HTMLInputElement;
	/** What is wrong with the corners typed for a cell. */
	let fault = $state<{ readonly cell: number; readonly message: string }>();
	const cornersError = $derived(fault && fault.cell === edit.selected ? fault.message : undefined);
	function takeCorners(k: number, text: string) {
		const unchanged = text.trim() === printCorners(unit.cells[k]!.corners);
		const message = unchanged ? undefined : edit.setCorners(text);
		fault = message === undefined ? undefined : { cell: k, message };
	}

	onMount(() => {
		const style = getComputedStyle(container);
		const colour = (name: string) => style.getPropertyValue(`--${name}`).trim();
		const made = new UnitCanvas(container, {
			ink: colour('ink'),
			soft: colour('soft'),
			rule: colour('control'),
			paper: colour('sheet'),
			patina: colour('patina'),
			rust: colour('rust'),
			ochre: colour('ochre'),
			roles: [colour('wash'), ...[0, 1, 2, 3, 6, 7].map(partColour)]
		});
		made.onselect = (k) => edit.choose(k);
		made.oncorner = (k) => (edit.corner = k);
		made.onmove = (k, to, done) => edit.move(k, to, done);
		made.onpoint = (at) => edit.addPoint(at);
		canvas = made;
		return () => made.dispose();
	});
	$effect(() =>
		canvas?.show({
			unit,
			overlaps: faults.overlaps,
			gaps: faults.gaps,
			selected: edit.selected,
			corner: edit.corner,
			drawing: edit.drawing,
			parts: edit.parts
		})
	);

	const resize = (side: 'width' | 'height', size: number) => {
		edit.commit('Change unit', () => ({ ...unit, [side]: size }));
		return edit.error;
	};

	function onkeydown(event: KeyboardEvent) {
		if ((event.target as HTMLElement).closest('input, select, textarea') || event.ctrlKey || event.metaKey) return;
		const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
		if (edit.drawing) {
			if (event.key === 'Enter') edit.finish();
			else if (event.key === 'Escape') edit.drawing = undefined;
			else if (event.key === 'Backspace') edit.stepBack();
			else return;
		} else if (way && edit.corner !== undefined) edit.step(way[0]!, way[1]!);
		else if (event.key === 'Delete') edit.remove();
		else if (event.key === 'n' || event.key === 'N') edit.nextCorner();
		else if (event.key === 'Escape') work.unitEdit = undefined;
		else return;
		event.preventDefault();
		event.stopPropagation();
	}

	async function bringIn(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		const id = file && edit.bringIn(await file.text());
		if (id) work.editTiling(id);
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<section class="flex min-h-0 flex-col border-l border-rule bg-sheet" aria-label="Unit of the tiling" {onkeydown}>
	<header class="flex items-center gap-2 border-b border-rule px-3 py-1.5">
		<h2 class="truncate font-semibold">{tiling.name}</h2>
		<span class="truncate text-small text-soft" title={users.join(', ')}
			>{users.length === 1 ? `on ${users[0]}` : `on ${users.length} faces`}</span
		>
		<button
			class="button ml-auto shrink-0 text-small"
			title="Save this tiling as a JSON file"
			onclick={() => edit.save()}><Download size={13} />Save</button
		>
		<button
			class="button shrink-0 text-small"
			title="Bring in a tiling from a JSON file, and put it on this face"
			onclick={() => files.click()}><FileUp size={13} />Bring in</button
		>
		<input
			bind:this={files}
			type="file"
			accept=".json,application/json"
			class="hidden"
			aria-label="Tiling file"
			onchange={bringIn}
		/>
		<button
			class="rounded p-1 text-soft hover:text-patina"
			title="Close (Esc)"
			aria-label="Close the unit"
			onclick={() => (work.unitEdit = undefined)}><X size={15} /></button
		>
	</header>
	<div class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-3 py-1.5 text-small">
		<button
			class="button {edit.drawing ? 'border-patina text-patina' : ''}"
			aria-pressed={edit.drawing !== undefined}
			title="Click corner after corner; the first one again, or Enter, ends the cell"
			onclick={() => (edit.drawing = edit.drawing ? undefined : [])}><PenLine size={13} />Draw a cell</button
		>
		<label
			class="flex items-center gap-1.5"
			title="New and dragged corners snap to these parts of a field, and to corners that there are"
		>
			Snap to
			<select class="rounded border border-control bg-paper py-0.5" bind:value={edit.parts}>
				{#each [1, 2, 3, 4, 6, 12] as n (n)}<option value={n}>{n === 1 ? 'fields' : `1/${n} field`}</option>{/each}
			</select>
		</label>
		<label
			class="flex items-center gap-1.5"
			title="A moved corner takes the corners of neighbours at the same place along"
			><input type="checkbox" class="accent-patina" bind:checked={edit.together} />Move together</label
		>
		<label class="flex items-center gap-1.5" title="Gaps between the cells are meant"
			><input
				type="checkbox"
				class="accent-patina"
				checked={unit.open}
				onchange={(e) => edit.commit('Leave parts open', () => ({ ...unit, open: e.currentTarget.checked }))}
			/>Partly open</label
		>
	</div>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div
		bind:this={container}
		class="min-h-0 grow overflow-hidden bg-paper {edit.drawing ? 'cursor-crosshair' : ''}"
		tabindex="0"
		role="application"
		aria-label="Unit. N chooses the next corner of the chosen cell, arrow keys move it, Delete removes the cell."
		data-testid="unit-canvas"
	></div>
	{#if edit.error}<p class="border-t border-rust px-3 py-1 text-small whitespace-pre-line text-rust" role="alert">
			{edit.error}
		</p>{/if}
	<p
		class="border-t px-3 py-1 text-small {faults.message ? 'border-ochre text-ochre-ink' : 'border-rule text-soft'}"
		role="status"
		data-testid="unit-state"
	>
		{#if edit.drawing}{edit.drawing.length < 3
				? 'Click the corners of the new cell.'
				: 'Click the first corner again, or press Enter.'}
		{:else}{faults.message ??
				(unit.open
					? `Covers ${Math.round(faults.covered * 100)} % of the plane once, as meant.`
					: 'Covers the plane once, without overlap or gap.')}{/if}
	</p>
	<footer class="grid h-[148px] shrink-0 grid-cols-[190px_1fr] gap-x-4 overflow-auto border-t border-rule px-3 py-1.5">
		<div>
			<TextField label="Name" value={tiling.name} oncommit={(name) => edit.rename(name)} />
			{#each [['width', 'Across'], ['height', 'Up']] as const as [side, label] (side)}
				<NumberField
					{label}
					help="Fields of the grid that the unit covers"
					quantity="count"
					unit={work.project.units}
					value={unit[side]}
					onpreview={() => undefined}
					oncommit={(v) => resize(side, v)}
					onrevert={() => undefined}
				/>
			{/each}
			<button
				class="button mt-1 text-small"
				title={users.length ? `${users.join(', ')} will be rectangular` : 'No face has it'}
				onclick={() => edit.removeTiling()}><Trash2 size={13} />Remove the tiling</button
			>
		</div>
		{#if cell && edit.selected !== undefined}
			{@const k = edit.selected}
			<div class="grid grid-cols-[1fr_auto] content-start gap-x-2">
				{#key k}<TextField
						label="Role of {k + 1}"
						help="What kind of cell it is; marks, colours and kits may go by it"
						value={cell.role}
						oncommit={(role) => edit.setRole(role)}
					/>{/key}
				<button class="button my-1.5 text-small" title="Remove this cell (Delete)" onclick={() => edit.remove()}
					><Trash2 size={13} />Cell</button
				>
				<div class="col-span-2 grid grid-cols-[96px_1fr] gap-x-2">
					<label
						for="unit-corners"
						class="text-soft"
						title="One corner a line: across, up, in fields; 1/3 is a third of a field">Corners</label
					>
					<textarea
						id="unit-corners"
						class="field figure h-20 text-small"
						spellcheck="false"
						value={printCorners(cell.corners)}
						aria-invalid={cornersError ? 'true' : undefined}
						onblur={(e) => takeCorners(k, e.currentTarget.value)}></textarea>
				</div>
				{#if cornersError}<p class="col-span-2 text-small text-rust" role="alert">{cornersError}</p>{/if}
			</div>
		{:else}
			<p class="self-center text-small text-soft">
				The dashed frame is the unit; it is repeated over the face. Click a cell to change its corners and its role, or
				draw a new one.
			</p>
		{/if}
	</footer>
</section>
