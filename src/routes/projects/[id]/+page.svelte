<script lang="ts">
	import { onMount } from 'svelte';
	import Workspace from '$lib/ui/Workspace.svelte';

	let { data } = $props();

	// The workspace needs workers and WebGL, so the server sends the page without it.
	let inBrowser = $state(false);
	onMount(() => {
		inBrowser = true;
	});
</script>

{#if inBrowser}
	{#key data.id}
		<Workspace id={data.id} document={data.document} revision={data.revision} actor={data.actor} />
	{/key}
{/if}
