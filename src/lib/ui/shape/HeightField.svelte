<script lang="ts">
	import type { Path } from '$lib/editor/paths.ts';
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { Height } from '$core/mass/fields.ts';
	import { printFull } from '$core/units/print.ts';
	import NumberField from '../NumberField.svelte';

	interface Props {
		path: Path;
		label: string;
		help: string;
		/** What it means to have none, where that is possible. */
		optional?: string;
	}

	let { path, label, help, optional }: Props = $props();

	const work = useWorkspace();
	const edit = new PathEdit(
		'shape',
		work,
		() => path,
		() => label
	);
	const height = $derived(edit.value as Height | null | undefined);
	const level = $derived(typeof height === 'object' && height ? height.level : undefined);
	const above = $derived(typeof height === 'object' && height ? height.above : (height ?? 0));
	const hung = $derived(work.project.levels.find((l) => l.id === level));
	const toHeight = (value: number): Height => (level ? { level, above: value } : value);

	/** Hangs it on a level, or lets it stand, at the height where it is. */
	function hang(choice: string) {
		if (choice === 'none') return edit.apply(null);
		const now = above + (hung?.height ?? 0);
		const next = work.project.levels.find((l) => l.id === choice);
		if (!next) return edit.apply(Math.round(now * 1000) / 1000);
		// What stands near the level hangs right on it.
		return edit.apply({ level: next.id, above: height === null ? 0 : snapped(now - next.height) });
	}
	const NEAR = 500;
	const snapped = (offset: number) => (Math.abs(offset) < NEAR ? 0 : Math.round(offset * 1000) / 1000);
	const id = $props.id();
</script>

{#if height !== null && height !== undefined}
	<NumberField
		{label}
		help={level ? `${help}. Above ${hung?.name ?? level}` : help}
		quantity="length"
		step={100}
		value={above}
		unit={work.project.units}
		onpreview={(v) => edit.preview(toHeight(v))}
		oncommit={(v) => edit.commit(toHeight(v))}
		onrevert={edit.revert}
	/>
{/if}
{#if work.project.levels.length || optional}
	<div class="-mt-0.5 mb-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for={id} class="text-right text-small text-soft">{height === null ? label : 'above'}</label>
		<select
			{id}
			class="field py-0.5 text-small"
			value={height === null ? 'none' : (level ?? '')}
			aria-label="{label}: level"
			onchange={(e) => hang(e.currentTarget.value)}
		>
			{#if optional}<option value="none">{optional}</option>{/if}
			<option value="">the ground of the mass</option>
			{#each work.project.levels as { id, name, height: at } (id)}
				<option value={id}>{name}, {printFull(at, 'length', work.project.units)}</option>
			{/each}
		</select>
	</div>
{/if}
