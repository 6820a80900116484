<script lang="ts">
	import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
	import { setKit, setRuleValue } from '$lib/editor/placement.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import NumberField from '../NumberField.svelte';

	const work = useWorkspace();
	const key = $derived(work.current!.key);
	const rule = $derived(work.project.rules.findLast((r) => r.face === key));
	const kit = $derived(work.project.kits.find((k) => k.id === rule?.kit));
</script>

<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
	<label for="kit" class="text-soft" title="The kit that stands on every cell of this face">Kit</label>
	<select
		id="kit"
		class="field"
		value={rule?.kit ?? ''}
		onchange={(e) => {
			const id = e.currentTarget.value;
			work.editor.commit(`Place ${id || 'no kit'}`, (draft) => setKit(draft, key, id));
		}}
	>
		<option value="">None</option>
		{#each work.project.kits as { id, name } (id)}<option value={id}>{name}</option>{/each}
	</select>
</div>
{#if kit && rule}
	<h3 class="heading mt-3">Values on this face</h3>
	{#each kit.parameters as parameter (parameter.name)}
		{@const own = rule.values[parameter.name] !== undefined}
		<div class="grid grid-cols-[1fr_22px] items-start">
			<NumberField
				label={parameter.label}
				help={parameter.help}
				value={rule.values[parameter.name] ?? parameter.default}
				quantity={parameter.quantity}
				unit={work.project.units}
				step={parameter.quantity === 'length' ? 1 : undefined}
				onpreview={(v) =>
					work.editor.preview((draft) => setRuleValue(draft, rule.id, parameter.name, v))}
				oncommit={(v) =>
					work.editor.commit(`Change ${parameter.label.toLowerCase()}`, (draft) =>
						setRuleValue(draft, rule.id, parameter.name, v)
					)}
				onrevert={() => work.editor.revert()}
			/>
			{#if own}
				<button
					class="mt-2.5 ml-1 text-soft hover:text-patina"
					title="Back to the kit’s own value"
					aria-label="Back to the kit’s own {parameter.label.toLowerCase()}"
					onclick={() =>
						work.editor.commit(`Reset ${parameter.label.toLowerCase()}`, (draft) =>
							setRuleValue(draft, rule.id, parameter.name)
						)}><RotateCcw size={14} /></button
				>
			{/if}
		</div>
	{/each}
{:else}
	<p class="mt-2 text-soft">
		Nothing stands on this face yet. Choose a kit, and it fits itself to every cell.
	</p>
{/if}
