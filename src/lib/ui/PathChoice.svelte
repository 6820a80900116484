<script lang="ts">
	import type { Path } from '$lib/editor/paths.ts';
	import { PathEdit, type PathRoot } from '$lib/editor/pathEdit.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	interface Props {
		/** What the path starts from. */
		of: PathRoot;
		path: Path;
		label: string;
		help: string;
		options: readonly (readonly [value: unknown, label: string])[];
	}

	let { of, path, label, help, options }: Props = $props();

	// A field does not change what it is of.
	// svelte-ignore state_referenced_locally
	const edit = new PathEdit(
		of,
		useWorkspace(),
		() => path,
		() => label
	);
	/** Values that are objects are told apart by their kind. */
	const nameOf = (value: unknown) => (value as { kind?: string } | null)?.kind ?? String(value);
	const id = $props.id();
	let error = $state<string>();
</script>

<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
	<label for={id} class="text-soft" title={help}>{label}</label>
	<select
		{id}
		class="field"
		value={nameOf(edit.value)}
		onchange={(e) => (error = edit.commit(options.find(([v]) => nameOf(v) === e.currentTarget.value)![0]))}
	>
		{#each options as [value, text] (text)}<option value={nameOf(value)}>{text}</option>{/each}
	</select>
	{#if error}<p class="col-span-2 mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
