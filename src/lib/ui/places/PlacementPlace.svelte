<script lang="ts">
	import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
	import SquarePen from '@lucide/svelte/icons/square-pen';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { addRule, changeKit, removeRule, setRuleValue } from '$lib/editor/placement.ts';
	import { hostInWords } from '$lib/editor/kitSteps.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import KitPicture from '../bench/KitPicture.svelte';
	import ParameterValue from '../bench/ParameterValue.svelte';

	const work = useWorkspace();
	const key = $derived(work.face.current!.key);
	const rules = $derived(work.project.rules.filter((r) => r.face === key));
	let error = $state<string>();
	let chosen = $state<string>();
	const open = $derived(rules.find((r) => r.id === chosen) ?? rules[0]);
	const kitOf = (id: string) => work.project.kits.find((k) => k.id === id);
	const kit = $derived(open && kitOf(open.kit));
	const edit = (label: string, change: Parameters<typeof work.editor.commit>[1]) =>
		(error = work.editor.commit(label, change));
	const GROUPS = [
		['cell', 'For cells'],
		['box', 'For cells with depth'],
		['edge', 'For edges'],
		['node', 'For nodes'],
		['path', 'For paths']
	] as const;
</script>

{#snippet kits()}
	{#each GROUPS as [kind, label] (kind)}
		{@const fits = work.project.kits.filter((k) => k.host.kind === kind)}
		{#if fits.length}
			<optgroup {label}>
				{#each fits as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</optgroup>
		{/if}
	{/each}
{/snippet}

<h3 class="heading">Kits on this face</h3>
{#if rules.length}
	<ul class="mt-1 rounded border border-rule" aria-label="Kits on this face">
		{#each rules as rule (rule.id)}
			{@const k = kitOf(rule.kit)}
			<li
				class="flex items-center border-l-2 {rule === open
					? 'border-patina bg-wash/50'
					: 'border-transparent hover:bg-wash/30'}"
			>
				<button
					class="flex min-w-0 grow items-center gap-2 px-1.5 py-1 text-left"
					aria-pressed={rule === open}
					onclick={() => (chosen = rule.id)}
				>
					{#if k}<KitPicture kit={k} size={34} />{/if}
					<span class="min-w-0"
						><span class="block truncate font-semibold">{k?.name ?? rule.kit}</span><span
							class="block truncate text-small text-soft">{k ? `on ${hostInWords(k)}` : 'missing'}</span
						></span
					>
				</button>
				<button
					class="p-1.5 text-soft hover:text-rust"
					title="Take off this face"
					aria-label="Take {k?.name ?? rule.kit} off"
					onclick={() => edit(`Take ${k?.name ?? 'kit'} off`, (draft) => removeRule(draft, rule.id))}
					><Trash2 size={13} /></button
				>
			</li>
		{/each}
	</ul>
{:else}
	<p class="mt-1 text-soft">
		Nothing stands on this face yet. Add a kit, and it fits itself to every cell, edge or node.
	</p>
{/if}
<label class="mt-2 block">
	<span class="sr-only">Add a kit</span>
	<select
		class="field w-full"
		value=""
		onchange={(e) => {
			const id = e.currentTarget.value;
			e.currentTarget.value = '';
			edit(`Place ${kitOf(id)?.name}`, (draft) => addRule(draft, key, id));
			chosen = work.project.rules.findLast((r) => r.face === key)?.id;
		}}
	>
		<option value="" disabled>Add a kit …</option>
		{@render kits()}
	</select>
</label>
{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
{#if kit && open}
	<div class="mt-3 mb-1.5 grid grid-cols-[96px_1fr_auto] items-center gap-x-2">
		<label for="kit" class="text-soft" title="The kit in this place">Kit</label>
		<select
			id="kit"
			class="field min-w-0"
			value={open.kit}
			onchange={(e) => {
				const id = e.currentTarget.value;
				edit(`Place ${kitOf(id)?.name}`, (draft) => changeKit(draft, open.id, id));
			}}
		>
			{@render kits()}
		</select>
		<button
			class="p-1 text-soft hover:text-patina"
			title="Open on the bench"
			aria-label="Open {kit.name} on the bench"
			onclick={() => (work.bench.choose(kit.id), (work.place = 'kits'))}><SquarePen size={14} /></button
		>
	</div>
	{#each [...new Set(kit.parameters.map((p) => p.group))] as group (group)}
		<h3 class="heading mt-3">{group || 'Values on this face'}</h3>
		{#each kit.parameters.filter((p) => p.group === group) as parameter (parameter.name)}
			{@const own = open.values[parameter.name] !== undefined}
			{@const follows = !own && 'formula' in parameter && parameter.formula}
			<div class="grid grid-cols-[1fr_22px] items-start">
				<ParameterValue
					{parameter}
					value={open.values[parameter.name] ?? parameter.default}
					onpreview={(v) => work.editor.preview((draft) => setRuleValue(draft, open.id, parameter.name, v))}
					oncommit={(v) =>
						work.editor.commit(`Change ${parameter.label.toLowerCase()}`, (draft) =>
							setRuleValue(draft, open.id, parameter.name, v)
						)}
				/>
				{#if own}
					<button
						class="mt-2.5 ml-1 text-soft hover:text-patina"
						title="Back to the kit’s own value"
						aria-label="Back to the kit’s own {parameter.label.toLowerCase()}"
						onclick={() =>
							edit(`Reset ${parameter.label.toLowerCase()}`, (draft) => setRuleValue(draft, open.id, parameter.name))}
						><RotateCcw size={14} /></button
					>
				{/if}
			</div>
			{#if follows}<p class="-mt-1 pl-[104px] text-small text-soft">follows {follows}</p>{/if}
		{/each}
	{/each}
	{#if kit.parameters.length === 0}<p class="mt-2 text-soft">This kit has no parameters.</p>{/if}
{/if}
