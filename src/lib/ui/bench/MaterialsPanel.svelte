<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import Settings2 from '@lucide/svelte/icons/settings-2';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { Material } from '$core/project/schema.ts';
	import { freeId } from '$lib/editor/names.ts';
	import { useEditing } from '$lib/editor/context.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';

	const work = useEditing();
	let open = $state<string>();
	let error = $state<string>();
	const add = () =>
		work.editor.apply('Add material', (draft) => {
			const id = freeId(
				'material',
				draft.materials.map((m) => m.id)
			);
			draft.materials.push({
				id,
				name: `Material ${id.replace(/\D+/g, '')}`,
				density: 1000,
				colour: '#9A8C78',
				opacity: 1
			});
		});
	/** A change of one material. */
	const change = (id: string, edit: (material: Material) => void) => (draft: typeof work.project) =>
		edit(draft.materials.find((m) => m.id === id)!);
	function setFinish(id: string, finish: string) {
		return work.editor.commit(
			'Change finish',
			change(id, (m) => (finish ? (m.finish = finish) : delete m.finish))
		);
	}
</script>

<h3 class="heading mt-4 flex items-center justify-between">
	Materials <button class="text-soft hover:text-patina" title="Add a material" aria-label="Add a material" onclick={add}
		><Plus size={14} /></button
	>
</h3>
{#each work.project.materials as material (material.id)}
	{@const { id, name } = material}
	{@const set = (v: number) => change(id, (m) => (m.density = v))}
	<div class="grid grid-cols-[14px_1fr_38px_16px] items-center gap-x-2">
		<input
			type="color"
			class="h-4 w-4 rounded"
			aria-label="Colour of {name}"
			value={material.colour}
			onchange={(e) => {
				const colour = e.currentTarget.value;
				work.editor.apply(
					`Change colour of ${name}`,
					change(id, (m) => (m.colour = colour))
				);
			}}
		/>
		<NumberField
			label={name}
			help="Density in kg/m³"
			value={material.density}
			quantity="count"
			unit={work.project.units}
			step={10}
			onpreview={(v) => work.editor.preview(set(v))}
			oncommit={(v) => work.editor.commit(`Change density of ${name}`, set(v))}
			onrevert={() => work.editor.revert()}
		/>
		<span class="text-small text-soft">kg/m³</span>
		<button
			class={open === id ? 'text-patina' : 'text-soft hover:text-patina'}
			title="Name, finish and opacity"
			aria-label="Define {name}"
			aria-expanded={open === id}
			onclick={() => (open = open === id ? undefined : id)}><Settings2 size={13} /></button
		>
	</div>
	{#if open === id}
		<div class="mb-1 rounded border border-rule bg-paper px-2 py-0.5">
			<TextField
				label="Name"
				value={name}
				oncommit={(v) =>
					work.editor.commit(
						'Rename material',
						change(id, (m) => (m.name = v))
					)}
			/>
			<TextField
				label="Finish"
				help="Of its surface, for whoever makes it"
				value={material.finish ?? ''}
				oncommit={(v) => setFinish(id, v)}
			/>
			<NumberField
				label="Opacity"
				value={material.opacity}
				quantity="ratio"
				unit={work.project.units}
				step={0.05}
				onpreview={(v) => work.editor.preview(change(id, (m) => (m.opacity = v)))}
				oncommit={(v) =>
					work.editor.commit(
						`Change opacity of ${name}`,
						change(id, (m) => (m.opacity = v))
					)}
				onrevert={() => work.editor.revert()}
			/>
			<button
				class="my-1 flex items-center gap-1 text-small text-soft hover:text-rust"
				onclick={() =>
					(error = work.editor.commit(
						`Remove ${name}`,
						(draft) => (draft.materials = draft.materials.filter((m) => m.id !== id))
					))}><Trash2 size={12} />Remove the material</button
			>
			{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
		</div>
	{/if}
{/each}
