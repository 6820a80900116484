<script lang="ts">
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import type { Path } from '$lib/editor/paths.ts';
	import { parsePoints, printPoints } from '$lib/editor/pointList.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	/** Points of a drawn outline, one a line. */
	let { path }: { path: Path } = $props();

	const work = useWorkspace();
	const edit = new PathEdit(
		'face',
		work,
		() => path,
		() => 'Points'
	);
	const unit = $derived(work.project.units);
	const points = $derived(edit.value as readonly (readonly [number, number])[]);
	const text = $derived(printPoints(points, unit));
	const id = $props.id();
	let error = $state<string>();

	function accept(typed: string) {
		if (typed.trim() === text) return void (error = undefined);
		const read = parsePoints(typed, unit);
		error = 'error' in read ? read.error : edit.commit(read.points);
	}
</script>

<div class="my-1.5 grid grid-cols-[96px_1fr] gap-x-2">
	<label for={id} class="text-soft" title="One point a line: across, up, seen from its place">Points</label>
	<textarea
		{id}
		class="field figure h-24 text-small"
		spellcheck="false"
		value={text}
		aria-invalid={error ? 'true' : undefined}
		onblur={(e) => accept(e.currentTarget.value)}></textarea>
	{#if error}<p class="col-span-2 mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
