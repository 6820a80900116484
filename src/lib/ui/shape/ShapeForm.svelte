<script lang="ts">
	import type { FormItem } from '$lib/editor/shapeForm.ts';
	import type { Path } from '$lib/editor/paths.ts';
	import PathChoice from '../PathChoice.svelte';
	import HeightField from './HeightField.svelte';
	import ListField from './ListField.svelte';
	import NetField from './NetField.svelte';
	import ProfileField from './ProfileField.svelte';
	import PathNumber from '../PathNumber.svelte';
	import PathSwitch from '../PathSwitch.svelte';

	/** `base` leads from the mass's shape to where the items' paths start. */
	let { items, base = [] }: { items: readonly FormItem[]; base?: Path } = $props();
</script>

{#each items as item (item.path.join('.'))}
	{@const path = [...base, ...item.path]}
	{#if item.kind === 'number'}
		<PathNumber of="shape" {...item} {path} />
	{:else if item.kind === 'height'}
		<HeightField {...item} {path} />
	{:else if item.kind === 'choice'}
		<PathChoice of="shape" {...item} {path} />
	{:else if item.kind === 'switch'}
		<PathSwitch of="shape" {...item} {path} />
	{:else if item.kind === 'profile'}
		<ProfileField {...item} {path} />
	{:else if item.kind === 'list'}
		<ListField {...item} {path} />
	{:else}
		<NetField {path} />
	{/if}
{/each}
