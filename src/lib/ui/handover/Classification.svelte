<script lang="ts">
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { FACE_ELEMENTS, type FaceElement } from '$core/formats/ifc/products.ts';
	import { CLASSIFIED, type Classified, type Handover } from '$core/project/handover.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import TextField from '../TextField.svelte';

	/** The client's system of classes, and which code is given to what, for building models. */
	const work = useWorkspace();
	type System = NonNullable<Handover['classification']>;
	const system = $derived(work.project.handover.classification);
	const edit = (change: (system: System) => void) =>
		work.editor.commit('Change the classification', (draft) => {
			change((draft.handover.classification ??= { name: 'Classes', source: '', edition: '', codes: [] }));
		});
	const remove = () =>
		work.editor.apply('Leave the classification out', (draft) => {
			Reflect.deleteProperty(draft.handover, 'classification');
		});
	const left = $derived(CLASSIFIED.filter((of) => !system?.codes.some((c) => c.of === of)));
	let error = $state<string>();
	const nameOf = (of: Classified) => (of in FACE_ELEMENTS ? FACE_ELEMENTS[of as FaceElement].label : of);
</script>

<section class="mt-1" aria-label="Classification">
	<label class="flex items-center gap-1.5" title="Pieces and faces refer to codes of the client’s system"
		><input
			type="checkbox"
			class="accent-patina"
			checked={system !== undefined}
			onchange={(e) => (e.currentTarget.checked ? edit(() => undefined) : remove())}
		/>Classes of a system</label
	>
	{#if system}
		<TextField label="System" help="Its name" value={system.name} oncommit={(t) => edit((s) => (s.name = t))} />
		<TextField
			label="Source"
			help="Who publishes it"
			value={system.source}
			oncommit={(t) => edit((s) => (s.source = t))}
		/>
		<TextField label="Edition" value={system.edition} oncommit={(t) => edit((s) => (s.edition = t))} />
		{#each system.codes as { of, code, title }, k (of)}
			<div class="mt-1 border-t border-rule pt-1" role="group" aria-label="Code of {nameOf(of)}">
				<div class="flex items-center justify-between">
					<span>{nameOf(of)}</span>
					<button
						class="text-soft hover:text-rust"
						title="Remove"
						aria-label="Remove the code of {nameOf(of)}"
						onclick={() => edit((s) => void s.codes.splice(k, 1))}><Trash2 size={12} /></button
					>
				</div>
				<div class="grid grid-cols-[72px_1fr] gap-1">
					<input
						class="field"
						aria-label="Code of {nameOf(of)}"
						value={code}
						onchange={(e) => (error = edit((s) => (s.codes[k]!.code = e.currentTarget.value)))}
					/>
					<input
						class="field"
						aria-label="Title of {nameOf(of)}"
						placeholder="title"
						value={title}
						onchange={(e) => (error = edit((s) => (s.codes[k]!.title = e.currentTarget.value)))}
					/>
				</div>
			</div>
		{/each}
		{#if left.length}
			<select
				class="field mt-1"
				aria-label="Add a code"
				value=""
				onchange={(e) => {
					const of = e.currentTarget.value as Classified;
					e.currentTarget.value = '';
					edit((s) => void s.codes.push({ of, code: '–', title: '' }));
				}}
			>
				<option value="" disabled>Add a code for …</option>
				{#each left as of (of)}<option value={of}>{nameOf(of)}</option>{/each}
			</select>
		{/if}
		{#if error}<p class="mt-1 text-rust" role="alert">{error}</p>{/if}
	{/if}
</section>
