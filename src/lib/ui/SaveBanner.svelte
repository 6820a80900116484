<script lang="ts">
	import { group } from '$core/units/print.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	const { editor, runner } = useWorkspace();
	const change = $derived(runner.view?.change);
	const save = $derived(editor.saveState);
	const mine = $derived(editor.unsaved.length);
	const edits = (n: number) => (n === 1 ? 'edit' : 'edits');
</script>

{#if save.kind === 'clash'}
	<div class="border-b border-ochre bg-sheet px-3.5 py-2" role="alert">
		<div class="flex flex-wrap items-center gap-3">
			<p>
				<strong>Changed elsewhere too.</strong>
				“{save.theirs}” was saved there, and “{save.mine}” waits here.
				{#if !save.clashes.length}{save.message}{/if}
			</p>
			<span class="ml-auto flex gap-2">
				<button class="button" onclick={() => editor.settle('theirs')}>Take theirs</button>
				<button class="button button-main" onclick={() => editor.settle('mine')}>Put mine on top</button>
			</span>
		</div>
		{#if save.clashes.length}
			<table class="mt-1.5 text-small">
				<thead>
					<tr class="text-left text-soft" title="As they stand in the project: lengths in mm, angles in radians"
						><th class="pr-6 font-normal">Place</th><th class="pr-6 font-normal">Here</th><th class="font-normal"
							>Saved elsewhere</th
						></tr
					>
				</thead>
				<tbody>
					{#each save.clashes as { place, mine, theirs } (place)}
						<tr><td class="pr-6">{place}</td><td class="figure pr-6">{mine}</td><td class="figure">{theirs}</td></tr>
					{/each}
				</tbody>
			</table>
		{/if}
	</div>
{:else if save.kind === 'away'}
	<div class="flex items-center gap-3 border-b border-ochre bg-sheet px-3.5 py-2" role="alert">
		<p>
			<strong>Not saved yet.</strong>
			{save.message} Your {mine}
			{edits(mine)}
			{mine === 1 ? 'is' : 'are'}
			{editor.keptCount >= mine ? 'kept in this browser and' : ''} tried again by itself.
		</p>
		<button class="button ml-auto" onclick={() => editor.retrySave()}>Try now</button>
	</div>
{/if}
{#if mine && editor.notKept !== undefined}
	<p class="border-b border-ochre bg-sheet px-3.5 py-2" role="alert">
		<strong>Keep this page open until all is saved.</strong> The browser does not keep what waits: {editor.notKept}
	</p>
{/if}
{#each editor.refused as { edit, message } (edit.id)}
	<div class="flex items-center gap-3 border-b border-rust bg-sheet px-3.5 py-2" role="alert">
		<p><strong>“{edit.label}” was not saved</strong> and is left out. {message}</p>
		<span class="ml-auto flex gap-2">
			<button class="button" onclick={() => editor.retryRefused(edit.id)}>Try it again</button>
			<button class="button" onclick={() => editor.dropRefused(edit.id)}>Take it back</button>
		</span>
	</div>
{/each}
{#if editor.looking !== undefined}
	<div class="flex items-center gap-3 border-b border-ochre bg-sheet px-3.5 py-2" role="status">
		<p>
			<strong>Revision {editor.looking} is shown.</strong> Nothing is changed by looking.
			{#if change && change.added + change.gone + change.resized > 0}
				Cells, against now:
				<span class="figure"
					>{group(change.added, 0)} more, {group(change.gone, 0)} fewer, {group(change.resized, 0)} of another size</span
				>.
			{/if}
		</p>
		<button class="button ml-auto" onclick={() => editor.lookAt(undefined)}>Back to now</button>
	</div>
{/if}
{#if editor.notice}
	<div class="flex items-center gap-3 border-b border-rule bg-sheet px-3.5 py-2" role="status">
		<p>{editor.notice}</p>
		<button class="button ml-auto" onclick={() => (editor.notice = undefined)}>Close</button>
	</div>
{/if}
