<script lang="ts">
	import type { Condition } from '$core/placement/rules/schema.ts';
	import { newCondition, type ConditionNames } from '$lib/editor/conditions.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import ConditionForm from './ConditionForm.svelte';

	const work = useWorkspace();
	const names: ConditionNames = $derived({
		host: 'cell',
		project: work.project,
		earlier: [],
		roles: work.face.view?.roles ?? [],
		face: work.face.current?.key ?? ''
	});
	let where = $state.raw<readonly Condition[]>([]);
	let told = $state<string>();

	/** Chooses the cells of the chosen faces on which all conditions hold. */
	async function choose(now: readonly Condition[]) {
		where = now;
		const { view } = work.runner;
		if (!view || !now.length) return;
		const faces = view.faces.flatMap((f, index) => (work.face.all.includes(f.key) ? [{ index, hash: f.hash }] : []));
		const found = await work.runner.ask((api) =>
			api.cellsWhere(
				now,
				faces.map((f) => f.hash)
			)
		);
		if (!found || work.runner.view !== view) return;
		if ('error' in found) return void (told = found.error);
		const cells = faces.flatMap(({ index }, k) => found[k]!.map((cell) => ({ face: index, cell })));
		told = cells.length ? undefined : 'No cell of this face is like that.';
		if (cells.length) work.selection.chooseAll(view, cells);
	}
</script>

<details class="my-1 text-small" open={where.length > 0}>
	<summary class="cursor-pointer text-patina">Choose where …</summary>
	<div class="pt-1">
		{#each where as condition, k (k)}
			<ConditionForm
				{condition}
				host="cell"
				{names}
				ruleNames={new Map()}
				onchange={(next) => {
					void choose(next ? where.with(k, next) : where.toSpliced(k, 1));
					return undefined;
				}}
			/>
		{/each}
		<button class="text-patina hover:underline" onclick={() => choose([...where, newCondition('reading', names)])}
			>{where.length ? 'and …' : 'a reading, a zone, a border …'}</button
		>
		{#if told}<p class="text-soft" role="status">{told}</p>{/if}
	</div>
</details>
