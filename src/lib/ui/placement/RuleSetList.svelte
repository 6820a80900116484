<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import ChevronUp from '@lucide/svelte/icons/chevron-up';
	import GripVertical from '@lucide/svelte/icons/grip-vertical';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { DropdownMenu } from 'bits-ui';
	import { dragHandle, dragHandleZone, type DndEvent } from 'svelte-dnd-action';
	import { messageOf } from '$core/errors.ts';
	import { plainWords, whereInWords } from '$core/placement/rules/sentence.ts';
	import type { Rule, RuleSet } from '$core/placement/rules/schema.ts';
	import { namesOf } from '$core/project/ruleNames.ts';
	import { group } from '$core/units/print.ts';
	import { addKit } from '$lib/editor/kits.ts';
	import {
		addRule,
		holdsKit,
		moveRule,
		moveSet,
		removeRule,
		removeSet,
		rulesOn,
		setBay,
		setForKit,
		standsOn
	} from '$lib/editor/placement.ts';
	import { cellsLeft, cellsOfRule, ruleColour } from '$lib/editor/placementState.svelte.ts';
	import { RULE_PRESETS } from '$lib/editor/rulePresets.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import KitGallery from '../bench/KitGallery.svelte';
	import RuleForm from './RuleForm.svelte';

	let { set }: { set: RuleSet } = $props();

	const work = useWorkspace();
	const { placement } = work;
	const key = $derived(work.face.current!.key);
	const view = $derived(work.face.view);
	const presets = $derived(RULE_PRESETS.filter(({ hosts }) => hosts.includes(set.host)));
	const assigned = $derived(view?.sets.find((s) => s.set === set.id));
	const rules = $derived(rulesOn(work.project, set.id, key));
	const names = $derived(namesOf(work.project, set));
	const nameOf = (rule: Rule) => rule.name ?? plainWords(whereInWords(rule.where, names));
	const ruleNames = $derived(new Map(rules.map((r, k) => [r.id, `${k + 1} ${nameOf(r)}`])));
	const kitName = (id: string | null) =>
		id === null ? 'left open' : (work.project.kits.find((k) => k.id === id)?.name ?? id);
	const kits = $derived(work.project.kits.filter((k) => holdsKit(set, k)));
	const hosts = { cell: 'cells', edge: 'edges', node: 'nodes', path: 'lines', bay: 'bays' } as const;
	const all = $derived(assigned ? assigned.taken.reduce((a, b) => a + b, 0) + assigned.unassigned : 0);
	let error = $state<string>();
	const edit = (label: string, change: Parameters<typeof work.editor.commit>[1]) =>
		(error = work.editor.commit(label, change));

	/** The only rule of a face is open from the first; '' once it was closed. */
	const onFace = $derived(work.project.rules.filter((r) => standsOn(r, key)));
	const opened = $derived(
		placement.rule === '' || onFace.some((r) => r.id === placement.rule)
			? placement.rule
			: onFace.length === 1
				? onFace[0]!.id
				: undefined
	);
	/** The list while a rule is dragged. */
	let dragged = $state.raw<readonly Rule[]>();
	const shown = $derived(dragged ?? rules);
	function drop(items: readonly Rule[], id: string) {
		dragged = undefined;
		const at = items.findIndex((r) => r.id === id);
		edit('Move a rule', (draft) => moveRule(draft, id, items[at + 1]?.id));
	}
	function shift(rule: Rule, by: number) {
		const at = rules.indexOf(rule) + by;
		if (at < 0 || at >= rules.length) return;
		edit('Move a rule', (draft) => moveRule(draft, rule.id, by < 0 ? rules[at]!.id : rules[at + 1]?.id));
	}
	function light(rule: string) {
		const model = work.runner.view;
		if (model) work.selection.chooseAll(model, cellsOfRule(model, rule));
	}
	function lightLeft() {
		const model = work.runner.view;
		if (model) work.selection.chooseAll(model, cellsLeft(model, set.id, key));
	}
	function place(kit: string | null) {
		let id = '';
		edit(kit === null ? 'Leave cells open' : `Place ${kitName(kit)}`, (draft) => {
			const first = rulesOn(draft, set.id, key).length === 0;
			id = addRule(draft, {
				set: setForKit(draft, set.id, kit),
				faces: work.face.all,
				kit,
				where: first && kit !== null ? [] : [{ kind: 'lines', of: 'column', from: 1, every: 2 }]
			});
		});
		if (!error) placement.rule = id;
	}
	function preset(k: number) {
		let id = '';
		if (!view) return;
		const { label, apply } = presets[k]!;
		try {
			edit(label, (draft) => (id = apply(draft, set.id, view)));
		} catch (cause) {
			error = messageOf(cause);
		}
		if (!error) placement.rule = id;
	}
	function onkeydown(event: KeyboardEvent, rule: Rule) {
		if ((event.target as HTMLElement).closest('input, select, textarea, .cm-editor')) return;
		if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown'))
			shift(rule, event.key === 'ArrowUp' ? -1 : 1);
		else if (event.key === 'Delete') edit('Remove a rule', (draft) => removeRule(draft, rule.id));
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<section class="-mx-3.5 mt-2 first:mt-0" aria-label="Rules of {set.name}">
	<header class="group relative flex items-baseline gap-1 px-3.5">
		<h3 class="heading" title="Within a set the first rule that holds takes the host; sets add to each other">
			{set.name}
		</h3>
		{#if set.bay}
			<span class="flex items-baseline gap-1 text-small text-soft" title="Cells across and up that each bay has">
				{#each ['across', 'up'] as const as side (side)}
					{#if side === 'up'}×{/if}
					<input
						class="field figure w-9 px-1 text-right"
						type="number"
						min="1"
						max="24"
						aria-label="Cells {side} of the bays of {set.name}"
						value={set.bay[side]}
						onchange={(e) =>
							edit('Change the size of bays', (draft) =>
								setBay(draft, set.id, { [side]: Math.round(Number(e.currentTarget.value)) })
							)}
					/>
				{/each}
				cells
			</span>
		{/if}
		<span class="figure ml-auto text-small text-soft">
			{#if assigned}
				{group(all, 0)}
				{hosts[set.host]},
				{#if assigned.unassigned}
					<button class="text-ochre underline" title="Choose them" onclick={lightLeft}
						>{group(assigned.unassigned, 0)} taken by none</button
					>
				{:else}all taken{/if}
			{:else}no rule here{/if}
		</span>
		<span
			class="absolute top-0 right-3 flex rounded bg-sheet px-1 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
		>
			<button
				class="text-soft hover:text-patina"
				aria-label="Move {set.name} up"
				title="Move the set up"
				onclick={() => edit('Move a set', (draft) => moveSet(draft, set.id, -1))}><ChevronUp size={13} /></button
			>
			<button
				class="text-soft hover:text-patina"
				aria-label="Move {set.name} down"
				title="Move the set down"
				onclick={() => edit('Move a set', (draft) => moveSet(draft, set.id, 1))}><ChevronDown size={13} /></button
			>
			<button
				class="text-soft hover:text-rust"
				aria-label="Remove {set.name}"
				title="Remove the set with its rules on all faces"
				onclick={() => edit(`Remove ${set.name}`, (draft) => removeSet(draft, set.id))}><Trash2 size={12} /></button
			>
		</span>
	</header>
	<ul
		use:dragHandleZone={{ items: [...shown], flipDurationMs: 0, dropTargetStyle: {}, type: `rules-${set.id}` }}
		onconsider={(e: CustomEvent<DndEvent<Rule>>) => (dragged = e.detail.items)}
		onfinalize={(e: CustomEvent<DndEvent<Rule>>) => drop(e.detail.items, e.detail.info.id)}
		aria-label="Rules of {set.name}"
	>
		{#each shown as rule, k (rule.id)}
			{@const open = opened === rule.id}
			{@const at = assigned?.rules.indexOf(rule.id) ?? -1}
			{@const taken = at < 0 ? undefined : assigned!.taken[at]!}
			{@const hidden = at < 0 ? 0 : assigned!.hidden[at]!}
			<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
			<li onkeydown={(e) => onkeydown(e, rule)}>
				<div
					class="group flex items-start gap-1 border-l-[3px] py-[3px] pr-3.5 pl-1 {open
						? 'border-patina bg-wash'
						: 'border-transparent hover:bg-wash/50'}"
				>
					<span
						use:dragHandle
						class="mt-0.5 cursor-grab text-soft/50 group-hover:text-soft"
						aria-label="Drag rule {k + 1}"><GripVertical size={12} /></span
					>
					<span class="figure w-4 text-small text-soft">{k + 1}</span>
					<span
						class="mt-[3px] h-3 w-3 shrink-0 rounded-sm border border-control"
						style="background: {set.host === 'cell' ? ruleColour(k, rule.kit === null) : 'var(--soft)'}"
					></span>
					<button
						class="min-w-0 grow text-left leading-snug"
						aria-expanded={open}
						title="Open; Alt with the arrow keys moves it, Delete removes it"
						onclick={() => ((placement.rule = open ? '' : rule.id), (placement.set = set.id))}
					>
						{#if rule.name}<strong>{rule.name}</strong
							>{:else}{#each whereInWords(rule.where, names) as { text, strong }, w (w)}{#if strong}<strong
										>{text}</strong
									>{:else}{text}{/if}{/each}{/if}
						<span class="text-soft">→</span>
						{kitName(rule.kit)}{rule.trim ? ', trimmed' : ''}
					</button>
					<button
						class="figure shrink-0 text-small {taken === 0 ? 'text-ochre' : ''} hover:text-patina hover:underline"
						title={`Choose the ${hosts[set.host]} that it takes${hidden ? `; it holds on ${group(hidden, 0)} more, which earlier rules take` : ''}`}
						aria-label="Choose what rule {k + 1} of {set.name} takes"
						onclick={() => light(rule.id)}>{taken === undefined ? '–' : group(taken, 0)}</button
					>
					<button
						class="shrink-0 text-soft opacity-0 group-hover:opacity-100 hover:text-rust focus-visible:opacity-100"
						title="Remove"
						aria-label="Remove rule {k + 1} of {set.name}"
						onclick={() => edit('Remove a rule', (draft) => removeRule(draft, rule.id))}><Trash2 size={12} /></button
					>
				</div>
				{#if open && !dragged}<RuleForm {rule} {set} {ruleNames} />{/if}
			</li>
		{/each}
	</ul>
	<div class="flex items-center gap-3 px-3.5 pt-0.5 pl-[26px] text-small">
		<DropdownMenu.Root>
			<DropdownMenu.Trigger
				class="flex items-center gap-0.5 text-patina hover:underline"
				aria-label="Add a rule to {set.name}"><Plus size={12} />Rule</DropdownMenu.Trigger
			>
			<DropdownMenu.Portal>
				<DropdownMenu.Content
					side="right"
					align="start"
					sideOffset={6}
					collisionPadding={8}
					class="z-40 max-h-[calc(100vh-60px)] w-64 overflow-auto rounded-md border border-rule bg-sheet p-1.5 text-ink shadow-lg"
					aria-label="Rules to add"
				>
					<p class="heading px-2">Place</p>
					{#each kits as kit (kit.id)}
						<DropdownMenu.Item
							class="cursor-pointer rounded px-2 py-0.5 data-highlighted:bg-wash"
							onSelect={() => place(kit.id)}>{kit.name}</DropdownMenu.Item
						>
					{/each}
					<DropdownMenu.Item
						class="cursor-pointer rounded px-2 py-0.5 data-highlighted:bg-wash"
						onSelect={() => place(null)}>Leave open</DropdownMenu.Item
					>
					{#if presets.length && view}
						<p class="heading mt-1 px-2">Common intents</p>
						{#each presets as { label, meaning }, k (label)}
							<DropdownMenu.Item
								class="cursor-pointer rounded px-2 py-0.5 data-highlighted:bg-wash"
								title={meaning}
								onSelect={() => preset(k)}>{label}</DropdownMenu.Item
							>
						{/each}
					{/if}
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
		<KitGallery
			label="Another kit …"
			host={set.host}
			ontake={(file) => {
				let id = '';
				edit('Add a kit', (draft) => (id = addKit(draft, file)));
				if (!error) place(id);
			}}
			onnew={(id) => (work.bench.choose(id), (work.place = 'kits'))}
		/>
	</div>
	{#if error}<p class="px-3.5 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
