<script lang="ts">
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { varies, type RuleValue } from '$core/placement/rules/schema.ts';
	import { group, printFull } from '$core/units/print.ts';
	import { handInWords, hostsOf, lift, liftFrom, setByHand, type HandCell, type HandLook } from '$lib/editor/byHand.ts';
	import { shownQuantity } from '$lib/editor/kitSteps.ts';
	import { keyOf } from '$lib/editor/cellKeys.ts';
	import { cellSet } from '$lib/editor/placementState.svelte.ts';
	import { reselect, SELECTION_TOOLS, type SelectionTool } from '$lib/editor/selectionTools.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import ParameterValue from '../bench/ParameterValue.svelte';

	const work = useWorkspace();
	const view = $derived(work.runner.view);
	const chosen = $derived(view ? work.selection.addresses(view) : []);
	const cells: HandCell[] = $derived(view ? chosen.map((a) => keyOf(view, a)) : []);
	const sets = $derived(work.project.sets.filter((s) => s.host === 'cell'));
	let setId = $state<string>();
	const set = $derived(sets.find((s) => s.id === setId) ?? sets.find((s) => s.id === work.placement.set) ?? sets[0]);
	const kits = $derived(work.project.kits.filter((k) => k.host.kind === 'cell' || k.host.kind === 'box'));
	let error = $state<string>();
	/** The rule that takes the first chosen cell. */
	const rule = $derived.by(() => {
		const [first] = chosen;
		const face = first && view?.faces[first.face];
		const assigned = face && cellSet(face, set?.id);
		return assigned && work.project.rules.find((r) => r.id === assigned.rules[assigned.ruleOf[first.cell]!]);
	});
	/** The kit of the first chosen cell, whose values can be set. */
	const kit = $derived.by(() => {
		const [first] = chosen;
		const face = first && view?.faces[first.face];
		const hand =
			face &&
			work.project.overrides.findLast(
				(o) => o.set === set?.id && o.face === face.key && o.kit !== undefined && covers(o, cells[0]!)
			);
		const id = hand ? hand.kit : rule?.kit;
		return work.project.kits.find((k) => k.id === id);
	});
	const covers = ({ hosts }: { hosts: readonly (readonly number[])[] }, cell: HandCell) =>
		hosts.some(
			([row, from, to, piece]) => row === cell.row && piece === cell.piece && cell.column >= from! && cell.column <= to!
		);
	const own = $derived(
		// As the worker has told it, so that many overrides cost nothing here.
		chosen.some((a) => cellSet(view!.faces[a.face]!, set?.id)?.byHand?.[a.cell] === 1)
	);
	let parameter = $state('');
	const asked = $derived(kit?.parameters.find((p) => p.name === parameter));

	const choose = (tool: SelectionTool) => view && work.selection.chooseAll(view, reselect(view, chosen, tool));
	/** The look of the first of the chosen cells, put aside for others. */
	function copyLook() {
		const [first] = cells;
		const looks = work.project.overrides.filter(
			(o) => o.set === set?.id && o.face === first!.face && covers(o, first!)
		);
		const turn = looks.findLast((o) => o.turn)?.turn;
		copied = {
			kit: kit?.id ?? null,
			values: Object.assign({}, rule?.kit === kit?.id ? rule?.values : {}, ...looks.map((o) => o.values)),
			...(turn ? { turn } : {})
		};
	}
	let copied = $state.raw<HandLook>();
	const many = $derived(cells.length === 1 ? 'one cell' : `${group(cells.length, 0)} cells`);
	const put = (label: string, look: HandLook) => {
		const to = set!.id;
		return (error = work.editor.commit(label, (draft) => setByHand(draft, to, cells, look)));
	};
	const printValue = (name: string, value: RuleValue) => {
		const p = work.project.kits.flatMap((k) => k.parameters).find((q) => q.name === name);
		const words = varies(value)
			? 'varies'
			: typeof value === 'string' || !p
				? String(value)
				: printFull(value, shownQuantity(p.quantity), work.project.units);
		return `${p?.label ?? name} ${words}`;
	};
	const overrides = $derived(work.project.overrides);
	/** Overrides that are listed at most; the rest is counted. */
	const MOST = 30;
	const waitingOf = (id: string) => view?.faces.reduce((n, f) => n + (f.waiting[id] ?? 0), 0) ?? 0;
	const total = $derived(overrides.reduce((n, o) => n + hostsOf(o), 0));
	const waiting = $derived(
		view?.faces.reduce((n, f) => n + Object.values(f.waiting).reduce((a, b) => a + b, 0), 0) ?? 0
	);
	function show(id: string) {
		const override = overrides.find((o) => o.id === id)!;
		if (!view) return;
		const index = view.faces.findIndex((f) => f.key === override.face);
		const face = view.faces[index];
		if (!face) return;
		const found = Array.from({ length: face.cellCount }, (_, cell) => ({ face: index, cell })).filter((a) =>
			covers(override, keyOf(view, a))
		);
		work.selection.chooseAll(view, found);
	}
</script>

<section class="mt-4 border-t border-rule pt-2" aria-labelledby="hand-heading">
	<div class="flex items-baseline justify-between">
		<h3 id="hand-heading" class="heading" title="Set on chosen cells, above all rules">By hand</h3>
		{#if overrides.length}
			<span class="text-small text-soft"
				><span class="figure">{group(total, 0)}</span> set{#if waiting}&nbsp;· <span class="figure text-ochre"
						>{group(waiting, 0)}</span
					> wait for cells that are gone{/if}</span
			>
		{/if}
	</div>
	{#if cells.length && set}
		<div class="rounded border border-rule bg-paper px-2 py-1.5">
			<p class="text-soft">On {many} chosen, above the rules</p>
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
					<select class="field" value={set.id} onchange={(e) => (setId = e.currentTarget.value)}>
						{#each sets as { id, name } (id)}<option value={id}>{name}</option>{/each}
					</select></label
				>
			{/if}
			<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
				><span class="text-soft">Kit</span>
				<select
					class="field min-w-0"
					aria-label="Kit by hand"
					value=""
					onchange={(e) => {
						const id = e.currentTarget.value;
						e.currentTarget.value = '';
						put(id === '-' ? 'Leave open by hand' : 'Set a kit by hand', { kit: id === '-' ? null : id });
					}}
				>
					<option value="" disabled>set another …</option>
					<option value="-">left open</option>
					{#each kits as { id, name } (id)}<option value={id}>{name}</option>{/each}
				</select></label
			>
			{#if kit?.parameters.length}
				<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
					><span class="text-soft">Value</span>
					<select class="field min-w-0" aria-label="Value by hand" bind:value={parameter}>
						<option value="">which one …</option>
						{#each kit.parameters as { name, label } (name)}<option value={name}>{label}</option>{/each}
					</select></label
				>
				{#if asked}
					<ParameterValue
						parameter={asked}
						value={asked.default}
						onpreview={() => undefined}
						oncommit={(v) => put(`Set ${asked.label.toLowerCase()} by hand`, { values: { [asked.name]: v } })}
					/>
				{/if}
			{/if}
			<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
				><span class="text-soft">Turn</span>
				<select
					class="field min-w-0"
					aria-label="Turn by hand"
					value=""
					onchange={(e) => {
						const quarters = Number(e.currentTarget.value);
						e.currentTarget.value = '';
						put('Turn by hand', { turn: { kind: 'quarters', quarters } });
					}}
				>
					<option value="" disabled>turn it …</option>
					{#each [0, 1, 2, 3] as q (q)}<option value={String(q)}
							>{q === 0 ? 'as the face runs' : `${q} ${q === 1 ? 'quarter' : 'quarters'}`}</option
						>{/each}
				</select></label
			>
			<div class="mt-1 flex flex-wrap gap-1.5">
				{#if chosen.length === 1}<button
						class="button text-small"
						title="For other cells: choose them, then “Give the look”"
						onclick={copyLook}>Copy the look</button
					>{/if}
				{#if copied}
					{@const look = copied}
					<button
						class="button text-small"
						title="Kit, values and turn of the cell that was copied"
						onclick={() => put('Give a look by hand', look)}>Give the look</button
					>
				{/if}
				{#if own}
					<button
						class="button text-small"
						onclick={() => {
							const from = set!.id;
							error = work.editor.commit('Lift what is set by hand', (draft) => liftFrom(draft, from, cells));
						}}>Lift from {cells.length === 1 ? 'it' : 'them'}</button
					>
				{/if}
			</div>
		</div>
	{:else if overrides.length === 0}
		<p class="text-small text-soft">
			Nothing yet. Choose cells in the model, the developed view or the schedule, and set a kit, a value, a turn, or
			leave them open.
		</p>
	{/if}
	<ul class="mt-1 text-small">
		{#each overrides.slice(0, MOST) as override (override.id)}
			{@const gone = waitingOf(override.id)}
			<li class="group flex items-baseline gap-1.5 hover:bg-wash/60">
				<button class="min-w-0 grow truncate text-left" title="Choose its cells" onclick={() => show(override.id)}
					><span class="figure">{group(hostsOf(override), 0)}</span>
					{handInWords(override, work.project, printValue)}
					{#if gone}<span class="text-ochre">, {gone === hostsOf(override) ? 'waits' : `${group(gone, 0)} wait`}</span
						>{/if}</button
				>
				<button
					class="self-center text-soft opacity-0 group-hover:opacity-100 hover:text-rust focus-visible:opacity-100"
					aria-label="Lift {handInWords(override, work.project, printValue)}"
					title="Lift"
					onclick={() => (error = work.editor.commit('Lift what is set by hand', (draft) => lift(draft, override.id)))}
					><Trash2 size={12} /></button
				>
			</li>
		{/each}
	</ul>
	{#if overrides.length > MOST}<p class="text-small text-soft">and {group(overrides.length - MOST, 0)} more</p>{/if}
	{#if overrides.length > 1}
		<button
			class="text-small text-patina hover:underline"
			onclick={() =>
				(error = work.editor.commit('Lift all that is set by hand', (draft) => void (draft.overrides = [])))}
			>Lift all</button
		>
	{/if}
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
