<script lang="ts">
	import { onDestroy } from 'svelte';
	import type { Project } from '$core/project/schema.ts';
	import { ModelRunner } from '$lib/editor/modelRunner.svelte.ts';

	interface Props {
		readonly data: {
			readonly id: string;
			readonly document: Project;
			readonly revision: number;
			readonly actor: string;
		};
	}
	let { data }: Props = $props();

	// The model is computed while the interface is still on its way.
	const runner = new ModelRunner();
	// svelte-ignore state_referenced_locally
	runner.request(data.document);
	onDestroy(() => runner.close());
	const workspace = import('./Workspace.svelte');
</script>

{#await workspace}
	<p class="p-6 text-soft" role="status">Opening “{data.document.name}” …</p>
{:then { default: Workspace }}
	<Workspace {...data} {runner} />
{:catch}
	<p class="p-6" role="alert">
		“{data.document.name}” could not be opened: a part of the application did not arrive. Nothing is lost; load the page
		again.
	</p>
{/await}
