<script lang="ts">
	import { useWorkspace } from '$lib/editor/context.ts';
	import { faceKey, type Face } from '$core/project/schema.ts';
	import { printFull } from '$core/units/print.ts';
	import { FACE_ELEMENTS } from '$core/formats/ifc/products.ts';
	import TextField from '../TextField.svelte';

	const work = useWorkspace();
	const current = $derived(work.face.current!);
	const body = $derived(work.runner.view?.bodies.find((b) => b.key === current.key));

	const SWITCHES = [
		{ name: 'facade', label: 'Part of the facade', help: 'Divided and clad; otherwise a mere surface of the mass' },
		{ name: 'hidden', label: 'Hidden', help: 'Not drawn; files hold it all the same' },
		{ name: 'insideOut', label: 'Inside out', help: 'The outside, tinted green, becomes the other side' }
	] as const satisfies { name: keyof Face; label: string; help: string }[];
	let error = $state<string>();
</script>

<h3 class="heading mt-4">
	{current.mass.faces.length === 1 ? 'Its face' : `Face, one of ${current.mass.faces.length}`}
</h3>
{#if current.mass.faces.length > 1}
	<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for="mass-face" class="text-soft">Chosen</label>
		<select
			id="mass-face"
			class="field"
			value={current.key}
			onchange={(e) => (work.face.chosen = e.currentTarget.value)}
		>
			{#each current.mass.faces as face (face.id)}
				<option value={faceKey(current.mass, face)}>{face.name}</option>
			{/each}
		</select>
	</div>
{/if}
{#key current.key}
	<TextField
		label="Face"
		value={current.face.name}
		oncommit={(name) =>
			work.editor.commit(
				'Rename face',
				work.face.onFace((f) => (f.name = name))
			)}
	/>
{/key}
{#if body}
	<p class="my-1.5 grid grid-cols-[96px_1fr] gap-x-2">
		<span class="text-soft" title="True area of the face, before it is divided">Area</span>
		<span class="figure">{printFull(body.area, 'area', work.project.units)}{body.closed ? ', closed' : ''}</span>
	</p>
{/if}
<label
	class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2"
	title="What the face is in building models (IFC); by itself a roof where it leans back more than 45° from upright"
>
	<span class="text-soft">In models a</span>
	<select
		class="field"
		value={current.face.element}
		onchange={(e) => {
			const element = e.currentTarget.value as Face['element'];
			error = work.editor.commit(
				'Change kind of face',
				work.face.onFace((f) => (f.element = element))
			);
		}}
	>
		<option value="auto">as it leans</option>
		{#each Object.entries(FACE_ELEMENTS) as [name, { label }] (name)}<option value={name}>{label}</option>{/each}
	</select>
</label>
{#each SWITCHES as { name, label, help } (name)}
	<label class="my-1 flex items-center gap-2" title={help}>
		<input
			type="checkbox"
			class="accent-patina"
			checked={current.face[name]}
			onchange={(e) => {
				const value = e.currentTarget.checked;
				error = work.editor.commit(
					`${label}: ${value ? 'yes' : 'no'}`,
					work.face.onFace((f) => (f[name] = value))
				);
			}}
		/>
		{label}
	</label>
{/each}
{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
