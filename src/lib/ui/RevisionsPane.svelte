<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { RevisionLine } from '$lib/editor/projectApi.ts';
	import TextField from './TextField.svelte';

	const { editor, revisions } = useWorkspace();
	const day = new Intl.DateTimeFormat('en-GB', { dateStyle: 'full' });
	const time = new Intl.DateTimeFormat('en-GB', { timeStyle: 'short' });
	const days = $derived(
		Object.entries(Object.groupBy(revisions.lines, (l) => (l.at ? day.format(new Date(l.at)) : 'Before')))
	);
	const who = ({ actor }: RevisionLine) => (actor === null ? '' : actor === editor.actor ? 'here' : 'elsewhere');
	const chosen = $derived(revisions.lines.find((l) => l.revision === revisions.chosen));

	// The list follows what is saved while it is open.
	$effect(() => {
		void [editor.saveState.kind === 'saved' && editor.unsaved.length, editor.others.length];
		void revisions.refresh();
	});
</script>

<svelte:window onkeydown={(e) => e.key === 'Escape' && !(e.target instanceof HTMLInputElement) && revisions.close()} />

<aside
	class="absolute inset-y-0 right-0 z-30 flex w-[360px] flex-col border-l border-rule bg-sheet shadow-xl"
	aria-label="Revisions"
>
	<header class="flex items-center gap-2 border-b border-rule px-3.5 py-2">
		<h2 class="font-semibold">Revisions</h2>
		<label class="ml-auto flex items-center gap-1.5 text-small text-soft">
			<input
				type="checkbox"
				class="accent-patina"
				bind:checked={revisions.named}
				onchange={() => void revisions.refresh()}
			/>Only with a name
		</label>
		<button class="rounded p-1 hover:text-patina" aria-label="Close the revisions" onclick={() => revisions.close()}
			><X size={15} /></button
		>
	</header>
	{#if revisions.error}<p class="border-b border-rust px-3.5 py-2 text-small text-rust" role="alert">
			{revisions.error}
		</p>{/if}
	{#if editor.unsaved.length}
		<section class="border-b border-ochre px-3.5 py-2 text-small" aria-label="Waiting to be saved">
			<h3 class="heading">Waiting to be saved</h3>
			<ol class="list-inside list-decimal">
				{#each editor.unsaved as label, k (k)}<li>{label}</li>{/each}
			</ol>
		</section>
	{/if}
	<div class="min-h-0 flex-1 overflow-auto px-2 py-1.5">
		{#each days as [date, lines] (date)}
			<h3 class="heading sticky top-0 bg-sheet px-1.5 py-1">{date}</h3>
			<ul>
				{#each lines ?? [] as line (line.revision)}
					<li>
						<button
							class="grid w-full grid-cols-[38px_1fr_auto] items-baseline gap-x-2 rounded px-1.5 py-1 text-left hover:bg-wash {revisions.chosen ===
							line.revision
								? 'bg-wash'
								: ''}"
							aria-pressed={revisions.chosen === line.revision}
							onclick={() => void revisions.choose(line.revision)}
						>
							<span class="figure text-small text-soft">{line.revision}</span>
							<span class="truncate">
								{#if line.name}<strong class="text-patina">{line.name}</strong> ·
								{/if}{line.label ?? 'Made'}
							</span>
							<span class="text-small whitespace-nowrap text-soft"
								>{line.at ? time.format(new Date(line.at)) : ''}
								{who(line)}</span
							>
						</button>
					</li>
				{/each}
			</ul>
		{:else}
			<p class="px-1.5 py-4 text-soft">
				{revisions.busy
					? 'Asking for them …'
					: revisions.named
						? 'No revision has a name yet. Choose one of all and name it.'
						: 'No revision yet.'}
			</p>
		{/each}
		{#if revisions.more}
			<button class="button mx-1.5 my-1.5" disabled={revisions.busy} onclick={() => void revisions.older()}
				>Older ones</button
			>
		{/if}
	</div>
	{#if chosen}
		<section class="flex max-h-[50%] flex-col border-t border-rule px-3.5 py-2" aria-label="Revision {chosen.revision}">
			{#key chosen.revision}
				<TextField
					label="Name"
					value={chosen.name ?? ''}
					oncommit={(name) => void revisions.rename(chosen.revision, name)}
				/>
			{/key}
			<h3 class="heading mt-1">Bringing it back would change</h3>
			<div class="min-h-0 overflow-auto text-small">
				{#if revisions.differences === undefined}<p class="text-soft">Comparing …</p>
				{:else if revisions.differences.length === 0}<p class="text-soft">Nothing: it is as the project is now.</p>
				{:else}
					<table class="w-full">
						<thead class="sr-only"><tr><th>Place</th><th>Now</th><th>Then</th></tr></thead>
						<tbody>
							{#each revisions.differences as { place, before, after }, k (k)}
								<tr class="align-top">
									<td class="pr-2">{place}</td>
									<td class="figure text-right">{before ?? ''} → {after ?? 'removed'}</td>
								</tr>
							{/each}
						</tbody>
					</table>
				{/if}
			</div>
			<div class="mt-2 flex gap-2">
				<button
					class="button"
					disabled={!revisions.differences?.length}
					aria-pressed={editor.looking === chosen.revision}
					onclick={() => (editor.looking === chosen.revision ? editor.lookAt(undefined) : revisions.look())}
					>{editor.looking === chosen.revision ? 'Back to now' : 'Look at it'}</button
				>
				<button
					class="button button-main"
					disabled={!revisions.differences?.length}
					onclick={() => revisions.bringBack()}>Bring it back</button
				>
			</div>
		</section>
	{/if}
</aside>
