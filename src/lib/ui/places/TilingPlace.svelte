<script lang="ts">
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import { cellMark } from '$core/tiling/marks.ts';
	import { group } from '$core/units/print.ts';
	import TextField from '../TextField.svelte';

	const work = useWorkspace();
	const face = $derived(work.current!.face);
	const across = $derived(face.settingOut.across.count);
	const up = $derived(face.settingOut.up.count);
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
<dl class="mt-3 grid grid-cols-[96px_1fr] gap-x-2 gap-y-1">
	<dt class="text-soft">Pattern</dt>
	<dd>Rectangular</dd>
	<dt class="text-soft">Cells</dt>
	<dd class="figure">{group(across, 0)} × {group(up, 0)}</dd>
	<dt class="text-soft">First mark</dt>
	<dd class="figure">{cellMark(face.mark, 0, 0)}</dd>
	<dt class="text-soft">Last mark</dt>
	<dd class="figure">{cellMark(face.mark, up - 1, across - 1)}</dd>
</dl>
<p class="mt-2 text-small text-soft">
	A mark is face, row, column. Rows count from the lower border up, columns from the left one; corner 1 is the
	lower left one seen from outside.
</p>
