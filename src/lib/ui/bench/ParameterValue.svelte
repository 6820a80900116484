<script lang="ts">
	import type { KitParameter } from '$core/kit/schema.ts';
	import { shownQuantity } from '$lib/editor/kitSteps.ts';
	import { useEditing } from '$lib/editor/context.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';

	interface Props {
		parameter: KitParameter;
		value: number | string;
		onpreview: (value: number | string) => string | undefined;
		oncommit: (value: number | string) => string | undefined;
	}
	let { parameter, value, onpreview, oncommit }: Props = $props();

	const work = useEditing();
	const id = $props.id();
	const help = $derived(
		`${parameter.help}${'formula' in parameter && parameter.formula ? `${parameter.help ? '. ' : ''}Follows ${parameter.formula} where nothing is given` : ''}`
	);
</script>

{#if parameter.quantity === 'yesno'}
	<label class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2" title={help}>
		<span class="text-soft">{parameter.label}</span>
		<input
			type="checkbox"
			class="accent-patina"
			aria-label={parameter.label}
			checked={value === 1}
			onchange={(e) => oncommit(e.currentTarget.checked ? 1 : 0)}
		/>
	</label>
{:else if parameter.quantity === 'choice' || parameter.quantity === 'material'}
	<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for={id} class="text-soft" title={help}>{parameter.label}</label>
		{#if parameter.quantity === 'choice'}
			<select {id} class="field" value={String(value)} onchange={(e) => oncommit(Number(e.currentTarget.value))}>
				{#each parameter.choices as choice, k (k)}<option value={String(k)}>{choice}</option>{/each}
			</select>
		{:else}
			<select {id} class="field" {value} onchange={(e) => oncommit(e.currentTarget.value)}>
				{#each work.project.materials as { id: material, name } (material)}<option value={material}>{name}</option
					>{/each}
			</select>
		{/if}
	</div>
{:else if parameter.quantity === 'text'}
	<TextField label={parameter.label} {help} value={String(value)} {oncommit} />
{:else}
	<NumberField
		label={parameter.label}
		{help}
		value={Number(value)}
		quantity={shownQuantity(parameter.quantity)}
		unit={work.project.units}
		step={parameter.quantity === 'length' ? 1 : undefined}
		{onpreview}
		{oncommit}
		onrevert={() => work.editor.revert()}
	/>
{/if}
