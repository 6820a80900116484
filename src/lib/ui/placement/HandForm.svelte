<script lang="ts">
	import { setHostOf } from '$core/placement/rules/ruleHosts.ts';
	import type { RuleSet } from '$core/placement/rules/schema.ts';
	import { group } from '$core/units/print.ts';
	import { keyOf } from '$lib/editor/cellKeys.ts';
	import { covers, liftFrom, setByHand, type HandLook } from '$lib/editor/byHand.ts';
	import { HOST_WAYS, handHosts, type HandKind } from '$lib/editor/handHosts.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { intoZone, ruleForCells } from '$lib/editor/placement.ts';
	import { reselect, SELECTION_TOOLS, type SelectionTool } from '$lib/editor/selectionTools.ts';
	import type { CellAddress } from '$lib/stage/spaceView.ts';
	import ParameterValue from '../bench/ParameterValue.svelte';

	/** What is chosen, and sets of cells, edges and nodes. */
	let { chosen, sets }: { chosen: readonly CellAddress[]; sets: readonly RuleSet[] } = $props();

	const work = useWorkspace();
	const view = $derived(work.runner.view);
	let setId = $state<string>();
	const set = $derived(sets.find((s) => s.id === setId) ?? sets.find((s) => s.id === work.placement.set) ?? sets[0]!);
	const kind = $derived(set.host as HandKind);
	const ways = $derived(HOST_WAYS[kind]);
	let asked = $state('all');
	const way = $derived(Object.hasOwn(ways, asked) ? asked : 'all');
	const hosts = $derived(view ? handHosts(view, chosen, kind, way) : []);
	const keys = $derived(hosts.map((h) => h.key));
	const kits = $derived(work.project.kits.filter((k) => setHostOf(k.host) === kind));
	let error = $state<string>();

	const assignedOn = (face: number) => view?.faces[face]?.sets.find((s) => s.set === set.id);
	/** The rule that takes the first host. */
	const rule = $derived.by(() => {
		const [first] = hosts;
		const assigned = first && assignedOn(first.face);
		return assigned && work.project.rules.find((r) => r.id === assigned.rules[assigned.ruleOf[first.host]!]);
	});
	const looks = $derived.by(() => {
		const [first] = keys;
		return first
			? work.project.overrides.filter((o) => o.set === set.id && o.face === first.face && covers(o, first))
			: [];
	});
	/** The kit of the first host, whose values can be set. */
	const kit = $derived.by(() => {
		const hand = looks.findLast((o) => o.kit !== undefined);
		const id = hand ? hand.kit : rule?.kit;
		return work.project.kits.find((k) => k.id === id);
	});
	// As the worker has told it, so that many overrides cost nothing here.
	const own = $derived(hosts.some((h) => assignedOn(h.face)?.byHand?.[h.host] === 1));
	let parameter = $state('');
	const value = $derived(kit?.parameters.find((p) => p.name === parameter));

	const NOUNS = { cell: ['cell', 'cells'], edge: ['edge', 'edges'], node: ['node', 'nodes'] } as const;
	const count = (n: number, [one, many]: readonly [string, string]) =>
		n === 1 ? `one ${one}` : `${group(n, 0)} ${many}`;
	const choose = (tool: SelectionTool) => view && work.selection.chooseAll(view, reselect(view, chosen, tool));
	const put = (label: string, look: HandLook) => {
		const [to, on] = [set.id, keys];
		return (error = work.editor.commit(label, (draft) => setByHand(draft, to, on, look)));
	};
	/** The look of the first host, put aside for others. */
	let copied = $state.raw<HandLook & { readonly host: HandKind }>();
	function copyLook() {
		const turn = looks.findLast((o) => o.turn)?.turn;
		copied = {
			host: kind,
			kit: kit?.id ?? null,
			values: Object.assign({}, rule?.kit === kit?.id ? rule?.values : {}, ...looks.map((o) => o.values)),
			...(turn ? { turn } : {})
		};
	}
	const cells = () => (view ? chosen.map((a) => keyOf(view, a)) : []);
	function toZone(zone: string) {
		const on = cells();
		error = work.editor.commit('Put cells into a zone', (draft) => void intoZone(draft, on, zone || undefined));
	}
	function toRule() {
		let id = '';
		const [to, on, place] = [set.id, cells(), kit?.id ?? kits[0]?.id ?? null];
		error = work.editor.commit('Make a rule of chosen cells', (draft) => (id = ruleForCells(draft, to, on, place)));
		if (!error) [work.placement.set, work.placement.rule] = [to, id];
	}
</script>

{#snippet choice(
	label: string,
	name: string,
	options: readonly (readonly [string, string])[],
	hint: string,
	take: (v: string) => void
)}
	<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
		><span class="text-soft">{label}</span>
		<select
			class="field min-w-0"
			aria-label={name}
			value=""
			onchange={(e) => {
				const taken = e.currentTarget.value;
				e.currentTarget.value = '';
				take(taken.slice(1));
			}}
		>
			<option value="" disabled>{hint}</option>
			{#each options as [id, text] (id)}<option value="+{id}">{text}</option>{/each}
		</select></label
	>
{/snippet}

<div class="rounded border border-rule bg-paper px-2 py-1.5">
	<p class="text-soft">
		{count(chosen.length, NOUNS.cell)} chosen{#if kind !== 'cell'}, {count(hosts.length, NOUNS[kind])} meant{/if}
	</p>
	<div class="my-1 flex flex-wrap gap-x-2 text-small" role="group" aria-label="Choose more or others">
		{#each Object.entries(SELECTION_TOOLS) as [tool, { label, help }] (tool)}
			<button class="text-patina hover:underline" title={help} onclick={() => choose(tool as SelectionTool)}
				>{label}</button
			>
		{/each}
	</div>
	{#if sets.length > 1}
		<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
			><span class="text-soft">Set</span>
			<select class="field" aria-label="Set by hand" value={set.id} onchange={(e) => (setId = e.currentTarget.value)}>
				{#each sets as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select></label
		>
	{/if}
	{#if kind !== 'cell'}
		<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
			><span class="text-soft">On</span>
			<select class="field" aria-label="Which of them" value={way} onchange={(e) => (asked = e.currentTarget.value)}>
				{#each Object.entries(ways) as [id, name] (id)}<option value={id}>{name}</option>{/each}
			</select></label
		>
	{/if}
	{#if hosts.length}
		{@render choice(
			'Kit',
			'Kit by hand',
			[['-', 'left open'], ...kits.map(({ id, name }) => [id, name] as const)],
			'set another …',
			(id) => void put(id === '-' ? 'Leave open by hand' : 'Set a kit by hand', { kit: id === '-' ? null : id })
		)}
		{#if kit?.parameters.length}
			<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
				><span class="text-soft">Value</span>
				<select class="field min-w-0" aria-label="Value by hand" bind:value={parameter}>
					<option value="">which one …</option>
					{#each kit.parameters as { name, label } (name)}<option value={name}>{label}</option>{/each}
				</select></label
			>
			{#if value}
				<ParameterValue
					parameter={value}
					value={value.default}
					onpreview={() => undefined}
					oncommit={(v) => put(`Set ${value.label.toLowerCase()} by hand`, { values: { [value.name]: v } })}
				/>
			{/if}
		{/if}
		{#if kind === 'cell'}
			{@render choice(
				'Turn',
				'Turn by hand',
				[0, 1, 2, 3].map((q) => [String(q), q === 0 ? 'as the face runs' : `${q} ${q === 1 ? 'quarter' : 'quarters'}`]),
				'turn it …',
				(q) => void put('Turn by hand', { turn: { kind: 'quarters', quarters: Number(q) } })
			)}
		{/if}
		<div class="mt-1 flex flex-wrap gap-1.5">
			{#if hosts.length === 1}<button
					class="button text-small"
					title="For others: choose them, then “Give the look”"
					onclick={copyLook}>Copy the look</button
				>{/if}
			{#if copied?.host === kind}
				{@const { host: _, ...look } = copied}
				<button
					class="button text-small"
					title="Kit, values and turn of the one that was copied"
					onclick={() => put('Give a look by hand', look)}>Give the look</button
				>
			{/if}
			{#if own}
				<button
					class="button text-small"
					onclick={() => {
						const [from, on] = [set.id, keys];
						error = work.editor.commit('Lift what is set by hand', (draft) => liftFrom(draft, from, on));
					}}>Lift from {hosts.length === 1 ? 'it' : 'them'}</button
				>
			{/if}
		</div>
	{:else}
		<p class="my-1 text-small text-soft">There are none: choose more cells, or other ones of them.</p>
	{/if}
	<div class="mt-1.5 border-t border-rule pt-1">
		{@render choice(
			'Into a zone',
			'Put the chosen cells into a zone',
			[['', 'a new zone'], ...work.project.zones.map(({ id, name }) => [id, name] as const)],
			'choose one …',
			toZone
		)}
		{#if kind === 'cell'}
			<button
				class="text-small text-patina hover:underline"
				title="A new zone of these cells, and a rule of {set.name} that holds there, before all others"
				onclick={toRule}>Make a rule for them</button
			>
		{/if}
	</div>
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
