<script lang="ts">
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import { group } from '$core/units/print.ts';
	import TextField from '../TextField.svelte';
	import ZonesPanel from '../settingout/ZonesPanel.svelte';
	import { cellMark } from '$core/tiling/marks.ts';

	const work = useWorkspace();
	const face = $derived(work.current!.face);
	const view = $derived(work.currentView);
	const markOf = (cell: number) => (view ? cellMark(view, cell) : '–');
</script>

<TextField
	label="Face"
	value={face.name}
	oncommit={(name) => work.editor.commit('Rename face', work.onFace((f) => (f.name = name)))}
/>
<TextField
	label="Mark"
	help="What the marks of this face’s panels start with"
	value={face.mark}
	oncommit={(mark) => work.editor.commit('Change mark', work.onFace((f) => (f.mark = mark)))}
/>
{#if view && view.cellCount > 0}
	<dl class="mt-3 grid grid-cols-[96px_1fr] gap-x-2 gap-y-1">
		<dt class="text-soft">Pattern</dt>
		<dd>Rectangular</dd>
		<dt class="text-soft">Grid</dt>
		<dd class="figure">{group(view.across.count, 0)} × {group(view.up.count, 0)}</dd>
		<dt class="text-soft">Cells</dt>
		<dd class="figure">{group(view.cellCount, 0)}</dd>
		<dt class="text-soft">First mark</dt>
		<dd class="figure">{markOf(0)}</dd>
		<dt class="text-soft">Last mark</dt>
		<dd class="figure">{markOf(view.cellCount - 1)}</dd>
	</dl>
{/if}
<p class="mt-2 text-small text-soft">
	A mark is face, row, column; pieces of one cell have a letter behind. Rows and columns count from their start edges; corner 1
	is the lower left one seen from outside.
</p>
<ZonesPanel />
