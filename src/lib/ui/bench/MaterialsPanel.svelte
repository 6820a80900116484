<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import { freeName } from '$lib/editor/names.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import NumberField from '../NumberField.svelte';

	const work = useWorkspace();
	const add = () =>
		work.editor.commit('Add material', (draft) => {
			const id = freeName('material', draft.materials.map((m) => m.id));
			draft.materials.push({ id, name: `Material ${id.replace(/\D+/g, '')}`, density: 1000, colour: '#9A8C78', opacity: 1 });
		});
</script>

<h3 class="heading mt-4 flex items-center justify-between">Materials <button class="text-soft hover:text-patina" title="Add a material" aria-label="Add a material" onclick={add}><Plus size={14} /></button></h3>
{#each work.project.materials as material, m (material.id)}
	{@const set = (v: number) => (draft: typeof work.project) => void (draft.materials[m]!.density = v)}
	<div class="grid grid-cols-[14px_1fr_38px] items-center gap-x-2">
		<input
			type="color"
			class="h-4 w-4 rounded"
			aria-label="Colour of {material.name}"
			value={material.colour}
			onchange={(e) => {
				const colour = e.currentTarget.value;
				work.editor.commit(`Change colour of ${material.name}`, (draft) => (draft.materials[m]!.colour = colour));
			}}
		/>
		<NumberField label={material.name} help="Density in kg/m³" value={material.density} quantity="count" unit={work.project.units} step={10} onpreview={(v) => work.editor.preview(set(v))} oncommit={(v) => work.editor.commit(`Change density of ${material.name}`, set(v))} onrevert={() => work.editor.revert()} />
		<span class="text-small text-soft">kg/m³</span>
	</div>
{/each}
