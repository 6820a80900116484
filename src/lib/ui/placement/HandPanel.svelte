<script lang="ts">
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { varies, type RuleValue } from '$core/placement/rules/schema.ts';
	import { group, printFull } from '$core/units/print.ts';
	import { covers, handInWords, hostsOf, lift } from '$lib/editor/byHand.ts';
	import { isHandKind } from '$lib/editor/handHosts.ts';
	import { shownQuantity } from '$lib/editor/kitSteps.ts';
	import { keyOf } from '$lib/editor/cellKeys.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import ChooseWhere from './ChooseWhere.svelte';
	import HandForm from './HandForm.svelte';

	const work = useWorkspace();
	const view = $derived(work.runner.view);
	const chosen = $derived(view ? work.selection.addresses(view) : []);
	const sets = $derived(work.project.sets.filter((s) => isHandKind(s.host)));
	let error = $state<string>();
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
		// Of sides and corners the cells that own them.
		const cells = {
			hosts: override.hosts.map(([row, from, to, piece]) => [row, from, to, piece, 0])
		} as typeof override;
		const found = Array.from({ length: face.cellCount }, (_, cell) => ({ face: index, cell })).filter((a) =>
			covers(cells, keyOf(view, a))
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
	<ChooseWhere />
	{#if chosen.length && sets.length}
		<HandForm {chosen} {sets} />
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
