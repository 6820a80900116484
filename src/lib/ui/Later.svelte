<script lang="ts" generics="Props extends ComponentProps<Component>">
	import type { Component, ComponentProps } from 'svelte';

	interface Own {
		/** Brings a part of the interface that is loaded when it is shown first. */
		readonly part: () => Promise<{ default: Component<Props> }>;
		readonly given?: Props;
	}
	let { part, given }: Own = $props();

	const loaded = $derived(part());
</script>

{#await loaded then { default: Part }}
	<Part {...given!} />
{:catch}
	<p class="p-4" role="alert">
		This part of the application did not arrive. Nothing is lost; show it again, or
		<button class="text-patina underline" onclick={() => location.reload()}>load the page again</button>.
	</p>
{/await}
