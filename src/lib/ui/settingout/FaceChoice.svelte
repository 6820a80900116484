<script lang="ts">
	import { FaceEdit } from '$lib/editor/faceEdit.ts';
	import type { Path } from '$lib/editor/paths.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';

	interface Props {
		path: Path;
		label: string;
		help: string;
		options: readonly (readonly [value: string, label: string])[];
	}

	let { path, label, help, options }: Props = $props();

	const edit = new FaceEdit(useWorkspace(), () => path, () => label);
	const id = $props.id();
	let error = $state<string>();
</script>

<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
	<label for={id} class="text-soft" title={help}>{label}</label>
	<select {id} class="field" value={edit.value as string} onchange={(e) => (error = edit.commit(e.currentTarget.value))}>
		{#each options as [value, text] (value)}<option {value}>{text}</option>{/each}
	</select>
	{#if error}<p class="col-span-2 mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
