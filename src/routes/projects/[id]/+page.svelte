<script lang="ts">
	import { onMount } from 'svelte';
	import OpenProject from '$lib/ui/OpenProject.svelte';

	let { data } = $props();

	// The workspace needs workers and WebGL, so the server sends the page without it.
	let inBrowser = $state(false);
	onMount(() => {
		inBrowser = true;
	});
</script>

{#if inBrowser}
	{#key data.id}<OpenProject {data} />{/key}
{/if}
