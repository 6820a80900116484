<script lang="ts">
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import {
		addFieldTo,
		FIELD_LABELS,
		newSource,
		removeField,
		usersOfField,
		type FieldKind
	} from '$lib/editor/fields.ts';
	import { pickedPicture } from '$lib/editor/pictureFile.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import KindMenu from '../KindMenu.svelte';
	import FieldForm from './FieldForm.svelte';

	const work = useWorkspace();
	const { placement } = work;
	const fields = $derived(work.project.fields);
	let error = $state<string>();
	/** What follows the field that is to go, while that is asked. */
	let asked = $state<{ id: string; users: readonly string[] }>();

	/** A place on the chosen face to begin at: its middle node, mm. */
	function middle(): [number, number, number] {
		const view = work.face.view;
		const origin = work.runner.view?.origin ?? [0, 0, 0];
		if (!view?.nodes.length) return [0, 0, 0];
		const n = Math.floor(view.nodes.length / 6) * 3;
		const at = (c: 0 | 1 | 2) => Math.round(view.nodes[n + c]! + origin[c]);
		return [at(0), at(1), at(2)];
	}
	function add(kind: FieldKind) {
		let id = '';
		error = work.editor.commit(
			'Add a field',
			(draft) => (id = addFieldTo(draft, newSource(kind, middle()), FIELD_LABELS[kind]))
		);
		if (!error) show(id);
	}
	/** A picture comes last, since it asks for its file. */
	const KINDS = [
		...Object.entries(FIELD_LABELS).filter(([kind]) => kind !== 'picture'),
		['picture', `${FIELD_LABELS.picture} …`] as const
	];
	let file: HTMLInputElement;
	async function addPicture() {
		const picked = await pickedPicture(file);
		if (!picked) return;
		if ('error' in picked) return void (error = picked.error);
		let id = '';
		const name = picked.file.replace(/\.[^.]*$/, '') || 'Picture';
		error = work.editor.commit('Add a field', (draft) => (id = addFieldTo(draft, picked, name)));
		if (!error) show(id);
	}
	function show(id: string | undefined) {
		placement.field = id;
		placement.colours = id === undefined ? 'none' : 'field';
	}
	function remove(id: string) {
		asked = undefined;
		if (placement.field === id) show(undefined);
		error = work.editor.commit('Remove a field', (draft) => removeField(draft, id));
	}
</script>

<section class="mt-4 border-t border-rule pt-2" aria-labelledby="fields-heading">
	<div class="flex items-center justify-between">
		<h3
			id="fields-heading"
			class="heading"
			title="A number for every point of a face, which values and rules can follow"
		>
			Fields
		</h3>
		<KindMenu
			label="Add a field"
			list="Kinds of fields"
			kinds={KINDS}
			onchoose={(kind) => (kind === 'picture' ? file.click() : add(kind as FieldKind))}
		/>
	</div>
	<input
		bind:this={file}
		type="file"
		accept="image/*"
		class="sr-only"
		tabindex="-1"
		aria-label="Picture for a field"
		onchange={addPicture}
	/>
	{#if fields.length === 0}
		<p class="text-small text-soft">
			None yet. A field is a number for every point, such as the distance to a curve; sizes and rules can follow it.
		</p>
	{/if}
	<ul class="-mx-1.5">
		{#each fields as field, k (field.id)}
			{@const open = placement.field === field.id}
			<li>
				<div class="group flex items-center gap-2 rounded px-1.5 {open ? 'bg-wash' : 'hover:bg-wash/60'}">
					<button
						class="min-w-0 grow truncate py-[3px] text-left"
						aria-expanded={open}
						onclick={() => show(open ? undefined : field.id)}
						>{field.name} <span class="text-small text-soft">{field.id === field.name ? '' : field.id}</span></button
					>
					<button
						class="text-soft opacity-0 group-hover:opacity-100 hover:text-rust focus-visible:opacity-100"
						aria-label="Remove {field.name}"
						title="Remove"
						onclick={() => {
							const users = usersOfField(work.project, field.id);
							if (users.length) asked = { id: field.id, users };
							else remove(field.id);
						}}><Trash2 size={12} /></button
					>
				</div>
				{#if asked?.id === field.id}
					<p class="px-1.5 py-1 text-small text-rust" role="alert">
						{asked.users.join(', ')}
						{asked.users.length === 1 ? 'follows' : 'follow'} it, and would hold without it.
						<button class="underline" onclick={() => remove(field.id)}>Remove it all the same</button>
						<button class="ml-2 text-soft underline" onclick={() => (asked = undefined)}>Keep it</button>
					</p>
				{/if}
				{#if open}<FieldForm {field} {k} />{/if}
			</li>
		{/each}
	</ul>
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
