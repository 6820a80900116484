<script lang="ts">
	import Crosshair from '@lucide/svelte/icons/crosshair';
	import X from '@lucide/svelte/icons/x';
	import type { Field, Form } from '$core/kit/fields.ts';
	import type { Step } from '$core/kit/schema.ts';
	import { shapeMade } from '$core/kit/references.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	let { step, name, field, form }: { step: Step; name: string; field: Field; form: Extract<Form, { type: 'ref' }> } =
		$props();

	const { bench } = useWorkspace();
	const value = $derived((step as unknown as Record<string, unknown>)[name] as string | string[] | undefined);
	const chosen = $derived(value === undefined ? [] : Array.isArray(value) ? value : [value]);
	/** Bodies of a module are on its mould. */
	const place = $derived(step.kind === 'module' && name === 'body' ? step.mould : step.on);
	const fits = $derived(
		bench.steps
			.filter(
				(s) =>
					s.on === place && s.name !== step.name && (form.of as readonly string[]).includes(shapeMade(s, bench.steps))
			)
			.map((s) => s.name)
	);
	const inPicture = $derived(form.of.some((f) => f === 'point' || f === 'line'));
	const picking = $derived(bench.picking?.step === step.name && bench.picking.field === name);
	const set = (next: string | string[] | undefined) => bench.setField(step.name, name, next);
</script>

<div class="my-1 grid grid-cols-[96px_1fr_auto] items-center gap-x-2">
	<label for="{step.name}-{name}" class="text-soft" title={field.help}>{field.label}</label>
	{#if form.many}
		<div class="flex min-w-0 flex-wrap gap-1">
			{#each chosen as one, k (k)}
				<span class="flex items-center gap-0.5 rounded border border-control bg-paper py-px pr-0.5 pl-1.5 text-small">
					{one}<button
						class="text-soft hover:text-rust"
						aria-label="Take {one} out"
						onclick={() => set(chosen.length > 1 || !field.optional ? chosen.toSpliced(k, 1) : undefined)}
						><X size={11} /></button
					>
				</span>
			{/each}
			<select
				id="{step.name}-{name}"
				class="field min-w-0 grow py-0 text-small"
				value=""
				onchange={(e) => (set([...chosen, e.currentTarget.value]), (e.currentTarget.value = ''))}
			>
				<option value="" disabled>Add …</option>
				{#each fits as one (one)}<option value={one}>{one}</option>{/each}
			</select>
		</div>
	{:else}
		<select
			id="{step.name}-{name}"
			class="field min-w-0"
			value={chosen[0] ?? ''}
			onchange={(e) => set(e.currentTarget.value || undefined)}
		>
			{#if field.optional || !chosen[0]}<option value="">{field.optional ? 'None' : 'Choose …'}</option>{/if}
			{#if chosen[0] && !fits.includes(chosen[0])}<option value={chosen[0]}>{chosen[0]} (missing)</option>{/if}
			{#each fits as one (one)}<option value={one}>{one}</option>{/each}
		</select>
	{/if}
	{#if inPicture}
		<button
			class="rounded border p-1 {picking
				? 'border-patina bg-patina text-on-patina'
				: 'border-control text-soft hover:text-patina'}"
			title={picking ? 'Done picking (Esc)' : 'Pick in the picture'}
			aria-label="Pick {field.label.toLowerCase()} in the picture"
			aria-pressed={picking}
			onclick={() => (bench.picking = picking ? undefined : { step: step.name, field: name, form })}
			><Crosshair size={13} /></button
		>
	{/if}
</div>
