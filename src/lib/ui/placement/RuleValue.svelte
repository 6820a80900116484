<script lang="ts">
	import Waypoints from '@lucide/svelte/icons/waypoints';
	import X from '@lucide/svelte/icons/x';
	import { DropdownMenu } from 'bits-ui';
	import type { KitParameter } from '$core/kit/schema.ts';
	import { varies, type RuleSet, type RuleValue, type VaryingValue } from '$core/placement/rules/schema.ts';
	import { ruleCompletions } from '$lib/editor/completions.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import ParameterValue from '../bench/ParameterValue.svelte';
	import FormulaField from '../bench/FormulaField.svelte';

	interface Props {
		parameter: KitParameter;
		value: RuleValue | undefined;
		host: RuleSet['host'];
		onpreview: (value: RuleValue) => string | undefined;
		/** Nothing for the kit's own. */
		oncommit: (value: RuleValue | undefined) => string | undefined;
	}
	let { parameter, value, host, onpreview, oncommit }: Props = $props();

	const work = useWorkspace();
	const isText = $derived(parameter.quantity === 'text' || parameter.quantity === 'material');
	const mode = $derived(value === undefined ? 'kit' : varies(value) ? value.kind : 'same');
	const MODES = $derived([
		['kit', 'the kit’s own'],
		['same', 'one value'],
		...(isText
			? []
			: ([
					['field', 'by a field'],
					['formula', 'by a formula']
				] as const)),
		['steps', 'in steps of a field'],
		['list', 'a list, by turns'],
		['choice', 'a choice at random']
	] as const);
	let error = $state<string>();
	const greatest = $derived(
		'greatest' in parameter ? parameter.greatest : parameter.quantity === 'choice' ? parameter.choices.length - 1 : 0
	);
	const own = $derived(value !== undefined && !varies(value) ? value : parameter.default);

	function choose(next: string) {
		const field = work.project.fields[0]?.id;
		if ((next === 'field' || next === 'steps') && !field)
			return void (error = 'There is no field yet; add one under Fields below.');
		const number = Number(own);
		const made: Record<string, () => RuleValue | undefined> = {
			kit: () => undefined,
			same: () => own,
			field: () => ({ kind: 'field', field: field!, from: number, to: number + (greatest - number) / 2 }),
			formula: () => ({
				kind: 'formula',
				formula: 'formula' in parameter && parameter.formula ? parameter.formula : written(number)
			}),
			steps: () => ({ kind: 'steps', field: field!, values: [own, own] }),
			list: () => ({ kind: 'list', along: 'column', values: [own, own] }),
			choice: () => ({
				kind: 'choice',
				seed: 1,
				values: [
					{ value: own, weight: 1 },
					{ value: own, weight: 1 }
				]
			})
		};
		error = oncommit(made[next]!());
	}
	/** A number as a formula has it. */
	const written = (n: number) =>
		parameter.quantity === 'angle'
			? `${Math.round((n * 180) / Math.PI)} deg`
			: parameter.quantity === 'length'
				? `${Math.round(n)} mm`
				: String(n);

	const several = $derived(
		value === undefined || !varies(value) || !('values' in value)
			? []
			: value.kind === 'choice'
				? value.values.map((v) => v.value)
				: value.values
	);
	function withValues(values: readonly (number | string)[], k?: number): VaryingValue {
		const now = value as Extract<VaryingValue, { values: unknown }>;
		if (now.kind !== 'choice') return { ...now, values: [...values] };
		const weights = k === undefined ? now.values.map((v) => v.weight) : now.values.map((v) => v.weight).toSpliced(k, 1);
		return { ...now, values: values.map((v, i) => ({ value: v, weight: weights[i] ?? 1 })) };
	}
	const fieldName = (id: string) => work.project.fields.find((f) => f.id === id)?.name ?? id;
</script>

<div class="my-0.5">
	{#if mode === 'kit' || mode === 'same'}
		<div class="grid grid-cols-[1fr_24px] items-start">
			<ParameterValue {parameter} value={own} {onpreview} {oncommit} />
			{@render modes()}
		</div>
		{#if mode === 'kit' && 'formula' in parameter && parameter.formula}<p class="-mt-1 pl-[104px] text-small text-soft">
				follows {parameter.formula}
			</p>{/if}
	{:else if value !== undefined && varies(value)}
		<div class="my-1 rounded border border-rule bg-paper px-1.5 py-1">
			<div class="grid grid-cols-[1fr_24px] items-center">
				<p class="text-soft">
					{parameter.label}
					<span class="text-small"
						>{value.kind === 'field'
							? `by field ${fieldName(value.field)}`
							: value.kind === 'steps'
								? `in steps of ${fieldName(value.field)}`
								: value.kind === 'list'
									? `by turns along ${value.along}s`
									: value.kind === 'choice'
										? 'at random'
										: ''}</span
					>
				</p>
				{@render modes()}
			</div>
			{#if value.kind === 'formula'}
				<FormulaField
					label={parameter.label}
					wide
					value={value.formula}
					completions={() => ruleCompletions(work.project, host)}
					oncommit={(formula) => oncommit({ kind: 'formula', formula })}
				/>
			{/if}
			{#if value.kind === 'field' || value.kind === 'steps'}
				<select
					class="field my-0.5 w-full"
					aria-label="Field"
					value={value.field}
					onchange={(e) => (error = oncommit({ ...value, field: e.currentTarget.value }))}
				>
					{#each work.project.fields as { id, name } (id)}<option value={id}>{name}</option>{/each}
				</select>
			{/if}
			{#if value.kind === 'field'}
				{#each ['from', 'to'] as const as end (end)}
					<ParameterValue
						parameter={{
							...parameter,
							label: end === 'from' ? 'Where it is least' : 'Where it is greatest'
						} as KitParameter}
						value={value[end]}
						onpreview={(v) => onpreview({ ...value, [end]: Number(v) })}
						oncommit={(v) => oncommit({ ...value, [end]: Number(v) })}
					/>
				{/each}
			{/if}
			{#if value.kind === 'list'}
				<label class="my-0.5 flex items-center gap-2"
					><span class="text-soft">Along</span>
					<select
						class="field w-auto"
						value={value.along}
						onchange={(e) => (error = oncommit({ ...value, along: e.currentTarget.value as 'row' }))}
					>
						<option value="column">columns</option><option value="row">rows</option>
					</select></label
				>
			{/if}
			{#if value.kind === 'choice'}
				<label class="my-0.5 flex items-center gap-2"
					><span class="text-soft">Seed</span>
					<input
						class="field figure w-20"
						value={String(value.seed)}
						onchange={(e) =>
							(error = oncommit({ ...value, seed: Math.max(0, Math.round(Number(e.currentTarget.value)) || 0) }))}
					/></label
				>
			{/if}
			{#each several as one, k (k)}
				<div class="flex items-start gap-1">
					<div class="min-w-0 grow">
						<ParameterValue
							parameter={{ ...parameter, label: `Value ${k + 1}` } as KitParameter}
							value={one}
							onpreview={(v) => onpreview(withValues(several.with(k, v)))}
							oncommit={(v) => oncommit(withValues(several.with(k, v)))}
						/>
					</div>
					{#if value.kind === 'choice'}
						<input
							class="field figure mt-1.5 w-12"
							aria-label="Weight of value {k + 1}"
							title="Weight: how often, beside the others"
							value={String(value.values[k]!.weight)}
							onchange={(e) => {
								const weight = Number(e.currentTarget.value);
								error =
									weight > 0
										? oncommit({ ...value, values: value.values.with(k, { value: one, weight }) })
										: 'a weight is a number above 0';
							}}
						/>
					{/if}
					{#if several.length > 1}
						<button
							class="mt-2.5 text-soft hover:text-rust"
							aria-label="Take value {k + 1} away"
							onclick={() => (error = oncommit(withValues(several.toSpliced(k, 1), k)))}><X size={13} /></button
						>
					{/if}
				</div>
			{/each}
			{#if several.length}
				<button
					class="text-small text-patina hover:underline"
					onclick={() => (error = oncommit(withValues([...several, several.at(-1)!])))}>+ value</button
				>
			{/if}
		</div>
	{/if}
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>

{#snippet modes()}
	<DropdownMenu.Root>
		<DropdownMenu.Trigger
			class="mt-1.5 ml-1 rounded p-0.5 hover:text-patina {mode === 'kit' ? 'text-soft' : 'text-patina'}"
			title="Follows {MODES.find(([m]) => m === mode)?.[1]}; choose another way"
			aria-label="What {parameter.label.toLowerCase()} follows"><Waypoints size={14} /></DropdownMenu.Trigger
		>
		<DropdownMenu.Portal>
			<DropdownMenu.Content
				align="end"
				sideOffset={4}
				collisionPadding={8}
				class="z-40 rounded-md border border-rule bg-sheet p-1 text-ink shadow-lg"
			>
				<DropdownMenu.RadioGroup value={mode} onValueChange={choose}>
					{#each MODES as [name, label] (name)}
						<DropdownMenu.RadioItem
							value={name}
							class="cursor-pointer rounded px-2 py-0.5 data-highlighted:bg-wash data-[state=checked]:font-semibold"
							>{label}</DropdownMenu.RadioItem
						>
					{/each}
				</DropdownMenu.RadioGroup>
			</DropdownMenu.Content>
		</DropdownMenu.Portal>
	</DropdownMenu.Root>
{/snippet}
