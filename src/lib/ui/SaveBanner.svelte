<script lang="ts">
	import { useWorkspace } from '$lib/editor/context.ts';

	const { editor } = useWorkspace();
	const save = $derived(editor.saveState);
	const mine = $derived(editor.unsavedCount);
	const edits = (n: number) => (n === 1 ? 'edit' : 'edits');
</script>

{#if save.kind === 'stale'}
	<div class="flex flex-wrap items-center gap-3 border-b border-ochre bg-sheet px-3.5 py-2" role="alert">
		<p>
			<strong>Changed in another window.</strong>
			Saved there meanwhile: {save.edits.map((e) => e.label).join(', ')}. Not saved here yet: {mine}
			{edits(mine)}.
		</p>
		<span class="ml-auto flex gap-2">
			<button class="button" onclick={() => editor.takeTheirs()}>Take theirs, drop mine</button>
			<button class="button button-main" onclick={() => editor.redoMine()}>Redo mine on top of theirs</button>
		</span>
	</div>
{:else if save.kind === 'away'}
	<div class="flex items-center gap-3 border-b border-ochre bg-sheet px-3.5 py-2" role="alert">
		<p>
			<strong>Not saved yet.</strong>
			{save.message} Your {mine}
			{edits(mine)}
			{mine === 1 ? 'is' : 'are'} kept here and tried again by itself.
		</p>
		<button class="button ml-auto" onclick={() => editor.retrySave()}>Try now</button>
	</div>
{:else if save.kind === 'refused'}
	<div class="flex items-center gap-3 border-b border-rust bg-sheet px-3.5 py-2" role="alert">
		<p><strong>Not saved.</strong> {save.message}</p>
		<button class="button ml-auto" onclick={() => editor.takeTheirs()}>Go back to what is saved</button>
	</div>
{/if}
{#if editor.notice}
	<div class="flex items-center gap-3 border-b border-rule bg-sheet px-3.5 py-2" role="status">
		<p>{editor.notice}</p>
		<button class="button ml-auto" onclick={() => (editor.notice = undefined)}>Close</button>
	</div>
{/if}
