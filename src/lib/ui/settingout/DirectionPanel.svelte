<script lang="ts">
	import { SPACINGS, SPACING_KINDS, spacingOfKind } from '$lib/editor/spacings.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { DirectionName } from '$core/settingout/directions.ts';
	import type { SpacingKind } from '$core/settingout/spacing.ts';
	import { group, printFull } from '$core/units/print.ts';
	import PathChoice from '../PathChoice.svelte';
	import PathNumber from '../PathNumber.svelte';
	import SpacingFields from './SpacingFields.svelte';
	import SpacingIcon from './SpacingIcon.svelte';

	let { name }: { name: DirectionName } = $props();

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const direction = $derived(work.face.current!.face.settingOut[name]);
	const { across, line } = $derived({ across: name === 'across', line: name === 'across' ? 'row' : 'column' });
	const view = $derived(work.face.view);
	const figures = $derived(view?.[name]);
	const closed = $derived(view ? (across ? view.ends.closedAcross : view.ends.closedUp) : false);
	let error = $state<string>();
	let open = $state(false);
	const changed = $derived(
		[
			direction.from !== 'start',
			direction.measure !== 'length',
			direction.along !== 'longest',
			direction.shift,
			direction.shiftShare,
			direction.leastRemainder,
			direction.multiple > 1,
			direction.seam
		].filter(Boolean).length
	);

	function choose(kind: SpacingKind) {
		if (kind === direction.spacing.kind) return;
		const frame = work.face.current!.mass.frame;
		const next = spacingOfKind(kind, name, figures, [frame.x, frame.y]);
		error = work.editor.commit(
			`Space ${name}: ${SPACINGS[kind].label.toLowerCase()}`,
			work.face.onFaces((f) => void (f.settingOut[name].spacing = structuredClone(next)))
		);
	}
	/** `24 columns · 1 480 mm · 320 mm at the end`. */
	const words = $derived.by(() => {
		if (!figures) return '';
		const [start, end] = direction.from === 'start' ? ['start', 'end'] : ['end', 'start'];
		return [
			`${group(figures.count, 0)} ${across ? 'columns' : 'rows'}`,
			figures.modules && range(figures.modules),
			figures.startRemainder !== undefined && `${length(figures.startRemainder)} at the ${start}`,
			figures.endRemainder !== undefined && `${length(figures.endRemainder)} at the ${end}`
		]
			.filter(Boolean)
			.join(' · ');
	});
	const length = (mm: number) => printFull(mm, 'length', unit);
	const range = ([a, b]: readonly [number, number]) =>
		length(a) === length(b) ? length(a) : `${length(a)} to ${length(b)}`;
</script>

<section aria-labelledby="spacing-{name}" class="mt-3 first:mt-0">
	<div class="flex items-baseline justify-between">
		<h3 id="spacing-{name}" class="heading">{across ? 'Across' : 'Up'}</h3>
		<span class="text-small text-soft">{SPACINGS[direction.spacing.kind].label}</span>
	</div>
	<div class="my-1 grid grid-cols-9" role="radiogroup" aria-label="Spacing {name}">
		{#each SPACING_KINDS as kind (kind)}
			<button
				role="radio"
				aria-checked={direction.spacing.kind === kind}
				class="flex h-6 items-center justify-center border-y border-r border-control first:rounded-l first:border-l last:rounded-r {direction
					.spacing.kind === kind
					? 'bg-wash text-patina'
					: 'text-soft hover:text-patina'}"
				title="{SPACINGS[kind].label}: {SPACINGS[kind].help}"
				aria-label={SPACINGS[kind].label}
				onclick={() => choose(kind)}><SpacingIcon {kind} /></button
			>
		{/each}
	</div>
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
	{#key direction.spacing.kind}<SpacingFields {name} />{/key}
	{#if figures}
		<p class="figure text-small {work.runner.behind ? 'text-soft italic' : ''}" data-testid="figures-{name}">
			{words}
		</p>
	{/if}
	<details bind:open class="mt-0.5">
		<summary class="text-small text-soft hover:text-patina"
			>Edges, remainder and shift{changed ? ` · ${changed} set` : ''}</summary
		>
		<PathChoice
			of="face"
			path={['settingOut', name, 'from']}
			label="Counted from"
			help="The edge that modules are laid from and that {across ? 'columns' : 'rows'} are counted from"
			options={across
				? [
						['start', 'the start (left)'],
						['end', 'the end (right)']
					]
				: [
						['start', 'the start (lower)'],
						['end', 'the end (upper)']
					]}
		/>
		<PathChoice
			of="face"
			path={['settingOut', name, 'measure']}
			label="Measured"
			help="By true length, or by the surface’s own parameter"
			options={[
				['length', 'by true length'],
				['parameter', 'by parameter']
			]}
		/>
		<PathChoice
			of="face"
			path={['settingOut', name, 'along']}
			label="Modules on"
			help="The {line} on which modules have their true width, where {line}s differ in length"
			options={[
				['longest', `the longest ${line}`],
				['start', `the first ${line}`],
				['middle', `the middle ${line}`],
				['end', `the last ${line}`]
			]}
		/>
		<PathNumber
			of="face"
			path={['settingOut', name, 'leastRemainder']}
			label="Least part"
			quantity="length"
			help="A narrower first or last part becomes one with its neighbour"
		/>
		<PathNumber
			of="face"
			path={['settingOut', name, 'shift']}
			label="Shift"
			quantity="length"
			help={closed
				? 'Moves the lines, and the seam with them, around the face'
				: 'Moves the lines away from the start edge'}
		/>
		<PathNumber
			of="face"
			path={['settingOut', name, 'shiftShare']}
			label="and of a module"
			quantity="ratio"
			help="Moves the lines by a share of a module"
		/>
		<PathNumber
			of="face"
			path={['settingOut', name, 'multiple']}
			label="Multiple of"
			quantity="count"
			help="Counts go up to the next multiple: 2 for even ones"
		/>
		{#if closed}<PathNumber
				of="face"
				path={['settingOut', name, 'seam']}
				label="Seam at"
				quantity="ratio"
				help="Where the face begins, as a share of the way around"
			/>{/if}
	</details>
</section>
