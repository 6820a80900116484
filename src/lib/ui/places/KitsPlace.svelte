<script lang="ts">
	import { stepInWords } from '$lib/editor/kitWords.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import NumberField from '../NumberField.svelte';

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	let chosen = $state(work.project.rules[0]?.kit ?? '');
	const k = $derived(Math.max(0, work.project.kits.findIndex((kit) => kit.id === chosen)));
	const kit = $derived(work.project.kits[k]);
	const places = $derived(kit ? work.project.rules.filter((r) => r.kit === kit.id).length : 0);
</script>

{#if kit}
	<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for="kit" class="text-soft">Kit</label>
		<select id="kit" class="field" value={kit.id} onchange={(e) => (chosen = e.currentTarget.value)}>
			{#each work.project.kits as { id, name } (id)}<option value={id}>{name}</option>{/each}
		</select>
	</div>
	<p class="text-small text-soft">
		For cells with {kit.host.leastCorners} corners or more · on {places}
		{places === 1 ? 'face' : 'faces'}
	</p>
	<h3 class="heading mt-3">Parameters, where a placement does not say otherwise</h3>
	{#each kit.parameters as parameter, p (parameter.name)}
		{@const set = (v: number) => (draft: typeof work.project) =>
			void (draft.kits[k]!.parameters[p]!.default = v)}
		<NumberField
			label={parameter.label}
			help={parameter.help}
			value={parameter.default}
			quantity={parameter.quantity}
			{unit}
			step={parameter.quantity === 'length' ? 1 : undefined}
			onpreview={(v) => work.editor.preview(set(v))}
			oncommit={(v) => work.editor.commit(`Change ${parameter.label.toLowerCase()} of ${kit.name}`, set(v))}
			onrevert={() => work.editor.revert()}
		/>
	{/each}
	<h3 class="heading mt-3 mb-1">Steps</h3>
	<ol>
		{#each kit.steps as step (step.name)}
			<li class="grid grid-cols-[72px_1fr] gap-x-2 py-[3px]">
				<span class="font-semibold">{step.name}</span>
				<span class="text-small text-soft">{stepInWords(step, kit)}</span>
			</li>
		{/each}
	</ol>
{:else}
	<p class="text-soft">This project has no kit.</p>
{/if}

<h3 class="heading mt-4">Materials</h3>
{#each work.project.materials as material, m (material.id)}
	{@const set = (v: number) => (draft: typeof work.project) =>
		void (draft.materials[m]!.density = v)}
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
		<NumberField
			label={material.name}
			help="Density in kg/m³"
			value={material.density}
			quantity="count"
			{unit}
			step={10}
			onpreview={(v) => work.editor.preview(set(v))}
			oncommit={(v) => work.editor.commit(`Change density of ${material.name}`, set(v))}
			onrevert={() => work.editor.revert()}
		/>
		<span class="text-small text-soft">kg/m³</span>
	</div>
{/each}
