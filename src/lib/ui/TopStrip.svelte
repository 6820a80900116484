<script lang="ts">
	import CommandIcon from '@lucide/svelte/icons/search';
	import History from '@lucide/svelte/icons/history';
	import House from '@lucide/svelte/icons/house';
	import Redo2 from '@lucide/svelte/icons/redo-2';
	import Undo2 from '@lucide/svelte/icons/undo-2';
	import { PLACES, PLACE_NAMES } from '$lib/editor/places.ts';
	import { placeStates } from '$lib/editor/placeStates.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { LengthUnit } from '$core/units/quantity.ts';
	import { group } from '$core/units/print.ts';

	let { oncommands }: { oncommands: () => void } = $props();

	const work = useWorkspace();
	const { editor, runner } = work;
	const states = $derived(placeStates(work.project, runner.view));
	const cells = $derived(runner.view?.faces.reduce((n, f) => n + f.cellCount, 0) ?? 0);
	const saved = $derived(
		editor.refused.length
			? 'Not saved'
			: { saved: 'Saved', saving: 'Saving', away: 'Not saved', clash: 'Not saved' }[editor.saveState.kind]
	);
</script>

<header class="flex h-11 shrink-0 items-center gap-3 border-b border-rule bg-sheet pr-3 pl-2.5">
	<a href="/" class="rounded p-1.5 text-soft hover:text-patina" title="All projects" aria-label="All projects"
		><House size={16} /></a
	>
	<h1 class="max-w-56 truncate font-semibold" title={work.project.name}>{work.project.name}</h1>
	<nav aria-label="Places" class="mx-auto flex self-stretch">
		{#each PLACE_NAMES as place (place)}
			{@const { tone, count } = states[place]}
			<button
				class="flex items-center gap-1.5 border-b-2 px-2.5 {work.place === place
					? 'border-patina font-semibold text-ink'
					: 'border-transparent text-soft hover:text-ink'}"
				aria-current={work.place === place ? 'step' : undefined}
				title="{PLACES[place].help}{tone === 'attention' ? ` · ${count} to look at` : ''}"
				onclick={() => (work.place = place)}
			>
				<span
					class="inline-block h-1.5 w-1.5 {tone === 'done'
						? 'rounded-full bg-patina'
						: tone === 'attention'
							? 'bg-ochre'
							: 'rounded-full border border-soft'}"
				></span>
				{PLACES[place].label}
				{#if tone === 'attention'}<span class="figure text-small text-ochre-ink">{count}</span>{/if}
			</button>
		{/each}
	</nav>
	<button
		class="rounded border px-1.5 text-small {runner.held
			? 'border-ochre text-ochre-ink'
			: 'border-transparent text-soft hover:text-patina'}"
		aria-pressed={runner.held}
		title={runner.held
			? 'Edits are gathered. Click to compute them as they come again (G)'
			: 'Edits are computed as they come. Click to gather them and compute when you say so (G)'}
		onclick={() => runner.hold(!runner.held)}>{runner.held ? 'Held' : 'Live'}</button
	>
	<p
		class="figure text-small whitespace-nowrap text-soft {runner.behind ? 'italic opacity-60' : ''}"
		title="Cells, and the worker’s time for the last change"
		data-testid="run-figures"
	>
		{#if runner.view}{group(cells, 0)} cells · {group(runner.view.totalTime, 0)} ms{/if}
	</p>
	<button
		class="relative rounded p-1.5 hover:text-patina"
		title={work.revisions.unseen
			? `${work.revisions.unseen} new from elsewhere, the last one: ${editor.others.at(-1)?.label}. Revisions (H)`
			: 'Revisions (H)'}
		aria-label="Revisions{work.revisions.unseen ? `, ${work.revisions.unseen} new from elsewhere` : ''}"
		aria-expanded={work.revisions.open}
		onclick={() => (work.revisions.open ? work.revisions.close() : void work.revisions.show())}
		><History size={16} />{#if work.revisions.unseen}<span
				class="figure absolute -top-0.5 -right-1 rounded-full bg-patina px-1 text-[10px] leading-4 text-white"
				>{work.revisions.unseen}</span
			>{/if}</button
	>
	<span
		class="text-small whitespace-nowrap {saved === 'Not saved' ? 'font-semibold text-rust' : 'text-soft'}"
		role="status"
		data-testid="save-state">{saved}</span
	>
	<label title="Unit of lengths on the screen; files are always metric">
		<span class="sr-only">Unit of lengths</span>
		<select
			class="rounded border border-control bg-paper py-0.5 pl-1 text-small"
			value={work.project.units}
			onchange={(e) => {
				const units = e.currentTarget.value as LengthUnit;
				editor.apply('Change units', (draft) => (draft.units = units));
			}}
		>
			<option value="mm">mm</option>
			<option value="m">m</option>
			<option value="ft-in">ft in</option>
		</select>
	</label>
	<span class="flex">
		<button
			class="rounded p-1.5 enabled:hover:text-patina disabled:opacity-35"
			disabled={!editor.undoLabel}
			title={editor.undoLabel ? `Undo: ${editor.undoLabel} (Ctrl+Z)` : 'Nothing to undo'}
			aria-label="Undo"
			onclick={() => editor.undo()}><Undo2 size={16} /></button
		>
		<button
			class="rounded p-1.5 enabled:hover:text-patina disabled:opacity-35"
			disabled={!editor.redoLabel}
			title={editor.redoLabel ? `Redo: ${editor.redoLabel} (Ctrl+Shift+Z)` : 'Nothing to redo'}
			aria-label="Redo"
			onclick={() => editor.redo()}><Redo2 size={16} /></button
		>
		<button class="rounded p-1.5 hover:text-patina" title="Commands (Ctrl+K)" aria-label="Commands" onclick={oncommands}
			><CommandIcon size={16} /></button
		>
	</span>
</header>
