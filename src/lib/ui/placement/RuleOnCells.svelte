<script lang="ts">
	import type { Rule, Turn } from '$core/placement/rules/schema.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { setTrim, setTurn } from '$lib/editor/placement.ts';
	import NumberField from '../NumberField.svelte';

	let { rule }: { rule: Rule } = $props();

	const work = useWorkspace();
	const TURNS: Readonly<Record<string, { readonly label: string; readonly turn: Turn | undefined }>> = {
		none: { label: 'as the face runs', turn: undefined },
		quarters: { label: 'by quarter turns', turn: { kind: 'quarters', quarters: 1 } },
		lowest: { label: 'from the lowest corner', turn: { kind: 'lowest' } },
		direction: { label: 'toward a direction', turn: { kind: 'direction', x: 0, y: 0, z: 1 } },
		point: { label: 'toward a point', turn: { kind: 'point', x: 0, y: 0, z: 0 } }
	};
	const AXES = [
		['x', 'East'],
		['y', 'North'],
		['z', 'Up']
	] as const;
	const turnTo = (turn: Turn | undefined) =>
		work.editor.commit('Turn the kit', (draft) => setTurn(draft, rule.id, turn));
	const trimTo = (trim: Rule['trim']) =>
		work.editor.commit('Change what stands on cut cells', (draft) => setTrim(draft, rule.id, trim));
</script>

<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2 gap-y-1.5">
	<label for="rule-turn" class="text-soft" title="At which corner of a cell the kit begins">Turn</label>
	<select
		id="rule-turn"
		class="field"
		value={rule.turn?.kind ?? 'none'}
		onchange={(e) => turnTo(TURNS[e.currentTarget.value]!.turn)}
	>
		{#each Object.entries(TURNS) as [kind, { label }] (kind)}<option value={kind}>{label}</option>{/each}
	</select>
	{#if rule.turn}
		{@const turn = rule.turn}
		<label
			class="col-start-2 flex items-center gap-1.5"
			title="Left and right change over; the first side stays the first"
			><input
				type="checkbox"
				class="accent-patina"
				checked={turn.mirrored ?? false}
				onchange={(e) => turnTo({ ...turn, mirrored: e.currentTarget.checked })}
			/>mirrored</label
		>
	{/if}
</div>
{#if rule.turn?.kind === 'quarters'}
	{@const turn = rule.turn}
	<NumberField
		label="Quarter turns"
		value={turn.quarters}
		quantity="count"
		unit={work.project.units}
		onpreview={() => undefined}
		oncommit={(quarters) => turnTo({ ...turn, quarters })}
		onrevert={() => work.editor.revert()}
	/>
{:else if rule.turn?.kind === 'direction' || rule.turn?.kind === 'point'}
	{@const turn = rule.turn}
	{#each AXES as [axis, label] (axis)}
		<NumberField
			{label}
			value={turn[axis]}
			quantity={turn.kind === 'point' ? 'length' : 'ratio'}
			unit={work.project.units}
			onpreview={(v) => work.editor.preview((draft) => setTurn(draft, rule.id, { ...turn, [axis]: v }))}
			oncommit={(v) => turnTo({ ...turn, [axis]: v })}
			onrevert={() => work.editor.revert()}
		/>
	{/each}
{/if}
<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
	<label for="rule-trim" class="text-soft" title="Cells that an opening or a border cuts">On cut cells</label>
	<select
		id="rule-trim"
		class="field"
		value={rule.trim ? 'trim' : 'fit'}
		onchange={(e) => trimTo(e.currentTarget.value === 'trim' ? { least: 0 } : undefined)}
	>
		<option value="fit">the kit fits what is left</option>
		<option value="trim">the whole kit, trimmed</option>
	</select>
</div>
{#if rule.trim}
	<NumberField
		label="Least piece"
		help="What is left of plates and sheets narrower than this, and of bars shorter, is left out and counted"
		value={rule.trim.least}
		quantity="length"
		unit={work.project.units}
		onpreview={(least) => work.editor.preview((draft) => setTrim(draft, rule.id, { least }))}
		oncommit={(least) => trimTo({ least })}
		onrevert={() => work.editor.revert()}
	/>
{/if}
