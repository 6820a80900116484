<script lang="ts">
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { Condition, RuleSet } from '$core/placement/rules/schema.ts';
	import { READINGS_OF_SET } from '$core/placement/rules/ruleHosts.ts';
	import { quantityOfField } from '$core/placement/rules/sentence.ts';
	import { faceKey } from '$core/project/schema.ts';
	import { printFull } from '$core/units/print.ts';
	import { parseQuantity } from '$core/units/parse.ts';
	import type { Quantity } from '$core/units/quantity.ts';
	import { ruleCompletions } from '$lib/editor/completions.ts';
	import {
		CONDITION_LABELS,
		missingFor,
		newCondition,
		type ConditionKind,
		type ConditionNames
	} from '$lib/editor/conditions.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import FormulaField from '../bench/FormulaField.svelte';
	import Self from './ConditionForm.svelte';

	interface Props {
		condition: Condition;
		host: RuleSet['host'];
		names: ConditionNames;
		/** Names of the rules that stand before, by their ids. */
		ruleNames: ReadonlyMap<string, string>;
		onchange: (condition: Condition | undefined) => string | undefined;
	}
	let { condition, host, names, ruleNames, onchange }: Props = $props();

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const negated = $derived(condition.kind === 'not');
	const inner = $derived(condition.kind === 'not' ? condition.of : condition);
	let error = $state<string>();
	const put = (next: Condition) => (error = onchange(negated ? { kind: 'not', of: next } : next));
	const change = (fields: object) => put({ ...inner, ...fields } as Condition);

	const faceNames = $derived(
		work.project.masses.flatMap((mass) =>
			mass.faces.map((face) => ({ key: faceKey(mass, face), name: `${mass.name} › ${face.name}` }))
		)
	);
	const readings = $derived(Object.entries(READINGS_OF_SET[host]));
	const quantityOf = (name: string): Quantity => READINGS_OF_SET[host][name]?.quantity ?? 'count';

	/** Takes a bound as it is typed; empty for none. */
	function bound(field: 'from' | 'to', text: string, quantity: Quantity) {
		if (!text.trim()) {
			const { [field]: _, ...others } = inner as unknown as Record<string, unknown>;
			error = undefined;
			return void put(others as unknown as Condition);
		}
		const parsed = parseQuantity(text, quantity, unit);
		if ('error' in parsed) return void (error = parsed.error);
		change({ [field]: parsed.value });
	}
	function whole(field: string, text: string, least: number, optional = false) {
		if (optional && !text.trim()) {
			const { [field]: _, ...others } = inner as unknown as Record<string, unknown>;
			return void put(others as unknown as Condition);
		}
		const n = Number(text.replace(/\s/g, ''));
		if (!Number.isInteger(n) || n < least) return void (error = `“${text}” is no whole number from ${least} on`);
		change({ [field]: n });
	}
	const shown = (value: number | undefined, quantity: Quantity) =>
		value === undefined ? '' : printFull(value, quantity, unit);
</script>

{#snippet number(label: string, value: string, take: (text: string) => void, width = 'w-16', hint = '')}
	<input
		class="field figure {width} px-1.5"
		aria-label={label}
		title={label}
		placeholder={hint}
		{value}
		onchange={(e) => take(e.currentTarget.value)}
	/>
{/snippet}

<div class="my-1 rounded border border-rule bg-paper px-1.5 py-1">
	<div class="flex flex-wrap items-center gap-1">
		<select
			class="field w-auto max-w-[150px] px-1"
			aria-label="Kind of condition"
			value={inner.kind === 'lines' ? inner.of : inner.kind}
			onchange={(e) => {
				const kind = e.currentTarget.value;
				const isLine = kind === 'row' || kind === 'column';
				put(isLine ? { kind: 'lines', of: kind, from: 1, every: 2 } : newCondition(kind as ConditionKind, names));
			}}
		>
			{#if host === 'path'}<option value="row">Line</option>{:else}<option value="column">Column</option><option
					value="row">Row</option
				>{/if}
			{#each Object.entries(CONDITION_LABELS) as [kind, label] (kind)}
				{@const missing = missingFor(kind as ConditionKind, names)}
				<option value={kind} disabled={missing !== undefined && kind !== inner.kind} title={missing}
					>{label}{missing ? ` (${missing})` : ''}</option
				>
			{/each}
		</select>
		<label class="flex items-center gap-1 text-soft" title="Where it does not hold">
			<input
				type="checkbox"
				class="accent-patina"
				checked={negated}
				onchange={(e) => (error = onchange(e.currentTarget.checked ? { kind: 'not', of: inner } : inner))}
			/>not
		</label>
		<button
			class="ml-auto p-0.5 text-soft hover:text-rust"
			title="Take this condition away"
			aria-label="Take this condition away"
			onclick={() => (error = onchange(undefined))}><Trash2 size={13} /></button
		>
	</div>
	<div class="mt-1 flex flex-wrap items-center gap-1">
		{#if inner.kind === 'lines'}
			<span class="text-soft">every</span>
			{@render number('Every n-th', String(inner.every), (t) => whole('every', t, 1), 'w-10')}
			<span class="text-soft">from</span>
			{@render number('From', String(inner.from), (t) => whole('from', t, 1), 'w-12')}
			<span class="text-soft">to</span>
			{@render number(
				'To',
				inner.to === undefined ? '' : String(inner.to),
				(t) => whole('to', t, 1, true),
				'w-12',
				'end'
			)}
		{:else if inner.kind === 'border'}
			<select
				class="field w-auto px-1"
				aria-label="State"
				value={inner.state}
				onchange={(e) => change({ state: e.currentTarget.value })}
			>
				<option value="border">at the border of the face</option>
				<option value="opening">beside an opening</option>
				<option value="face" title="Where the border of another divided face lies on that of this one"
					>beside another face</option
				>
				<option value="earlier" title="The same, where that face stands earlier in the list of masses and faces"
					>beside an earlier face</option
				>
				<option value="cut">cut</option>
				<option value="whole">whole</option>
			</select>
			{#if inner.state !== 'whole'}
				<span class="text-soft">within</span>
				{@render number('Within so many cells', String(inner.within), (t) => whole('within', t, 0), 'w-10')}
			{/if}
		{:else if inner.kind === 'reading' || inner.kind === 'rank'}
			<select
				class="field w-auto max-w-[140px] px-1"
				aria-label="Reading"
				value={inner.reading}
				onchange={(e) => change({ reading: e.currentTarget.value })}
			>
				{#each readings as [name, { label, meaning }] (name)}<option value={name} title={meaning}>{label}</option
					>{/each}
			</select>
			{#if inner.kind === 'rank'}
				<select
					class="field w-auto px-1"
					aria-label="Least or greatest"
					value={inner.most}
					onchange={(e) => change({ most: e.currentTarget.value })}
				>
					<option value="least">least</option><option value="greatest">greatest</option>
				</select>
				{@render number('How many', String(inner.count), (t) => whole('count', t, 1), 'w-14')}
			{:else}
				{@const kinds = READINGS_OF_SET[host][inner.reading]?.kinds}
				{#if kinds?.length}
					<select
						class="field w-auto px-1"
						aria-label="Which"
						value={String(inner.from ?? '')}
						onchange={(e) => change({ from: Number(e.currentTarget.value), to: Number(e.currentTarget.value) })}
					>
						{#each kinds as kind, k (k)}<option value={String(k)}>{kind}</option>{/each}
					</select>
				{:else}
					{@const quantity = quantityOf(inner.reading)}
					<span class="text-soft">from</span>
					{@render number('From', shown(inner.from, quantity), (t) => bound('from', t, quantity), 'w-20', 'any')}
					<span class="text-soft">to</span>
					{@render number('To', shown(inner.to, quantity), (t) => bound('to', t, quantity), 'w-20', 'any')}
				{/if}
			{/if}
		{:else if inner.kind === 'zone'}
			<select
				class="field w-auto px-1"
				aria-label="Zone"
				value={inner.zone}
				onchange={(e) => change({ zone: e.currentTarget.value })}
			>
				{#each work.project.zones as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		{:else if inner.kind === 'path'}
			{@const chosen = inner.paths}
			<div role="group" aria-label="Paths">
				{#each work.project.paths as { id, name } (id)}
					<label class="flex items-center gap-1.5"
						><input
							type="checkbox"
							class="accent-patina"
							checked={chosen.includes(id)}
							disabled={chosen.length === 1 && chosen[0] === id}
							onchange={(e) =>
								change({ paths: e.currentTarget.checked ? [...chosen, id] : chosen.filter((p) => p !== id) })}
						/>{name}</label
					>
				{/each}
				<p class="text-small text-soft">Such a rule takes no lines of the setting-out.</p>
			</div>
		{:else if inner.kind === 'role'}
			<select
				class="field w-auto px-1"
				aria-label="Role"
				value={inner.role}
				onchange={(e) => change({ role: e.currentTarget.value })}
			>
				{#each new Set([inner.role, ...names.roles]) as role (role)}<option value={role}>{role}</option>{/each}
			</select>
		{:else if inner.kind === 'checker'}
			<label class="flex items-center gap-1"
				><input
					type="checkbox"
					class="accent-patina"
					checked={inner.odd}
					onchange={(e) => change({ odd: e.currentTarget.checked })}
				/>the other half</label
			>
		{:else if inner.kind === 'share'}
			{@render number('Share', shown(inner.share, 'ratio'), (t) => {
				const parsed = parseQuantity(t, 'ratio', unit);
				if ('error' in parsed) error = parsed.error;
				else change({ share: parsed.value });
			})}
			<span class="text-soft">seed</span>
			{@render number('Seed', String(inner.seed), (t) => whole('seed', t, 0), 'w-12')}
			<span class="text-soft">clumps of</span>
			{@render number(
				'Size of clumps; 0 for none',
				shown(inner.clump, 'length'),
				(t) => {
					const parsed = parseQuantity(t, 'length', unit);
					if ('error' in parsed) error = parsed.error;
					else change({ clump: parsed.value });
				},
				'w-20'
			)}
		{:else if inner.kind === 'beside'}
			<select
				class="field w-auto max-w-[170px] px-1"
				aria-label="Rule"
				value={inner.rule}
				onchange={(e) => change({ rule: e.currentTarget.value })}
			>
				{#each names.earlier as id (id)}<option value={id}>{ruleNames.get(id) ?? id}</option>{/each}
			</select>
			<span class="text-soft">within</span>
			{@render number('Within so many cells', String(inner.within), (t) => whole('within', t, 1), 'w-10')}
		{:else if inner.kind === 'field'}
			{@const field = work.project.fields.find((f) => f.id === inner.field)}
			{@const quantity = field ? quantityOfField(field, host) : 'ratio'}
			<select
				class="field w-auto max-w-[140px] px-1"
				aria-label="Field"
				value={inner.field}
				onchange={(e) => change({ field: e.currentTarget.value })}
			>
				{#each work.project.fields as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
			<span class="text-soft">from</span>
			{@render number('From', shown(inner.from, quantity), (t) => bound('from', t, quantity), 'w-20', 'any')}
			<span class="text-soft">to</span>
			{@render number('To', shown(inner.to, quantity), (t) => bound('to', t, quantity), 'w-20', 'any')}
		{:else if inner.kind === 'face'}
			{@const { faces } = inner}
			<ul class="w-full">
				{#each faceNames as { key, name } (key)}
					<li>
						<label class="flex items-center gap-1.5"
							><input
								type="checkbox"
								class="accent-patina"
								checked={faces.includes(key)}
								disabled={faces.length === 1 && faces[0] === key}
								onchange={(e) =>
									change({ faces: e.currentTarget.checked ? [...faces, key] : faces.filter((f) => f !== key) })}
							/><span class="truncate">{name}</span></label
						>
					</li>
				{/each}
			</ul>
		{:else if inner.kind === 'formula'}
			<div class="w-full">
				<FormulaField
					label="Condition"
					wide
					value={inner.formula}
					completions={() => ruleCompletions(work.project, host)}
					oncommit={(formula) =>
						onchange(negated ? { kind: 'not', of: { kind: 'formula', formula } } : { kind: 'formula', formula })}
				/>
			</div>
		{:else if inner.kind === 'any'}
			<div class="w-full">
				{#each inner.of as one, k (k)}
					{#if k > 0}<p class="text-small text-soft">or</p>{/if}
					<Self
						condition={one}
						{host}
						{names}
						{ruleNames}
						onchange={(next) => {
							const of = next ? inner.of.with(k, next) : inner.of.toSpliced(k, 1);
							return of.length ? put({ kind: 'any', of }) : onchange(undefined);
						}}
					/>
				{/each}
				<button
					class="text-small text-patina hover:underline"
					onclick={() => put({ kind: 'any', of: [...inner.of, newCondition('lines', names)] })}>+ or</button
				>
			</div>
		{/if}
	</div>
	{#if error}<p class="mt-0.5 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
