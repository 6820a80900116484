<script lang="ts">
	import Eye from '@lucide/svelte/icons/eye';
	import { Popover } from 'bits-ui';
	import { DETAILS } from '$lib/stage/detail.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	const work = useWorkspace();
	const SWITCHES = [
		['nodes', 'Nodes', 'The points of the grid'],
		['corners', 'Corner order', 'Numbers at the corners of the chosen cells'],
		['numbers', 'Row and column numbers', 'Along the borders of the chosen face'],
		['curves', 'Edges on the face', 'Edges as they follow the face, instead of their chords'],
		['marks', 'Edge and node marks', 'At the edges and nodes of the chosen cells'],
		['normals', 'Normals', 'Which way is outside, at every node'],
		['boxes', 'Boxes', 'The cells between the two layers']
	] as const;
	const layered = $derived(work.face.view?.lifted !== undefined);
</script>

<Popover.Root>
	<Popover.Trigger class="button text-small" title="What is shown of the chosen face’s grid, and how much of the model"
		><Eye size={13} />Show</Popover.Trigger
	>
	<Popover.Portal>
		<Popover.Content
			align="end"
			sideOffset={4}
			class="z-30 w-60 rounded-md border border-rule bg-sheet px-3 py-2 text-ink shadow-lg"
		>
			{#each SWITCHES as [name, label, help] (name)}
				<label class="my-1 flex items-center gap-2" title={help}>
					<input
						type="checkbox"
						class="accent-patina"
						checked={work.overlay[name]}
						onchange={(e) => (work.overlay = { ...work.overlay, [name]: e.currentTarget.checked })}
					/>
					{label}
				</label>
			{/each}
			<label class="mt-2 flex items-center gap-2 border-t border-rule pt-2" title={DETAILS[work.detail].meaning}>
				<span class="text-soft">Detail</span>
				<select class="field min-w-0 grow" bind:value={work.detail}>
					{#each Object.entries(DETAILS) as [detail, { label }] (detail)}<option value={detail}>{label}</option>{/each}
				</select>
			</label>
			{#if work.overlay.boxes && !layered}<p class="text-small text-soft">
					This face has no second layer. Its distance is under Setting-out.
				</p>{/if}
			{#if (work.overlay.corners || work.overlay.marks) && work.selection.count === 0}<p class="text-small text-soft">
					Choose a cell to see its corners, edges and nodes named.
				</p>{/if}
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
