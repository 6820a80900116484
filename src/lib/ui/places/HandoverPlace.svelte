<script lang="ts">
	import { onMount } from 'svelte';
	import Archive from '@lucide/svelte/icons/archive';
	import { messageOf } from '$core/errors.ts';
	import { optionsOf } from '$core/formats/fileOptions.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { FILE_GROUPS, filesOf, inSet } from '$lib/editor/handedFiles.ts';
	import { isUnderWay } from '$lib/editor/orders.svelte.ts';
	import FileRow from '../handover/FileRow.svelte';
	import SheetsList from '../sheets/SheetsList.svelte';
	import TextField from '../TextField.svelte';

	const work = useWorkspace();
	const { issues, orders } = work;
	/** The issue that files are made of; the project as it is now where none is chosen. */
	let issue = $state('');
	let error = $state<string>();
	$effect(() => {
		if (issues.issues === undefined) void issues.refresh();
	});
	// Sizes are those of the model that is shown.
	$effect(() => {
		if (work.runner.view) void work.file.measure();
	});
	onMount(() => void orders.refresh().catch((cause: unknown) => (error = messageOf(cause))));
	const set = $derived(
		FILE_GROUPS.flatMap((g) => g.formats.flatMap((f) => filesOf(f, work.project))).filter((f) => inSet(work.project, f))
	);
	/** Which files, and with what is chosen for them, is told: an issue has those of its own time. */
	async function take() {
		const files = set.map(({ format, table }) => ({ format, options: optionsOf(work.project, format, table) }));
		error = await orders.order('set', { files }, issue || undefined);
	}
	const order = $derived(orders.newest('set', {}));
	const working = $derived(order && isUnderWay(order) ? order : undefined);
	const { name } = $derived(work.project.handover);
	const pending = $derived(work.editor.saveState.kind !== 'saved');
</script>

{#if pending && !issue}
	<p class="mb-2 text-small text-ochre-ink" role="status">
		Files are made from what is saved; some edits are not saved yet.
	</p>
{/if}
{#if issues.issues?.length}
	<label class="mb-2 grid grid-cols-[64px_1fr] items-center gap-2 text-small">
		<span class="text-soft">Files of</span>
		<select class="field min-w-0" bind:value={issue} title="An issue is handed over as it was, and files say so">
			<option value="">the project now</option>
			{#each issues.issues as { id, mark, name } (id)}<option value={id}>{mark} {name}</option>{/each}
		</select>
	</label>
{/if}
<section class="mb-2" aria-label="Set">
	<button
		class="button button-main w-full justify-center"
		disabled={set.length === 0 || working !== undefined}
		onclick={take}
		><Archive size={14} />Make the set {name ? `“${name}” ` : ''}of {set.length}
		{set.length === 1 ? 'file' : 'files'}</button
	>
	{#if working}
		<div class="mt-1 flex items-center gap-2" role="status">
			<progress class="h-1.5 w-full" value={working.progress}></progress>
			<button class="button" onclick={() => orders.cancel(working.id)}>Stop</button>
		</div>
	{:else if order?.state === 'failed'}
		<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{order.message}</p>
	{:else}
		<p class="mt-1 text-small text-soft">
			{set.length
				? 'One ZIP with a list of its files and their checksums.'
				: 'Tick files below; they leave as one ZIP.'}
		</p>
	{/if}
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
	<TextField
		label="Name of the set"
		help="Such as Tender; files of the set are called by it"
		value={name}
		oncommit={(text) =>
			work.editor.commit('Name the set', (draft) => {
				draft.handover.name = text;
			})}
	/>
</section>
<SheetsList />
{#each FILE_GROUPS as { heading, formats } (heading)}
	<h3 class="heading mt-3 mb-1">{heading}</h3>
	<ul>
		{#each formats.flatMap((f) => filesOf(f, work.project)) as file (`${file.format} ${file.table}`)}
			<li><FileRow {file} issue={issue || undefined} /></li>
		{/each}
	</ul>
{/each}
