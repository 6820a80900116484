<script lang="ts">
	import Pencil from '@lucide/svelte/icons/pencil';
	import Plus from '@lucide/svelte/icons/plus';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { group } from '$core/units/print.ts';
	import ZonesPanel from '../settingout/ZonesPanel.svelte';
	import TextField from '../TextField.svelte';
	import OrderPanel from '../tiling/OrderPanel.svelte';
	import TilingGallery from '../tiling/TilingGallery.svelte';
	import TilingOptions from '../tiling/TilingOptions.svelte';

	const work = useWorkspace();
	const face = $derived(work.face.current!.face);
	const view = $derived(work.face.view);
	/** Cells of each role, where there is more than one. */
	const roles = $derived.by(() => {
		const { role, roles } = view ?? {};
		if (!role || !roles || roles.length < 2) return [];
		const counts = roles.map((name, k) => ({ name, count: role.reduce((n, r) => n + (r === k ? 1 : 0), 0) }));
		return counts.filter((c) => c.count > 0);
	});
</script>

<TextField
	label="Face"
	value={face.name}
	oncommit={(name) =>
		work.editor.commit(
			'Rename face',
			work.face.onFace((f) => (f.name = name))
		)}
/>
<TilingGallery />
{#key face.tiling.kind}<TilingOptions />{/key}
<div class="mt-1.5 flex gap-1.5">
	{#if face.tiling.kind === 'own'}
		<button class="button text-small" title="Change the repeating unit" onclick={() => work.editTiling()}
			><Pencil size={13} />Edit unit</button
		>
	{:else}
		<button
			class="button text-small"
			title="Make a tiling of your own, starting with this one"
			onclick={() => work.copyTiling()}><Plus size={13} />Own tiling from this</button
		>
	{/if}
</div>
{#if view && view.cellCount > 0}
	<p class="figure mt-2 text-small {work.runner.behind ? 'italic opacity-60' : ''}" data-testid="tiling-figures">
		{group(view.cellCount, 0)} cells on {group(view.across.count, 0)} × {group(view.up.count, 0)} fields{#if roles.length}:
			{#each roles as { name, count }, k (name)}{k ? ', ' : ''}<span class="whitespace-nowrap"
					>{group(count, 0)} {name}</span
				>{/each}{/if}
	</p>
{/if}
<OrderPanel />
<ZonesPanel />
