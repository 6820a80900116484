<script lang="ts">
	import ArrowDown from '@lucide/svelte/icons/arrow-down';
	import ArrowUp from '@lucide/svelte/icons/arrow-up';
	import Copy from '@lucide/svelte/icons/copy';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { copyMass, removeMass } from '$lib/editor/masses.ts';
	import { formOf } from '$lib/editor/shapeForm.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { kindOf } from '$core/mass/shapes.ts';
	import TextField from '../TextField.svelte';
	import ImportedFaces from '../mass/ImportedFaces.svelte';
	import MassFaces from '../mass/MassFaces.svelte';
	import MassFrame from '../mass/MassFrame.svelte';
	import ModelChange from '../mass/ModelChange.svelte';
	import ShapeForm from '../shape/ShapeForm.svelte';

	const work = useWorkspace();
	const mass = $derived(work.face.current!.mass);
	const m = $derived(work.face.current!.m);
	const kind = $derived(kindOf(mass.shape));

	function copy() {
		let key = '';
		if (work.editor.apply(`Copy ${mass.name}`, (draft) => (key = copyMass(draft, m)))) work.face.chosen = key;
	}
</script>

<TextField
	label="Name"
	value={mass.name}
	oncommit={(name) =>
		work.editor.commit(
			'Rename mass',
			work.face.onMass((m) => (m.name = name))
		)}
/>
<p class="my-1.5 grid grid-cols-[96px_1fr] gap-x-2" title={kind.help}>
	<span class="text-soft">Shape</span>{kind.label}
</p>
{#if mass.shape.kind === 'imported'}<ImportedFaces shape={mass.shape} />{/if}
<ShapeForm items={formOf(mass.shape)} />
<ModelChange />
<MassFaces />
<MassFrame />
<div class="mt-3 flex flex-wrap gap-1.5">
	<button class="button" title="Another one beside it, with its kits" onclick={copy}><Copy size={14} />Copy</button>
	<button
		class="button"
		title="Before the mass above it (Alt and arrow up in the list): where faces meet, what stands twice is left to the earlier one"
		disabled={m === 0}
		onclick={() => work.moveMass(m, -1)}><ArrowUp size={14} />Earlier</button
	>
	<button
		class="button"
		title="Behind the mass below it (Alt and arrow down in the list)"
		disabled={m === work.project.masses.length - 1}
		onclick={() => work.moveMass(m, 1)}><ArrowDown size={14} />Later</button
	>
	<button
		class="button text-rust"
		onclick={() => work.editor.apply(`Remove ${mass.name}`, (draft) => removeMass(draft, mass.id))}
	>
		<Trash2 size={14} />Remove this mass
	</button>
</div>
