<script lang="ts">
	import FileUp from '@lucide/svelte/icons/file-up';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { messageOf } from '$core/errors.ts';
	import { readModule } from '$lib/editor/moduleFile.ts';
	import { freeId } from '$lib/editor/names.ts';
	import { useEditing } from '$lib/editor/context.ts';

	const work = useEditing();
	let files: HTMLInputElement;
	let busy = $state(false);
	let error = $state<string>();

	async function bringIn(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		if (!file) return;
		busy = true;
		error = undefined;
		try {
			const mesh = await readModule(file);
			error = work.editor.commit(
				`Bring in ${mesh.name}`,
				(draft) =>
					void draft.modules.push({
						...mesh,
						id: freeId(
							'mesh',
							draft.modules.map((m) => m.id)
						)
					})
			);
		} catch (cause) {
			error = messageOf(cause);
		}
		busy = false;
	}
</script>

<h3 class="heading mt-4">Meshes for modules</h3>
{#each work.project.modules as mesh (mesh.id)}
	<p class="flex items-center justify-between py-px">
		<span class="truncate">{mesh.name}</span><button
			class="text-soft hover:text-rust"
			aria-label="Remove {mesh.name}"
			onclick={() =>
				(error = work.editor.commit(
					`Remove ${mesh.name}`,
					(draft) => (draft.modules = draft.modules.filter((m) => m.id !== mesh.id))
				))}><Trash2 size={13} /></button
		>
	</p>
{/each}
<button
	class="button mt-1 text-small"
	disabled={busy}
	title="OBJ, STL, PLY, GLB, STEP or IFC; it is fitted into a box"
	onclick={() => files.click()}><FileUp size={13} />{busy ? 'Reading …' : 'Bring in a mesh'}</button
>
<input bind:this={files} type="file" class="hidden" aria-label="Mesh file" onchange={bringIn} />
{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
