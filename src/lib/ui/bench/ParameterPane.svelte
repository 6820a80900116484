<script lang="ts">
	import Settings2 from '@lucide/svelte/icons/settings-2';
	import { printFull } from '$core/units/print.ts';
	import { PARAMETER_KINDS, newParameter } from '$lib/editor/kitParameters.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import ParameterForm from './ParameterForm.svelte';
	import ParameterValue from './ParameterValue.svelte';

	const work = useWorkspace();
	const { bench } = work;
	const kit = $derived(bench.kit!);
	const unit = $derived(work.project.units);
	let open = $state<string>();
	const groups = $derived([...new Set(kit.parameters.map((p) => p.group))]);
	const trial = $derived(bench.trial);
	const numbers = $derived(bench.steps.filter((s) => s.kind === 'value' && trial?.values[s.name] !== undefined));

	function add(quantity: (typeof PARAMETER_KINDS)[number][0]) {
		const parameter = newParameter(kit, quantity, work.project.materials[0]?.id ?? 'none');
		if (!bench.commit(`Add parameter ${parameter.name}`, (draft) => draft.parameters.push(parameter)))
			open = parameter.name;
	}
</script>

<section class="flex min-h-0 flex-col overflow-auto border-l border-rule bg-sheet" aria-label="Parameters of the kit">
	<header class="sticky top-0 z-10 flex items-center gap-2 border-b border-rule bg-sheet px-2.5 py-1.5">
		<h3 class="font-semibold">Parameters</h3>
		<label class="ml-auto">
			<span class="sr-only">Add parameter</span>
			<select
				class="button w-[84px] text-small"
				value=""
				onchange={(e) => (add(e.currentTarget.value as 'length'), (e.currentTarget.value = ''))}
			>
				<option value="" disabled>Add …</option>
				{#each PARAMETER_KINDS as [quantity, label] (quantity)}<option value={quantity}>{label}</option>{/each}
			</select>
		</label>
	</header>
	<div class="px-2.5 py-1">
		{#each groups as name (name)}
			{#if name}<h4 class="heading mt-2">{name}</h4>{/if}
			{#each kit.parameters.filter((p) => p.group === name) as parameter (parameter.name)}
				{@const p = kit.parameters.indexOf(parameter)}
				<div class="grid grid-cols-[1fr_22px] items-start" data-parameter={parameter.name}>
					<ParameterValue
						{parameter}
						value={bench.values[parameter.name] ?? parameter.default}
						onpreview={(v) =>
							work.editor.preview((draft) => void (draft.kits[bench.k]!.parameters[p]!.default = v as never))}
						oncommit={(v) =>
							bench.commit(
								`Change ${parameter.label.toLowerCase()} of ${kit.name}`,
								(draft) => void (draft.parameters[p]!.default = v as never)
							)}
					/>
					<button
						class="mt-2.5 ml-1 {open === parameter.name ? 'text-patina' : 'text-soft hover:text-patina'}"
						title="Limits, formula and words"
						aria-label="Define {parameter.label}"
						aria-expanded={open === parameter.name}
						onclick={() => (open = open === parameter.name ? undefined : parameter.name)}
						><Settings2 size={14} /></button
					>
				</div>
				{#if open === parameter.name}<ParameterForm {parameter} onrenamed={(to) => (open = to)} />{/if}
			{/each}
		{/each}
		{#if kit.parameters.length === 0}<p class="py-1 text-soft">
				No parameter yet. What should change from place to place?
			</p>{/if}
	</div>
	{#if numbers.length}
		<div class="border-t border-rule px-2.5 py-1.5">
			<h4 class="heading">Numbers on this host</h4>
			{#each numbers as step (step.name)}
				<p class="flex justify-between py-px">
					<span class="text-soft">{step.name}</span><span class="figure" data-number={step.name}
						>{step.kind === 'value' ? printFull(trial!.values[step.name]!, step.quantity, unit) : ''}</span
					>
				</p>
			{/each}
		</div>
	{/if}
	{#if trial && !trial.error}
		<div class="border-t border-rule px-2.5 py-1.5">
			<h4 class="heading">Parts on this host</h4>
			<table class="mt-0.5 w-full text-small">
				<thead
					><tr class="text-left text-soft"
						><th class="font-normal">Part</th><th class="text-right font-normal">Pieces</th><th
							class="text-right font-normal">Area</th
						><th class="text-right font-normal">kg</th></tr
					></thead
				>
				<tbody>
					{#each trial.parts.filter((p) => p.pieces > 0) as part, k (k)}
						<tr
							><td class="max-w-[92px] truncate" title="{part.step}, {part.material}">{part.step}</td><td
								class="figure text-right">{part.pieces}</td
							><td class="figure text-right">{printFull(part.area, 'area', unit)}</td><td class="figure text-right"
								>{part.mass.toFixed(1)}</td
							></tr
						>
					{/each}
				</tbody>
			</table>
		</div>
	{/if}
</section>
