<script lang="ts">
	import FileUp from '@lucide/svelte/icons/file-up';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { ImportedShape } from '$core/mass/imported.ts';
	import { printFull } from '$core/units/print.ts';

	let { shape }: { shape: ImportedShape } = $props();

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const face = $derived(shape.faces.find((f) => f.id === work.face.current?.face.id));
</script>

<dl class="mt-1 grid grid-cols-[96px_1fr] gap-x-2 gap-y-1">
	<dt class="text-soft">File</dt>
	<dd class="truncate" title={shape.file}>{shape.file}</dd>
	{#if face}
		<dt class="text-soft" title="Area of the file’s own triangles">Mesh area</dt>
		<dd class="figure">{printFull(face.meshArea, 'area', unit)}</dd>
		<dt
			class="text-soft"
			title="How much longer one direction is laid than the other, at worst; setting-out by true length evens it out"
		>
			Stretch
		</dt>
		<dd class="figure">{face.stretch.toFixed(2)} : 1</dd>
		<dt class="text-soft" title="Greatest distance between the file’s triangles and the smooth face">Deviation</dt>
		<dd class="figure">{printFull(face.deviation, 'length', unit)}</dd>
	{/if}
</dl>
<button
	class="button mt-2"
	title="Its faces take over the divisions, marks and kits of those that lie where they do"
	onclick={() => work.bringIn()}
>
	<FileUp size={14} />A newer file
</button>
