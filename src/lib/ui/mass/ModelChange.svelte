<script lang="ts">
	import { useWorkspace } from '$lib/editor/context.ts';
	import { group } from '$core/units/print.ts';

	const work = useWorkspace();
	const change = $derived(work.runner.view?.change);
	const FIGURES = [
		['added', 'added'],
		['gone', 'gone'],
		['resized', 'changed size'],
		['same', 'as before']
	] as const;
</script>

{#if change && change.added + change.gone + change.resized > 0}
	<div
		class="mt-3 rounded border border-rule bg-paper px-2.5 py-1.5 text-small {work.runner.behind
			? 'italic opacity-60'
			: ''}"
		role="status"
		data-testid="model-change"
	>
		<p class="text-soft" title="Cells keep their row and column, so that marks and values set by hand stay with them">
			Cells, against the state before the last edit
		</p>
		<p class="figure">
			{#each FIGURES.filter(([name]) => change[name] > 0) as [name, word], k (name)}{k > 0 ? ' · ' : ''}{group(
					change[name],
					0
				)}
				{word}{/each}
		</p>
	</div>
{/if}
