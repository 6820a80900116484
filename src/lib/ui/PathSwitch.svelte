<script lang="ts">
	import type { Path } from '$lib/editor/paths.ts';
	import { PathEdit, type PathRoot } from '$lib/editor/pathEdit.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	let { of, path, label, help }: { of: PathRoot; path: Path; label: string; help: string } = $props();

	// A field does not change what it is of.
	// svelte-ignore state_referenced_locally
	const edit = new PathEdit(
		of,
		useWorkspace(),
		() => path,
		() => label
	);
	let error = $state<string>();
</script>

<label class="my-1.5 flex items-center gap-2" title={help}>
	<input
		type="checkbox"
		class="accent-patina"
		checked={edit.value as boolean}
		onchange={(e) => (error = edit.commit(e.currentTarget.checked))}
	/>
	{label}
</label>
{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
