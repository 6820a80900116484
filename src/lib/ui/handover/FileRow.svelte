<script lang="ts">
	import Check from '@lucide/svelte/icons/check';
	import Download from '@lucide/svelte/icons/download';
	import { optionsOf } from '$core/formats/fileOptions.ts';
	import { WRITERS } from '$core/formats/writers.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { bytesInWords, chooseFile, inSet, type HandedFile } from '$lib/editor/handedFiles.ts';
	import { addressOf, isUnderWay } from '$lib/editor/orders.svelte.ts';

	interface Props {
		file: HandedFile;
		/** Id of the issue that files are of; the project as it is now where there is none. */
		issue: string | undefined;
	}
	let { file, issue }: Props = $props();

	const work = useWorkspace();
	const { orders, file: look, sheets } = work;
	const options = $derived(optionsOf(work.project, file.format, file.table));
	const order = $derived(orders.newest(file.format, options));
	/** Below this nobody asks how large a file will be, bytes. */
	const TOLD = 1e6;
	const likely = $derived((look.sizes[file.format] ?? 0) > TOLD ? look.sizes[file.format] : undefined);
	const open = $derived(look.isOpen(file));
	let error = $state<string>();

	const take = async () => (error = await orders.order(file.format, options, issue));
	function show() {
		sheets.close();
		if (open) look.close();
		else if (file.format === 'pdf' && work.project.handover.sheets[0]) sheets.show(work.project.handover.sheets[0].id);
		else look.show(file);
	}
	const choose = (chosen: boolean) =>
		work.editor.apply(`${chosen ? 'Put' : 'Take'} ${file.label} ${chosen ? 'into' : 'out of'} the set`, (draft) =>
			chooseFile(draft, file, chosen)
		);
</script>

<section class="-mx-1.5 rounded border-t border-rule px-1.5 py-[3px] {open ? 'bg-wash' : ''}" aria-label={file.label}>
	<div class="flex items-center gap-1.5">
		<input
			type="checkbox"
			class="accent-patina"
			aria-label="{file.label} in the set"
			title="In the set"
			checked={inSet(work.project, file)}
			onchange={(e) => choose(e.currentTarget.checked)}
		/>
		<button class="min-w-0 flex-1 text-left hover:text-patina" title={file.help} aria-pressed={open} onclick={show}>
			<span class="block truncate {open ? 'font-semibold' : ''}">{file.label}</span>
		</button>
		{#if order?.state === 'done'}
			<a
				class="figure flex shrink-0 items-center gap-1 text-small text-soft hover:text-patina"
				href={addressOf(order)}
				title="Download again, as of {order.issue ? `issue ${order.issue}` : `revision ${order.revision}`}"
				>{bytesInWords(order.size ?? 0)}<Check size={12} /></a
			>
		{/if}
		{#if order?.state !== 'done' && likely !== undefined}
			<span class="figure shrink-0 text-small text-soft" title="So large the file will be, about"
				>≈{bytesInWords(likely)}</span
			>
		{/if}
		{#if order && isUnderWay(order)}
			<span class="figure shrink-0 text-small text-soft"
				>{order.state === 'waiting' ? 'waits' : `${Math.round(order.progress * 100)} %`}</span
			>
			<button class="button shrink-0" onclick={() => orders.cancel(order.id)}>Stop</button>
		{:else}
			<button
				class="button shrink-0"
				aria-label={order?.state === 'done' ? 'Make again' : 'Make and download'}
				title={order?.state === 'done' ? 'Make again' : 'Make and download'}
				onclick={take}><Download size={13} />{WRITERS[file.format].extension.toUpperCase()}</button
			>
		{/if}
	</div>
	{#if order?.state === 'running'}<progress class="h-1.5 w-full" value={order.progress}></progress>{/if}
	{#if order?.state === 'failed'}
		<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{order.message}</p>
	{/if}
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
