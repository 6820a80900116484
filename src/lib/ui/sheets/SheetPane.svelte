<script lang="ts">
	import ChevronLeft from '@lucide/svelte/icons/chevron-left';
	import ChevronRight from '@lucide/svelte/icons/chevron-right';
	import X from '@lucide/svelte/icons/x';
	import type { Format } from '$core/formats/format.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { isUnderWay } from '$lib/editor/orders.svelte.ts';
	import SheetPicture from './SheetPicture.svelte';

	const work = useWorkspace();
	const { sheets, orders } = work;
	const all = $derived(work.project.handover.sheets);
	const sheet = $derived(sheets.sheet!);
	const at = $derived(all.indexOf(sheet));
	const page = $derived(sheets.pages[sheets.page]);

	// Pages live in the worker: asked again when the model, the sheet or what is written on it changes.
	$effect(() => {
		void [work.runner.view, work.project.tables, work.project.levels, work.project.name, all.length];
		if (sheet) void sheets.refresh(sheet.id);
	});

	/** This sheet alone, as a file. */
	const optionsOf = (format: Format) => (format === 'pdf' ? { sheets: [sheet.id] } : { sheet: sheet.id });
	const files = $derived<readonly Format[]>(
		sheet.view.kind === 'types' || sheet.view.kind === 'schedule' ? ['pdf'] : ['pdf', 'dxf', 'svg']
	);
	let error = $state<string>();
	const take = async (format: Format) => (error = await orders.order(format, optionsOf(format)));
	const underWay = $derived(files.map((f) => orders.newest(f, optionsOf(f))).find((o) => o && isUnderWay(o)));
	const failed = $derived(files.map((f) => orders.newest(f, optionsOf(f))).find((o) => o?.state === 'failed'));

	function onkeydown(event: KeyboardEvent) {
		if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
		if (event.key === 'Escape') sheets.close();
		if (event.key === 'PageDown' || event.key === 'PageUp') {
			event.preventDefault();
			step(event.key === 'PageDown' ? 1 : -1);
		}
	}
	/** To the next page, and then to the next sheet. */
	function step(by: number) {
		const next = sheets.page + by;
		if (next >= 0 && next < sheets.pages.length) sheets.page = next;
		else if (all[at + by]) sheets.show(all[at + by]!.id);
	}
</script>

<svelte:window {onkeydown} />

<section class="absolute inset-0 z-20 flex flex-col bg-paper" aria-label="Sheet">
	<header class="flex h-9 shrink-0 items-center gap-2 border-b border-rule bg-sheet px-3.5 text-small">
		<button
			class="hover:text-patina disabled:text-rule"
			aria-label="Page before"
			disabled={at === 0 && sheets.page === 0}
			onclick={() => step(-1)}><ChevronLeft size={15} /></button
		>
		<span class="figure text-soft" data-testid="sheet-number"
			>{at + 1} of {all.length}{sheets.pages.length > 1
				? `, page ${sheets.page + 1} of ${sheets.pages.length}`
				: ''}</span
		>
		<button
			class="hover:text-patina disabled:text-rule"
			aria-label="Page behind"
			disabled={at === all.length - 1 && sheets.page >= sheets.pages.length - 1}
			onclick={() => step(1)}><ChevronRight size={15} /></button
		>
		<h2 class="min-w-0 truncate font-semibold" data-testid="sheet-title">{page?.title ?? sheet.name}</h2>
		{#if sheets.busy}<span class="text-soft" role="status">Drawing …</span>{/if}
		<span class="ml-auto flex items-center gap-2">
			{#if underWay}
				<progress class="h-1.5 w-24" value={underWay.progress}></progress>
				<button class="text-patina hover:underline" onclick={() => orders.cancel(underWay.id)}>Stop</button>
			{:else}
				{#each files as format (format)}
					<button
						class="text-patina hover:underline"
						title="This sheet alone as {format.toUpperCase()}{format === 'pdf' ? '' : ', in mm of the building'}"
						onclick={() => void take(format)}>{format.toUpperCase()}</button
					>
				{/each}
			{/if}
		</span>
		<label class="flex items-center gap-1.5 whitespace-nowrap text-soft"
			><input type="checkbox" class="accent-patina" bind:checked={sheets.trueSize} />As large as on paper</label
		>
		<button
			class="hover:text-patina"
			aria-label="Close the sheet"
			title="Back to the model"
			onclick={() => sheets.close()}><X size={15} /></button
		>
	</header>
	{#if error ?? failed?.message}
		<p class="shrink-0 border-b border-rule px-3.5 py-1 text-small text-rust" role="alert">
			{error ?? failed?.message}
		</p>
	{/if}
	{#each page?.notes ?? [] as note (note)}
		<p class="shrink-0 border-b border-rule px-3.5 py-1 text-small text-ochre-ink" role="status">{note}</p>
	{/each}
	<div class="min-h-0 flex-1 overflow-auto p-4">
		{#if page}
			<div
				class="mx-auto bg-white shadow-md {sheets.trueSize ? '' : 'max-h-full max-w-full'}"
				style={sheets.trueSize
					? `width: ${page.width}mm; height: ${page.height}mm`
					: `aspect-ratio: ${page.width} / ${page.height}; height: 100%`}
			>
				<SheetPicture {page} label={page.title} />
			</div>
		{:else}
			<p class="text-soft">{work.runner.view ? 'Drawing …' : 'The model is being made …'}</p>
		{/if}
	</div>
</section>
