<script lang="ts">
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { Opening } from '$core/tiling/openings/schema.ts';
	import TextField from '../TextField.svelte';
	import PathChoice from '../PathChoice.svelte';
	import PathNumber from '../PathNumber.svelte';
	import PointsField from './PointsField.svelte';

	let { k }: { k: number } = $props();

	const work = useWorkspace();
	const opening = $derived(work.face.current!.face.openings[k]!);
	const path = $derived(['openings', k]);
	const name = new PathEdit(
		'face',
		work,
		() => [...path, 'name'],
		() => 'Name'
	);
	const placeEdit = new PathEdit(
		'face',
		work,
		() => [...path, 'place'],
		() => 'Place'
	);
	let error = $state<string>();

	const PLACES = [
		['face', 'on the flat face'],
		['level', 'above a level'],
		['plan', 'in plan, projected'],
		['elevation', 'in elevation, projected']
	] as const;

	/** Keeps what the places have in common. */
	async function choosePlace(kind: Opening['place']['kind']) {
		const { place } = opening;
		const laid = work.flat.view?.openings.find((o) => o.id === opening.id)?.places[0];
		const [across, up] = place.kind === 'face' ? [place.across, place.up] : (laid ?? [0, 0]);
		const at = (await work.runner.ask((api) => api.onFace(work.face.current!.key, across, up))) ?? [0, 0, 0];
		const [x, y, z] = at.map(Math.round) as [number, number, number];
		const rising = [...work.project.levels].sort((a, b) => a.height - b.height);
		const level = rising.findLast((l) => l.height <= at[2]) ?? rising[0];
		if (kind === 'level' && !level) return (error = 'There is no level yet. Levels are made under Mass.');
		error = placeEdit.commit(
			{
				face: { kind, across, up },
				level: { kind, across, level: level?.id, above: level ? Math.round(at[2] - level.height) : 0 },
				plan: { kind, x, y },
				elevation: { kind, x, y, z, bearing: Math.PI }
			}[kind]
		);
	}
	const id = $props.id();
</script>

{#snippet fromCorner(way: 'across' | 'up', label: string)}
	<PathNumber
		of="face"
		path={[...path, 'place', way]}
		{label}
		quantity="length"
		help="From the lower start corner of the flat face"
	/>
{/snippet}

<div class="mt-1 rounded border border-rule px-2 py-1" role="group" aria-label="Chosen opening">
	<TextField label="Name" value={opening.name} oncommit={(text) => name.commit(text)} />
	{#if opening.outline.kind === 'rectangle'}
		<PathNumber of="face" path={[...path, 'outline', 'width']} label="Width" quantity="length" />
		<PathNumber of="face" path={[...path, 'outline', 'height']} label="Height" quantity="length" />
	{:else if opening.outline.kind === 'circle'}
		<PathNumber of="face" path={[...path, 'outline', 'diameter']} label="Diameter" quantity="length" />
	{:else}
		<PointsField path={[...path, 'outline', 'points']} />
	{/if}
	<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for={id} class="text-soft" title="What its place is told by">Placed</label>
		<select
			{id}
			class="field"
			value={opening.place.kind}
			onchange={(e) => choosePlace(e.currentTarget.value as Opening['place']['kind'])}
		>
			{#each PLACES as [value, text] (value)}<option {value}>{text}</option>{/each}
		</select>
	</div>
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
	{#if opening.place.kind === 'face'}
		{@render fromCorner('across', 'Across')}
		{@render fromCorner('up', 'Up')}
	{:else if opening.place.kind === 'level'}
		{@render fromCorner('across', 'Across')}
		<PathChoice
			of="face"
			path={[...path, 'place', 'level']}
			label="Level"
			help="The level that it stands on"
			options={work.project.levels.map((l) => [l.id, l.name] as const)}
		/>
		<PathNumber
			of="face"
			path={[...path, 'place', 'above']}
			label="Above it"
			quantity="length"
			help="Height of its lowest point (a circle’s centre) above the level"
		/>
	{:else}
		<PathNumber of="face" path={[...path, 'place', 'x']} label="East" quantity="length" />
		<PathNumber of="face" path={[...path, 'place', 'y']} label="North" quantity="length" />
		{#if opening.place.kind === 'elevation'}
			<PathNumber of="face" path={[...path, 'place', 'z']} label="Height" quantity="length" />
			<PathNumber
				of="face"
				path={[...path, 'place', 'bearing']}
				label="Facing"
				quantity="angle"
				help="Bearing that the elevation faces, clockwise from north"
			/>
		{/if}
	{/if}
	<PathNumber of="face" path={[...path, 'turn']} label="Turn" quantity="angle" />
	<PathNumber
		of="face"
		path={[...path, 'frame']}
		label="Frame"
		quantity="length"
		help="Cells stop this far from its line, so that a frame has room"
	/>
	{#if opening.role === 'opening'}
		<PathChoice
			of="face"
			path={[...path, 'filling']}
			label="Filled with"
			help="What stands in it, for building models"
			options={[
				['nothing', 'nothing'],
				['window', 'a window'],
				['door', 'a door']
			]}
		/>
	{/if}
	<details>
		<summary class="text-small text-soft hover:text-patina">Repeat, role</summary>
		{#each ['across', 'up'] as way (way)}
			<PathNumber of="face" path={[...path, way, 'times']} label="Times {way}" quantity="count" />
			<PathNumber
				of="face"
				path={[...path, way, 'spacing']}
				label="every"
				quantity="length"
				help="From one to the next {way}"
			/>
		{/each}
		<PathChoice
			of="face"
			path={[...path, 'role']}
			label="Role"
			help="A hole in the face, or a border outside of which the face is cut off"
			options={[
				['opening', 'an opening'],
				['border', 'a border']
			]}
		/>
	</details>
</div>
