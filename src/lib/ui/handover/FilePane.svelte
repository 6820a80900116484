<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import { WRITERS } from '$core/formats/writers.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { SHOWS_MODEL } from '$lib/editor/handedFiles.ts';
	import FileOptions from './FileOptions.svelte';
	import FilePreview from './FilePreview.svelte';
	import OrdersList from './OrdersList.svelte';

	/** The file that is looked at: how it begins or what it shows, what can be chosen for it, and what was ordered. */
	const work = useWorkspace();
	const { file: look } = work;
	const file = $derived(look.open!);
	const writer = $derived(WRITERS[file.format]);
	const label = $derived(work.project.tables.find((t) => t.id === file.table)?.name ?? writer.label);
	const showsModel = $derived(SHOWS_MODEL.includes(file.format));

	// Files are made of the model and of what is chosen: asked again when either changes.
	$effect(() => {
		void [work.runner.view, work.project.handover.options, work.project.tables, work.project.name];
		if (!showsModel) void look.refresh(file);
	});
	function onkeydown(event: KeyboardEvent) {
		if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
		if (event.key === 'Escape') look.close();
	}
</script>

<svelte:window {onkeydown} />

<section class="pointer-events-none absolute inset-0 z-20 flex flex-col" aria-label="File">
	<header
		class="pointer-events-auto flex h-9 shrink-0 items-center gap-2 border-b border-rule bg-sheet px-3.5 text-small"
	>
		<h2 class="min-w-0 truncate font-semibold" data-testid="file-title">{label}</h2>
		<span class="text-soft">{writer.extension.toUpperCase()}</span>
		<span class="min-w-0 truncate text-soft">{writer.help}</span>
		{#if look.busy}<span class="shrink-0 text-soft" role="status">Making …</span>{/if}
		<button
			class="ml-auto hover:text-patina"
			aria-label="Close the file"
			title="Back to the model"
			onclick={() => look.close()}><X size={15} /></button
		>
	</header>
	<div class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_256px]">
		<div class="min-h-0 overflow-auto {showsModel ? '' : 'pointer-events-auto bg-paper'}">
			{#if !showsModel && look.preview}
				<FilePreview preview={look.preview} {label} />
			{:else if !showsModel}
				<p class="p-4 text-soft">{work.runner.view ? 'Making …' : 'The model is being made …'}</p>
			{/if}
		</div>
		<aside class="pointer-events-auto min-h-0 overflow-auto border-l border-rule bg-sheet px-3.5 py-2.5">
			<FileOptions format={file.format} />
			<OrdersList />
		</aside>
	</div>
</section>
