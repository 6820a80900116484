<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import Settings2 from '@lucide/svelte/icons/settings-2';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { ROLES } from '$core/kit/fields.ts';
	import { nameOfRate } from '$core/schedule/cost/quantities.ts';
	import { PRICED_BY, type Rate } from '$core/schedule/cost/schema.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { raisedUnit } from '$lib/editor/ownTableState.svelte.ts';
	import { addRate, narrowRate } from '$lib/editor/ownTables.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';

	const work = useWorkspace();
	const costs = $derived(work.project.costs);
	const unit = $derived(work.project.units);
	let open = $state<string>();
	let error = $state<string>();

	const change = (id: string, edit: (rate: Rate) => void) => (draft: typeof work.project) =>
		edit(draft.costs.rates.find((r) => r.id === id)!);
	const commit = (label: string, id: string, edit: (rate: Rate) => void) =>
		(error = work.editor.commit(label, change(id, edit)));
	function add() {
		error = work.editor.commit('Add a rate', addRate);
		open = work.project.costs.rates.at(-1)?.id;
	}
</script>

<section class="mt-4 border-t border-rule pt-2" aria-label="Rates">
	<h3
		class="heading flex items-center justify-between"
		title="Of rates with one heading the narrowest holds; headings add up"
	>
		Rates
		<button class="text-soft hover:text-patina" title="Add a rate" aria-label="Add a rate" onclick={add}
			><Plus size={14} /></button
		>
	</h3>
	{#each costs.rates as rate (rate.id)}
		{@const { id } = rate}
		{@const name = nameOfRate(rate, work.project.materials)}
		<div class="grid grid-cols-[1fr_46px_16px] items-center gap-x-1.5">
			<NumberField
				label={name}
				help="Price for one {rate.per}, {costs.currency}"
				value={rate.price}
				quantity="money"
				{unit}
				onpreview={() => undefined}
				oncommit={(v) => commit(`Change price of ${name}`, id, (r) => (r.price = v))}
				onrevert={() => undefined}
			/>
			<span class="text-small text-soft">/ {raisedUnit(rate.per)}</span>
			<button
				class={open === id ? 'text-patina' : 'text-soft hover:text-patina'}
				title="What it is for, waste"
				aria-label="Define {name}"
				aria-expanded={open === id}
				onclick={() => (open = open === id ? undefined : id)}><Settings2 size={13} /></button
			>
		</div>
		{#if open === id}
			<div class="mb-1 rounded border border-rule bg-paper px-2 py-0.5 text-small">
				<TextField
					label="Heading"
					help="What is paid, such as Material or Setting: headings add up"
					value={rate.heading}
					oncommit={(v) => commit('Change heading', id, (r) => (r.heading = v))}
				/>
				{#snippet choice(
					label: string,
					value: string,
					options: readonly (readonly [string, string])[],
					take: (v: string) => void
				)}
					<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
						><span class="text-soft">{label}</span>
						<select class="field" {value} onchange={(e) => take(e.currentTarget.value)}>
							{#each options as [v, word] (v)}<option value={v}>{word}</option>{/each}
						</select></label
					>
				{/snippet}
				{@render choice(
					'Per',
					rate.per,
					PRICED_BY.map((p) => [p, raisedUnit(p)]),
					(v) => commit('Change unit of price', id, (r) => (r.per = v as Rate['per']))
				)}
				{@render choice(
					'Material',
					rate.material ?? '',
					[['', 'any'], ...work.project.materials.map((m) => [m.id, m.name] as const)],
					(v) => commit('Change rate', id, (r) => narrowRate(r, 'material', v))
				)}
				{@render choice('Role', rate.role ?? '', [['', 'any'], ...ROLES.map((r) => [r, r] as const)], (v) =>
					commit('Change rate', id, (r) => narrowRate(r, 'role', v))
				)}
				{@render choice(
					'Kit',
					rate.kit ?? '',
					[['', 'any'], ...work.project.kits.map((k) => [k.id, k.name] as const)],
					(v) => commit('Change rate', id, (r) => narrowRate(r, 'kit', v))
				)}
				<TextField
					label="Type"
					help="Mark of a type, such as G-014"
					value={rate.type ?? ''}
					oncommit={(v) => commit('Change rate', id, (r) => narrowRate(r, 'type', v))}
				/>
				<NumberField
					label="Waste"
					help="What is bought beyond what is built in"
					value={rate.waste}
					quantity="ratio"
					{unit}
					onpreview={() => undefined}
					oncommit={(v) => commit('Change waste', id, (r) => (r.waste = v))}
					onrevert={() => undefined}
				/>
				<button
					class="my-1 flex items-center gap-1 text-soft hover:text-rust"
					onclick={() =>
						work.editor.apply(`Remove ${name}`, (draft) => {
							draft.costs.rates = draft.costs.rates.filter((r) => r.id !== id);
						})}><Trash2 size={12} />Remove the rate</button
				>
			</div>
		{/if}
	{:else}
		<p class="text-small text-soft">None yet. A rate is a price for a piece, m, m², m³ or kg.</p>
	{/each}
	<TextField
		label="Currency"
		help="Three letters, ISO 4217"
		value={costs.currency}
		oncommit={(v) => work.editor.commit('Change currency', (draft) => void (draft.costs.currency = v.toUpperCase()))}
	/>
	{#each ['Sheet length', 'Sheet width'] as label, side (label)}
		<NumberField
			{label}
			help="What thin pieces are cut from"
			value={costs.sheet[side]!}
			quantity="length"
			{unit}
			onpreview={() => undefined}
			oncommit={(v) =>
				work.editor.commit(`Change ${label.toLowerCase()}`, (draft) => void (draft.costs.sheet[side] = v))}
			onrevert={() => undefined}
		/>
	{/each}
	<NumberField
		label="Sealant, mm²"
		help="Section of the sealant in a joint between two panels"
		value={costs.sealant}
		quantity="count"
		{unit}
		onpreview={() => undefined}
		oncommit={(v) => work.editor.commit('Change sealant', (draft) => void (draft.costs.sealant = v))}
		onrevert={() => undefined}
	/>
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
