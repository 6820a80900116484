<script lang="ts">
	import { group, headingUnit, printQuantity } from '$core/units/print.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { virtualRows } from '$lib/editor/virtualRows.svelte.ts';
	import type { TypesView } from '$lib/worker/types.ts';
	import type { PieceDrawing } from '$core/schedule/pieceDrawing.ts';
	import PieceSketch from './PieceSketch.svelte';
	import ToleranceCurve from './ToleranceCurve.svelte';
	import TypeRuleForm from './TypeRuleForm.svelte';

	const ROW_HEIGHT = 32;
	/** mm. */
	const THIN = 0.05;
	/** Cells that are chosen at once. */
	const MOST_CHOSEN = 5000;
	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const view = $derived(work.runner.view);
	let found = $state.raw<TypesView>();
	let role = $state('');
	let chosen = $state<string>();
	let note = $state<string>();
	let scroller = $state<HTMLDivElement>();

	// They live in the worker: asked again when the model changes.
	$effect(() => {
		if (!view) return;
		let wanted = true;
		void work.runner
			.ask((api) => api.types())
			.then((types) => {
				if (wanted && types) [found, drawings] = [types, new Map()];
			});
		return () => (wanted = false);
	});
	/** Drawings of types, those that have been in sight; of those that are on their way nothing. */
	let drawings = $state.raw<ReadonlyMap<number, PieceDrawing | undefined>>(new Map());
	async function draw(list: readonly number[]) {
		const types = found;
		drawings = new Map([...drawings, ...list.map((n) => [n, undefined] as const)]);
		const made = await work.runner.ask((api) => api.drawTypes(list));
		if (made && found === types) drawings = new Map([...drawings, ...list.map((n, k) => [n, made[k]] as const)]);
	}
	$effect(() => {
		const missing = $virtualizer
			.getVirtualItems()
			.flatMap(({ index }) => shown[index]?.n ?? [])
			.filter((n) => !drawings.has(n));
		if (missing.length) void draw(missing);
	});
	const fixed = $derived(Object.keys(work.project.types.fixed).length);
	/** Keeps the numbers of all types as they are, or lets them go by frequency again. */
	async function fix(keep: boolean) {
		const numbers = keep ? await work.runner.ask((api) => api.fixedNumbers()) : {};
		if (numbers)
			note = work.editor.commit(keep ? 'Fix numbers of types' : 'Release numbers of types', (draft) => {
				draft.types.fixed = numbers;
			});
	}

	const materials = $derived(new Map(work.project.materials.map((m) => [m.id, m.name])));
	const roles = $derived([...new Set(found?.types.map((t) => t.role))].sort());
	const shown = $derived((found?.types ?? []).map((t, n) => ({ ...t, n })).filter((t) => !role || t.role === role));
	const counted = (n: number, one: string, many: string) => `${group(n, 0)} ${n === 1 ? one : many}`;
	const totals = $derived.by(() => {
		const pieces = shown.reduce((sum, t) => sum + t.count, 0);
		return `${counted(shown.length, 'type', 'types')} of ${counted(pieces, 'piece', 'pieces')}`;
	});

	const virtualizer = virtualRows(
		() => scroller,
		() => shown.length,
		ROW_HEIGHT
	);

	/** Chooses the cells that the pieces of a type are at, in the model and in the developed view. */
	async function choose(k: number) {
		const type = shown[k];
		if (!type) return;
		chosen = type.mark;
		$virtualizer.scrollToIndex(k, { align: 'auto' });
		const cells = await work.runner.ask((api) => api.cellsOfType(type.n));
		if (!cells?.length || !view || work.runner.view !== view) return;
		note =
			cells.length > MOST_CHOSEN
				? `${group(MOST_CHOSEN, 0)} of ${group(cells.length, 0)} cells are chosen.`
				: undefined;
		work.selection.chooseAll(view, cells.slice(0, MOST_CHOSEN));
		work.space?.reveal(cells[0]!);
	}
	function onkeydown(event: KeyboardEvent) {
		const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key];
		if (!step) return;
		event.preventDefault();
		const at = shown.findIndex((t) => t.mark === chosen);
		void choose(Math.max(0, Math.min(shown.length - 1, at + step)));
	}
	const large = $derived.by(() => {
		const type = shown.find((t) => t.mark === chosen);
		const drawing = type && drawings.get(type.n);
		if (!type || !drawing) return undefined;
		const { width, height, depth } = drawing;
		// Sheets are drawn without their thickness.
		return { type, drawing, sizes: depth > THIN ? [width, height, depth] : [width, height] };
	});
	const print = (value: number, quantity: 'length' | 'area' | 'mass') =>
		value > 0 ? printQuantity(value, quantity, unit).text : '';
	const COLUMNS = 'grid-template-columns: 52px 52px 62px minmax(96px, 2fr) minmax(70px, 1fr) 46px 66px 54px 64px 42px';
</script>

<div class="grid min-h-0 grow grid-cols-[minmax(0,1fr)_232px]" data-testid="types">
	{#if found && shown.length}
		<div
			bind:this={scroller}
			class="min-h-0 overflow-auto text-small"
			role="grid"
			tabindex="0"
			aria-label="Types of pieces"
			aria-rowcount={shown.length + 1}
			{onkeydown}
		>
			<div
				class="sticky top-0 z-10 grid gap-x-2 border-b border-rule bg-sheet px-3.5 py-1 font-semibold text-soft"
				style={COLUMNS}
				role="row"
			>
				<span role="columnheader">Type</span><span role="columnheader">Piece</span><span role="columnheader">Role</span
				><span role="columnheader">Kit › part</span>
				<span role="columnheader">Material</span>
				<span role="columnheader" class="text-right">Pieces</span>
				<span role="columnheader" class="text-right" title="Of the piece that the type is measured by"
					>Length {headingUnit('length', unit)}</span
				>
				<span role="columnheader" class="text-right" title="Of the piece that the type is measured by"
					>Area {headingUnit('area', unit)}</span
				>
				<span role="columnheader" class="text-right" title="Of one piece">Weight {headingUnit('mass', unit)}</span>
				<span
					role="columnheader"
					class="text-right"
					title="By how much any size of a piece differs from the one that the type is measured by, at most">± mm</span
				>
			</div>
			<div class="relative" style="height: {$virtualizer.getTotalSize()}px" role="rowgroup">
				{#each $virtualizer.getVirtualItems() as item (item.index)}
					{@const type = shown[item.index]}
					{#if type}
						<!-- svelte-ignore a11y_click_events_have_key_events -->
						<div
							class="figure absolute grid w-full cursor-pointer items-center gap-x-2 px-3.5 {type.mark === chosen
								? 'bg-patina-pale'
								: 'hover:bg-paper'}"
							style="{COLUMNS}; height: {ROW_HEIGHT}px; transform: translateY({item.start}px)"
							role="row"
							tabindex="-1"
							aria-selected={type.mark === chosen}
							onclick={() => choose(item.index)}
						>
							<span role="gridcell" class="font-semibold">{type.mark}</span>
							<span role="gridcell">
								{#if drawings.get(type.n)}<PieceSketch
										drawing={drawings.get(type.n)!}
										width={52}
										height={28}
										label="Drawing of {type.mark}"
									/>{/if}
							</span>
							<span role="gridcell" class="truncate font-sans">{type.role}</span>
							<span role="gridcell" class="truncate font-sans" title="{type.kit} › {type.part}"
								>{type.kit} › {type.part}</span
							>
							<span role="gridcell" class="truncate font-sans">{materials.get(type.material) ?? type.material}</span>
							<span role="gridcell" class="text-right">{group(type.count, 0)}</span>
							<span role="gridcell" class="text-right">{print(type.length, 'length')}</span>
							<span role="gridcell" class="text-right">{print(type.area, 'area')}</span>
							<span role="gridcell" class="text-right">{print(type.weight, 'mass')}</span>
							<span role="gridcell" class="text-right">{type.deviation.toFixed(2)}</span>
						</div>
					{/if}
				{/each}
			</div>
		</div>
	{:else}
		<p class="p-4 text-soft">
			{found ? 'No pieces yet: types appear as soon as a kit is placed.' : 'Sorting the pieces …'}
		</p>
	{/if}
	<aside class="flex min-h-0 flex-col gap-1.5 overflow-auto border-l border-rule px-3 py-2 text-small">
		<label class="grid grid-cols-[64px_1fr] items-center gap-2"
			><span class="text-soft">Role</span>
			<select class="field" bind:value={role}>
				<option value="">all roles</option>
				{#each roles as name (name)}<option value={name}>{name}</option>{/each}
			</select></label
		>
		<p class="figure" data-testid="types-totals">{totals}</p>
		{#if role}
			<TypeRuleForm {role} />
		{:else}
			<p class="text-soft">
				Alike within ISO 2768-1, class medium{work.project.types.rules.length
					? `; other limits for ${work.project.types.rules.map((r) => r.role).join(', ')}`
					: ''}. Choose a role to set limits of its own.
			</p>
		{/if}
		{#if large}
			<figure class="rounded border border-rule bg-paper p-1" aria-label="Piece of {large.type.mark}">
				<PieceSketch drawing={large.drawing} width={196} height={84} label="{large.type.mark}, straight on" />
				<figcaption class="figure text-center">
					{large.sizes.map((size) => printQuantity(size, 'length', unit).text).join(' × ')}
					{headingUnit('length', unit)}
				</figcaption>
			</figure>
		{/if}
		<div class="flex items-center justify-between gap-2">
			{#if fixed}
				<span class="text-soft">{`Numbers of ${counted(fixed, 'type', 'types')} are fixed`}</span>
			{:else}
				<select
					class="field min-w-0"
					aria-label="Numbered"
					value={work.project.types.numbered}
					onchange={(e) => {
						const numbered = e.currentTarget.value as 'frequency' | 'order';
						note = work.editor.commit('Number types otherwise', (draft) => void (draft.types.numbered = numbered));
					}}
				>
					<option value="frequency">by frequency</option>
					<option value="order">along the order</option>
				</select>
			{/if}
			{#if found?.types.length || fixed}
				<button
					class="button shrink-0 whitespace-nowrap"
					title={fixed
						? 'Number all types by frequency again'
						: 'A type keeps its number from now on, for as long as most of its pieces are there'}
					onclick={() => fix(!fixed)}>{fixed ? 'Release' : 'Fix numbers'}</button
				>
			{/if}
		</div>
		{#if note}<p class="text-ochre-ink" role="status">{note}</p>{/if}
		{#if found?.types.length}<ToleranceCurve {found} />{/if}
	</aside>
</div>
