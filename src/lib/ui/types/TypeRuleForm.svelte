<script lang="ts">
	import { TOLERANCE_CLASSES, classTolerance, type ToleranceClass } from '$core/schedule/types/tolerance.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { setTypeRule, typeRuleOf } from '$lib/editor/typeRules.ts';
	import NumberField from '../NumberField.svelte';

	/** Within what pieces of a role are alike. */
	let { role }: { role: string } = $props();

	const work = useWorkspace();
	const rule = $derived(typeRuleOf(work.project, role));
	const own = $derived(typeof rule.tolerance === 'number');
	/** Sizes that a class is told by, mm. */
	const TOLD = [500, 1500, 3000] as const;
	const change = (part: Partial<typeof rule>) =>
		work.editor.commit(`Change how a ${role} is sorted`, (draft) => setTypeRule(draft, { ...rule, ...part }));
	const choose = (value: string) =>
		change({ tolerance: value === 'own' ? classTolerance('medium')(TOLD[1]) : (value as ToleranceClass) });
</script>

<label class="grid grid-cols-[64px_1fr] items-center gap-2"
	><span class="text-soft">Alike by</span>
	<select class="field" value={own ? 'own' : rule.tolerance} onchange={(e) => choose(e.currentTarget.value)}>
		{#each TOLERANCE_CLASSES as name (name)}<option value={name}>{name}</option>{/each}
		<option value="own">one figure</option>
	</select></label
>
{#if typeof rule.tolerance === 'number'}
	<NumberField
		label="Tolerance ±"
		help="How far any size of two pieces may differ"
		value={rule.tolerance}
		quantity="length"
		step={0.1}
		unit={work.project.units}
		onpreview={() => undefined}
		oncommit={(tolerance) => change({ tolerance })}
		onrevert={() => undefined}
	/>
{:else}
	{@const allowed = classTolerance(rule.tolerance)}
	<p class="text-soft">ISO 2768-1: {TOLD.map((size) => `±${allowed(size)}`).join(', ')} mm at 0.5, 1.5, 3 m.</p>
{/if}
<label class="flex items-center gap-2" title="Off: a piece and its mirror image are two types">
	<input type="checkbox" checked={rule.mirrored} onchange={(e) => change({ mirrored: e.currentTarget.checked })} />
	Mirror images are alike
</label>
