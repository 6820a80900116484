<script lang="ts">
	import { copyOfJson } from '$core/project/jsonPatch.ts';
	import type { Kit, KitHost } from '$core/kit/schema.ts';
	import { HOST_KINDS, hostOf } from '$lib/editor/kits.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import TextField from '../TextField.svelte';

	let { kit }: { kit: Kit } = $props();
	const { bench } = useWorkspace();
	const host = $derived(kit.host);
	const setHost = (change: (host: KitHost) => KitHost) =>
		bench.commit('Change host', (draft) => (draft.host = change(draft.host)));
	function setCorners(side: 'leastCorners' | 'greatestCorners', text: string): string | undefined {
		const n = Number(text);
		if (!Number.isInteger(n) || n < 3 || n > 64) return 'A whole number from 3 to 64.';
		return setHost((h) => ({ ...h, [side]: n }) as KitHost);
	}
	function setFields(side: 'across' | 'up', text: string): string | undefined {
		const n = Number(text);
		if (!Number.isInteger(n) || n < 1 || n > 24) return 'A whole number from 1 to 24.';
		return setHost((h) => ({ ...h, [side]: n }) as KitHost);
	}
	const EDGES = { across: 'Across', up: 'Up', diagonal: 'Slanting', border: 'Borders' } as const;
	const LAYERS = {
		face: 'On the face',
		layer: 'On the second layer',
		middles: 'There, middle to middle',
		rising: 'From the face to it',
		falling: 'From it to the face'
	} as const;
	const lengths = $derived(kit.parameters.filter((p) => p.quantity === 'length'));
	const setSection = (name: string) =>
		setHost((h) => {
			if (h.kind !== 'edge' && h.kind !== 'node') return h;
			const { section: _, ...rest } = h;
			return name ? { ...rest, section: name } : rest;
		});
	function addVariant(text: string): string | undefined {
		const corners = text
			.split(/[\s,]+/)
			.filter(Boolean)
			.map(Number);
		if (!corners.length || corners.some((n) => !Number.isInteger(n) || n < 3 || n > 64))
			return 'Numbers of corners from 3 to 64, such as 3 or 5, 6.';
		return bench.commit('Add steps of their own', (draft) =>
			draft.variants.push({ corners, steps: copyOfJson(draft.steps) })
		);
	}
</script>

{#snippet section(chosen: string | undefined)}
	<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label
			for="kit-section"
			class="text-soft"
			title="How thick it is at nodes: bars that ask for their room end before it">Thick at nodes</label
		>
		<select id="kit-section" class="field" value={chosen ?? ''} onchange={(e) => setSection(e.currentTarget.value)}>
			<option value="">not told</option>
			{#each lengths as { name, label } (name)}<option value={name}>{label}</option>{/each}
		</select>
	</div>
{/snippet}

<h3 class="heading mt-3">Kit</h3>
<TextField label="Name" value={kit.name} oncommit={(v) => bench.commit('Rename kit', (d) => (d.name = v))} />
<TextField
	label="Purpose"
	help="In a line, for whoever chooses it"
	value={kit.help}
	oncommit={(v) => bench.commit('Change purpose', (d) => (d.help = v))}
/>
<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
	<label for="kit-host" class="text-soft" title="What it stands on">Stands on</label>
	<select
		id="kit-host"
		class="field"
		value={host.kind}
		onchange={(e) => setHost(() => hostOf(e.currentTarget.value as KitHost['kind']))}
	>
		{#each Object.entries(HOST_KINDS) as [kind, label] (kind)}<option value={kind}>{label}</option>{/each}
	</select>
</div>
{#if host.kind === 'cell' || host.kind === 'box'}
	<TextField label="Corners from" value={String(host.leastCorners)} oncommit={(v) => setCorners('leastCorners', v)} />
	<TextField
		label="Corners to"
		value={String(host.greatestCorners)}
		oncommit={(v) => setCorners('greatestCorners', v)}
	/>
	{#each kit.variants as variant, v (v)}
		<p class="flex items-baseline justify-between text-small">
			<span>Own steps for {variant.corners.join(', ')} corners</span><button
				class="text-patina underline"
				onclick={() => bench.commit('Remove steps of their own', (d) => d.variants.splice(v, 1))}>Remove</button
			>
		</p>
	{/each}
	{#key kit.variants.length}<TextField
			label="Own steps for"
			help="Numbers of corners that get steps of their own, beginning as a copy; try one on the bench to change them"
			value=""
			oncommit={addVariant}
		/>{/key}
{:else if host.kind === 'edge'}
	<fieldset class="my-1.5 grid grid-cols-[96px_1fr] gap-x-2">
		<legend class="float-left text-soft">Edges</legend>
		<span class="col-start-2 flex flex-wrap gap-x-3">
			{#each Object.entries(EDGES) as [kind, label] (kind)}
				<label class="flex items-center gap-1"
					><input
						type="checkbox"
						class="accent-patina"
						checked={host.edges.length === 0 || host.edges.includes(kind as 'up')}
						onchange={(e) =>
							setHost((h) =>
								h.kind === 'edge'
									? {
											...h,
											edges: (Object.keys(EDGES) as (keyof typeof EDGES)[]).filter((k) =>
												k === kind ? e.currentTarget.checked : h.edges.length === 0 || h.edges.includes(k)
											)
										}
									: h
							)}
					/>{label}</label
				>
			{/each}
		</span>
	</fieldset>
	<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for="kit-on" class="text-soft">Lies</label>
		<select
			id="kit-on"
			class="field"
			value={host.on}
			onchange={(e) => setHost((h) => ({ ...h, on: e.currentTarget.value }) as KitHost)}
		>
			{#each Object.entries(LAYERS) as [on, label] (on)}<option value={on}>{label}</option>{/each}
		</select>
	</div>
	{@render section(host.section)}
{:else if host.kind === 'node'}
	<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for="kit-nodes" class="text-soft">Nodes</label>
		<select
			id="kit-nodes"
			class="field"
			value={host.nodes}
			onchange={(e) => setHost((h) => ({ ...h, nodes: e.currentTarget.value }) as KitHost)}
			><option value="all">All</option><option value="inside">Inside</option><option value="border">On borders</option
			></select
		>
	</div>
	{@render section(host.section)}
{:else if host.kind === 'bay'}
	<TextField label="Cells across" value={String(host.across)} oncommit={(v) => setFields('across', v)} />
	<TextField label="Cells up" value={String(host.up)} oncommit={(v) => setFields('up', v)} />
{:else}
	<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for="kit-along" class="text-soft">Runs</label>
		<select
			id="kit-along"
			class="field"
			value={host.along}
			onchange={(e) => setHost((h) => ({ ...h, along: e.currentTarget.value }) as KitHost)}
			><option value="across">Across</option><option value="up">Up</option></select
		>
	</div>
	<TextField
		label="Each"
		help="1 takes every line, 2 every second"
		value={String(host.every)}
		oncommit={(v) =>
			Number.isInteger(Number(v)) && Number(v) >= 1
				? setHost((h) => ({ ...h, every: Number(v) }) as KitHost)
				: 'A whole number from 1.'}
	/>
{/if}
