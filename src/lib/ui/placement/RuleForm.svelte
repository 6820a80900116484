<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import SquarePen from '@lucide/svelte/icons/square-pen';
	import type { Rule, RuleSet } from '$core/placement/rules/schema.ts';
	import { faceKey } from '$core/project/schema.ts';
	import { newCondition, type ConditionNames } from '$lib/editor/conditions.ts';
	import { changeKit, holdsKit, rulesOn, setFaces, setRuleValue, setWhere } from '$lib/editor/placement.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import TextField from '../TextField.svelte';
	import ConditionForm from './ConditionForm.svelte';
	import RuleOnCells from './RuleOnCells.svelte';
	import RuleValue from './RuleValue.svelte';

	let { rule, set, ruleNames }: { rule: Rule; set: RuleSet; ruleNames: ReadonlyMap<string, string> } = $props();

	const work = useWorkspace();
	const key = $derived(work.face.current!.key);
	const kit = $derived(work.project.kits.find((k) => k.id === rule.kit));
	const kits = $derived(work.project.kits.filter((k) => holdsKit(set, k)));
	let error = $state<string>();
	/** Values that went with the kit before. */
	let lost = $state.raw<readonly string[]>([]);
	const edit = (label: string, change: Parameters<typeof work.editor.commit>[1]) =>
		(error = work.editor.commit(label, change));

	const inSet = $derived(rulesOn(work.project, set.id, key).map((r) => r.id));
	const names: ConditionNames = $derived({
		host: set.host,
		project: work.project,
		earlier: inSet.slice(0, Math.max(0, inSet.indexOf(rule.id))),
		roles: work.face.view?.roles ?? [],
		face: key
	});
	const faces = $derived(
		work.project.masses.flatMap((mass) =>
			mass.faces
				.filter((f) => f.facade)
				.map((face) => ({ key: faceKey(mass, face), name: `${mass.name} › ${face.name}` }))
		)
	);

	function swap(id: string | null) {
		const name = id === null ? 'nothing' : (work.project.kits.find((k) => k.id === id)?.name ?? id);
		error = work.editor.commit(`Place ${name}`, (draft) => void (lost = changeKit(draft, rule.id, id)));
	}
</script>

<div class="border-y border-rule bg-paper/60 px-3 py-2">
	<p class="text-soft">
		{rule.where.length ? 'Where all of these hold' : 'Where no earlier rule holds'}
	</p>
	{#each rule.where as condition, k (k)}
		<ConditionForm
			{condition}
			host={set.host}
			{names}
			{ruleNames}
			onchange={(next) =>
				work.editor.commit('Change where a rule holds', (draft) =>
					setWhere(draft, rule.id, next ? rule.where.with(k, next) : rule.where.toSpliced(k, 1))
				)}
		/>
	{/each}
	<button
		class="flex items-center gap-0.5 text-small text-patina hover:underline"
		onclick={() =>
			edit('Add a condition', (draft) => setWhere(draft, rule.id, [...rule.where, newCondition('lines', names)]))}
		><Plus size={12} />{rule.where.length ? 'and' : 'only where …'}</button
	>
	<div class="mt-2 grid grid-cols-[96px_1fr_auto] items-center gap-x-2">
		<label for="rule-kit" class="text-soft" title="What stands there">Kit</label>
		<select
			id="rule-kit"
			class="field min-w-0"
			value={rule.kit ?? ''}
			onchange={(e) => swap(e.currentTarget.value || null)}
		>
			<option value="">left open</option>
			{#each kits as { id, name } (id)}<option value={id}>{name}</option>{/each}
		</select>
		{#if kit}
			<button
				class="p-1 text-soft hover:text-patina"
				title="Open on the bench"
				aria-label="Open {kit.name} on the bench"
				onclick={() => (work.bench.choose(kit.id), (work.place = 'kits'))}><SquarePen size={14} /></button
			>
		{/if}
	</div>
	{#if lost.length}
		<p class="mt-1 text-small text-soft" role="status">
			Not known to {kit?.name ?? 'it'}, so let go: {lost.join(', ')}. Undo brings them back.
		</p>
	{/if}
	{#if kit && set.host === 'cell'}<RuleOnCells {rule} />{/if}
	{#if kit}
		{#each [...new Set(kit.parameters.map((p) => p.group))] as group (group)}
			<h4 class="heading mt-2">{group || 'Values'}</h4>
			{#each kit.parameters.filter((p) => p.group === group) as parameter (parameter.name)}
				<RuleValue
					{parameter}
					value={rule.values[parameter.name]}
					host={set.host}
					onpreview={(v) => work.editor.preview((draft) => setRuleValue(draft, rule.id, parameter.name, v))}
					oncommit={(v) =>
						work.editor.commit(
							v === undefined ? `Reset ${parameter.label.toLowerCase()}` : `Change ${parameter.label.toLowerCase()}`,
							(draft) => setRuleValue(draft, rule.id, parameter.name, v)
						)}
				/>
			{/each}
		{/each}
		{#if kit.parameters.length === 0}<p class="mt-1 text-soft">This kit has no parameters.</p>{/if}
	{/if}
	<details class="mt-1.5 text-small">
		<summary class="cursor-pointer text-soft">
			{rule.faces.length === 0
				? 'On all faces'
				: rule.faces.length === 1
					? 'On this face'
					: `On ${rule.faces.length} faces`}
		</summary>
		<label class="flex items-center gap-1.5 py-0.5"
			><input
				type="checkbox"
				class="accent-patina"
				checked={rule.faces.length === 0}
				onchange={(e) =>
					edit('Let a rule stand on other faces', (draft) =>
						setFaces(draft, rule.id, e.currentTarget.checked ? [] : [key])
					)}
			/>All faces, those to come too</label
		>
		{#if rule.faces.length}
			{#each faces as face (face.key)}
				<label class="flex items-center gap-1.5 py-px"
					><input
						type="checkbox"
						class="accent-patina"
						checked={rule.faces.includes(face.key)}
						disabled={rule.faces.length === 1 && rule.faces[0] === face.key}
						onchange={(e) =>
							edit('Let a rule stand on other faces', (draft) =>
								setFaces(
									draft,
									rule.id,
									e.currentTarget.checked ? [...rule.faces, face.key] : rule.faces.filter((f) => f !== face.key)
								)
							)}
					/><span class="truncate">{face.name}</span></label
				>
			{/each}
		{/if}
	</details>
	{#key rule.id}
		<TextField
			label="Name"
			help="Called by its sentence where it has none"
			value={rule.name ?? ''}
			oncommit={(name) =>
				work.editor.commit('Name a rule', (draft) => {
					const own = draft.rules.find((r) => r.id === rule.id)!;
					if (name) own.name = name;
					else delete own.name;
				})}
		/>
	{/key}
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
