<script lang="ts">
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import type { Path } from '$lib/editor/paths.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { parseQuantity } from '$core/units/parse.ts';
	import { printQuantity } from '$core/units/print.ts';
	import type { Lay } from '$core/settingout/spacing.ts';
	import TextField from '../TextField.svelte';
	import PathNumber from '../PathNumber.svelte';

	/** Places along a measure: evenly, or each by itself. */
	let { path, quantity }: { path: Path; quantity: 'length' | 'angle' } = $props();

	const work = useWorkspace();
	const edit = new PathEdit(
		'face',
		work,
		() => path,
		() => 'Planes'
	);
	const lay = $derived(edit.value as Lay);
	const unit = $derived(work.project.units);
	const text = $derived(lay.kind === 'list' ? lay.at.map((p) => printQuantity(p, quantity, unit).text).join(', ') : '');
	const id = $props.id();

	function choose(kind: string) {
		const first = lay.kind === 'every' ? lay.first : lay.at[0]!;
		const every = lay.kind === 'every' ? lay.every : (lay.at[1] ?? first + 1) - first || 1;
		edit.apply(kind === 'every' ? { kind, first, every: Math.abs(every) } : { kind, at: [first, first + every] });
	}

	function read(typed: string): string | undefined {
		const at: number[] = [];
		for (const [k, part] of typed.split(/[,;]/).entries()) {
			const parsed = parseQuantity(part, quantity, unit);
			if ('error' in parsed) return `Place ${k + 1}: ${parsed.error}`;
			at.push(parsed.value);
		}
		return edit.commit({ kind: 'list', at });
	}
</script>

<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
	<label for={id} class="text-soft" title="Evenly spaced, or each place by itself">Laid</label>
	<select {id} class="field" value={lay.kind} onchange={(e) => choose(e.currentTarget.value)}>
		<option value="every">evenly</option>
		<option value="list">one by one</option>
	</select>
</div>
{#if lay.kind === 'every'}
	<PathNumber of="face" path={[...path, 'every']} label="Every" {quantity} help="From one plane to the next" />
	<PathNumber
		of="face"
		path={[...path, 'first']}
		label="First"
		{quantity}
		help={quantity === 'angle'
			? 'Bearing of one of the planes, clockwise from north'
			: 'Where one of the planes is, from the origin of the project'}
	/>
{:else}
	<TextField label="Places" help="Parted by commas, in the project’s unit" value={text} oncommit={read} />
{/if}
