<script lang="ts">
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { DirectionName } from '$core/settingout/directions.ts';
	import { parseModules, printModules } from '$core/settingout/moduleList.ts';
	import { printFull } from '$core/units/print.ts';
	import TextField from '../TextField.svelte';
	import PathChoice from '../PathChoice.svelte';
	import PathNumber from '../PathNumber.svelte';
	import PathSwitch from '../PathSwitch.svelte';
	import LayFields from './LayFields.svelte';

	let { name }: { name: DirectionName } = $props();

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const path = $derived(['settingOut', name, 'spacing']);
	const spacing = $derived(work.face.current!.face.settingOut[name].spacing);
	const edit = new PathEdit(
		'face',
		work,
		() => path,
		() => `Spacing ${name}`
	);

	const REMAINDERS = [
		['start', 'at the start edge'],
		['end', 'at the end edge'],
		['both', 'at both edges'],
		['shared', 'shared out']
	] as const;
	const help = 'Where the part that whole modules do not fill goes';

	function readList(text: string): string | undefined {
		const read = parseModules(text, unit);
		if ('error' in read) return read.error;
		return edit.commit({ ...spacing, modules: read.modules });
	}
	const drawLine = () => {
		if (work.flat.layout === 'off') work.flat.layout = 'beside';
		work.flat.lineFor = name;
		work.flat.tool = 'line';
	};
</script>

{#if spacing.kind === 'count'}
	<PathNumber
		of="face"
		path={[...path, 'count']}
		label="Divisions"
		quantity="count"
		help="Equal divisions by true length along each {name === 'across' ? 'row' : 'column'}"
	/>
{:else if spacing.kind === 'module'}
	<PathNumber of="face" path={[...path, 'module']} label="Module" quantity="length" help="Width of a whole module" />
	<PathChoice of="face" path={[...path, 'remainder']} label="Remainder" {help} options={REMAINDERS} />
{:else if spacing.kind === 'at-most'}
	<PathNumber
		of="face"
		path={[...path, 'module']}
		label="At most"
		quantity="length"
		help="No module gets wider than this"
	/>
{:else if spacing.kind === 'list'}
	<TextField
		label="Widths"
		help="One after the other from the start edge, such as 1200, 900, 4 x 1500"
		value={printModules(spacing.modules, unit)}
		oncommit={readList}
	/>
	<PathChoice of="face" path={[...path, 'remainder']} label="Remainder" {help} options={REMAINDERS} />
{:else if spacing.kind === 'levels'}
	<PathNumber
		of="face"
		path={[...path, 'divisions']}
		label="Between"
		quantity="count"
		help="Even divisions between two levels"
	/>
	<fieldset class="my-1">
		<legend class="text-soft" title="None chosen means all">Levels{spacing.levels.length ? '' : ': all'}</legend>
		{#each work.project.levels as { id, name: level, height } (id)}
			<label class="my-0.5 flex items-center gap-2">
				<input
					type="checkbox"
					class="accent-patina"
					checked={spacing.levels.includes(id)}
					onchange={(e) =>
						edit.apply({
							...spacing,
							levels: e.currentTarget.checked ? [...spacing.levels, id] : spacing.levels.filter((l) => l !== id)
						})}
				/>
				{level}<span class="figure ml-auto text-small text-soft">{printFull(height, 'length', unit)}</span>
			</label>
		{:else}
			<p class="text-small text-soft">There is no level yet. Levels are made under Mass.</p>
		{/each}
	</fieldset>
{:else if spacing.kind === 'planes'}
	<PathSwitch of="face" path={[...path, 'upright']} label="Upright planes" help="Otherwise the planes are level" />
	{#if spacing.upright}<PathNumber
			of="face"
			path={[...path, 'bearing']}
			label="Facing"
			quantity="angle"
			help="Bearing that the planes are square to, clockwise from north"
		/>{/if}
	<LayFields path={[...path, 'lay']} quantity="length" />
{:else if spacing.kind === 'radial'}
	<PathNumber of="face" path={[...path, 'x']} label="Axis east" quantity="length" />
	<PathNumber of="face" path={[...path, 'y']} label="Axis north" quantity="length" />
	<LayFields path={[...path, 'lay']} quantity="angle" />
{:else if spacing.kind === 'curve'}
	<PathNumber
		of="face"
		path={[...path, 'divisions']}
		label="Divisions"
		quantity="count"
		help="Equal lengths that the drawn line is divided into"
	/>
	<button class="button my-1 w-full justify-center" onclick={drawLine}>Draw the line on the developed view</button>
{/if}
