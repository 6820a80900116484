<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import type { Field } from '$core/placement/fields/schema.ts';
	import { quantityOfField } from '$core/placement/rules/sentence.ts';
	import { READINGS_OF_SET } from '$core/placement/rules/ruleHosts.ts';
	import type { Quantity } from '$core/units/quantity.ts';
	import { printFull } from '$core/units/print.ts';
	import { ruleCompletions } from '$lib/editor/completions.ts';
	import { FIELD_LABELS, newSource, type FieldKind } from '$lib/editor/fields.ts';
	import { pickedPicture } from '$lib/editor/pictureFile.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import FormulaField from '../bench/FormulaField.svelte';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';
	import EaseCurve from './EaseCurve.svelte';

	let { field, k }: { field: Field; k: number } = $props();

	const work = useWorkspace();
	const { placement } = work;
	const unit = $derived(work.project.units);
	const quantity = $derived(quantityOfField(field, 'cell'));
	let error = $state<string>();
	const change = (edit: (field: Field) => void) => (draft: typeof work.project) => edit(draft.fields[k]!);
	const commit = (label: string, edit: (field: Field) => void) => work.editor.commit(label, change(edit));
	const preview = (edit: (field: Field) => void) => work.editor.preview(change(edit));
	const setSource = (source: Field['source']) => (error = commit('Change the field', (f) => (f.source = source)));

	let file: HTMLInputElement;
	/** Another kind of source; a picture asks for its file first. */
	function changeKind(select: HTMLSelectElement) {
		const kind = select.value;
		select.value = field.source.kind;
		if (kind === 'picture') file.click();
		else setSource(newSource(kind as FieldKind, [0, 0, 0]));
	}
	const takePicture = async () => {
		const picked = await pickedPicture(file);
		if (picked) error = 'error' in picked ? picked.error : setSource(picked);
	};

	// What it comes to on the faces of the model, asked for again with each model.
	$effect(() => {
		const { view } = work.runner;
		if (view) void placement.refresh(view, field.id);
	});
	const known = $derived(placement.values?.field === field.id ? placement.values : undefined);
	const here = $derived.by(() => {
		const index = known?.view.faces.findIndex((f) => f.key === work.face.current?.key) ?? -1;
		return index < 0 ? undefined : known!.faces[index];
	});
	const range = $derived(field.range ?? here?.range ?? ([0, 1] as const));

	function points(text: string, s: number): string | undefined {
		const read = text
			.split(/[;\n]/)
			.map((line) => line.trim())
			.filter(Boolean)
			.map((line) => line.split(/[,\s]+/).map(Number));
		const wrong = read.findIndex((p) => p.length !== 3 || !p.every(Number.isFinite));
		if (wrong >= 0 || read.length === 0)
			return `point ${wrong + 1} is not three numbers in mm; right would be such as 1000, 2500, 0`;
		return commit('Move points of a field', (f) => {
			if (f.source.kind === 'distance') f.source.to[s]!.points = read as [number, number, number][];
		});
	}
	const source = $derived(field.source);

	function draw(s: number) {
		if (work.flat.layout === 'off') work.flat.layout = 'beside';
		work.flat.lineFor = s;
		work.flat.tool = 'line';
	}
</script>

{#snippet number(label: string, name: string, value: number, quantity: Quantity, help = '')}
	{@const changed = (v: number) => ({ ...source, [name]: v }) as Field['source']}
	<NumberField
		{label}
		{help}
		{value}
		{quantity}
		{unit}
		onpreview={(v) => preview((f) => (f.source = changed(v)))}
		oncommit={(v) => commit('Change the field', (f) => (f.source = changed(v)))}
		onrevert={() => work.editor.revert()}
	/>
{/snippet}

<div class="px-1.5 pb-2">
	<input
		bind:this={file}
		type="file"
		accept="image/*"
		class="sr-only"
		tabindex="-1"
		aria-label="Picture of {field.name}"
		onchange={takePicture}
	/>
	<TextField label="Name" value={field.name} oncommit={(name) => commit('Rename a field', (f) => (f.name = name))} />
	<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for="field-kind" class="text-soft">From</label>
		<select id="field-kind" class="field" value={source.kind} onchange={(e) => changeKind(e.currentTarget)}>
			{#each Object.entries(FIELD_LABELS) as [kind, label] (kind)}<option value={kind}>{label}</option>{/each}
		</select>
	</div>
	{#if source.kind === 'distance'}
		{#each source.to as shape, s (s)}
			<div class="rounded border border-rule bg-paper px-1.5 py-1">
				<div class="flex items-center gap-1">
					<select
						class="field w-auto px-1"
						aria-label="Points or line"
						value={shape.kind}
						onchange={(e) => {
							const kind = e.currentTarget.value as typeof shape.kind;
							const more = kind !== 'points' && shape.points.length < 2;
							const [[x, y, z]] = shape.points as [[number, number, number]];
							setSource({
								...source,
								to: source.to.with(s, {
									...shape,
									kind,
									points: more ? [...shape.points, [x + 8000, y, z]] : shape.points
								})
							});
						}}
					>
						<option value="points">points</option><option value="line">straight line</option><option value="curve"
							>curve</option
						>
					</select>
					{#if shape.kind !== 'points'}<label class="flex items-center gap-1 text-soft"
							><input
								type="checkbox"
								class="accent-patina"
								checked={shape.closed}
								onchange={(e) =>
									setSource({ ...source, to: source.to.with(s, { ...shape, closed: e.currentTarget.checked }) })}
							/>closed</label
						>{/if}
					{#if source.to.length > 1}<button
							class="ml-auto text-soft hover:text-rust"
							aria-label="Take it away"
							onclick={() => setSource({ ...source, to: source.to.toSpliced(s, 1) })}><X size={13} /></button
						>{/if}
				</div>
				<TextField
					label="Points, mm"
					wide
					help="East, north, up; one point after the other, with ; between them. Drag them in the model or on the developed view"
					value={shape.points.map((p) => p.map(Math.round).join(', ')).join('; ')}
					oncommit={(text) => points(text, s)}
				/>
				<button
					class="text-small text-patina hover:underline"
					onclick={() => {
						const [x, y, z] = shape.points.at(-1)!;
						setSource({ ...source, to: source.to.with(s, { ...shape, points: [...shape.points, [x + 4000, y, z]] }) });
					}}>+ point</button
				>
				{#if shape.kind !== 'points'}
					<button
						class="ml-2 text-small text-patina hover:underline"
						title="Click its points on the developed view; Enter or a double click ends it"
						onclick={() => draw(s)}>draw on the face</button
					>
				{/if}
			</div>
		{/each}
		<button
			class="text-small text-patina hover:underline"
			onclick={() =>
				setSource({
					...source,
					to: [...source.to, { kind: 'points', points: [[...source.to[0]!.points[0]!]], closed: false }]
				})}>+ points or line</button
		>
		<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
			<label for="field-along" class="text-soft">Measured</label>
			<select
				id="field-along"
				class="field"
				value={source.along}
				onchange={(e) => setSource({ ...source, along: e.currentTarget.value as 'face' })}
			>
				<option value="straight">straight through space</option><option value="face">along the face, laid flat</option>
			</select>
			{#if source.to.length > 1 || source.to[0]!.points.length > 1}
				<label for="field-combine" class="mt-1 text-soft">Several</label>
				<select
					id="field-combine"
					class="field mt-1"
					value={source.combine}
					onchange={(e) => setSource({ ...source, combine: e.currentTarget.value as 'sum' })}
				>
					<option value="least">the nearest</option><option value="smooth">the nearest, blended</option><option
						value="sum">all added up</option
					>
				</select>
			{/if}
		</div>
		{#if source.combine === 'smooth'}
			{@render number('Blended within', 'blend', source.blend, 'length')}
		{/if}
	{:else if source.kind === 'along'}
		<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
			<label for="field-way" class="text-soft">Way</label>
			<select
				id="field-way"
				class="field"
				value={source.way}
				onchange={(e) => setSource({ kind: 'along', way: e.currentTarget.value as 'up' })}
				><option value="across">across</option><option value="up">up</option></select
			>
		</div>
	{:else if source.kind === 'direction'}
		{#each [['x', 'East'], ['y', 'North'], ['z', 'Up']] as const as [axis, label] (axis)}
			{@render number(label, axis, source[axis], 'ratio')}
		{/each}
	{:else if source.kind === 'reading'}
		<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
			<label for="field-reading" class="text-soft">Reading</label>
			<select
				id="field-reading"
				class="field"
				value={source.reading}
				onchange={(e) => setSource({ kind: 'reading', reading: e.currentTarget.value })}
			>
				{#each Object.entries(READINGS_OF_SET.cell) as [name, { label }] (name)}<option value={name}>{label}</option
					>{/each}
			</select>
		</div>
	{:else if source.kind === 'painted'}
		<p class="my-1 text-small text-soft">From 0 to 1, painted on the developed view of each face.</p>
		<NumberField
			label="Brush"
			help="How far from its middle it paints"
			value={work.flat.brush.radius}
			quantity="length"
			{unit}
			onpreview={() => undefined}
			oncommit={(radius) => {
				if (radius < 0) return 'a brush has a radius of 0 or more';
				work.flat.brush = { ...work.flat.brush, radius };
			}}
			onrevert={() => undefined}
		/>
		<NumberField
			label="Strength"
			help="How much of the way a stroke goes"
			value={work.flat.brush.strength}
			quantity="ratio"
			{unit}
			onpreview={() => undefined}
			oncommit={(strength) => {
				if (strength <= 0 || strength > 1) return 'a strength is more than 0 %, and 100 % at most';
				work.flat.brush = { ...work.flat.brush, strength };
			}}
			onrevert={() => undefined}
		/>
		<div class="flex gap-1.5">
			{#each [['paint', 'Paint'], ['erase', 'Wipe']] as const as [tool, label] (tool)}
				<button
					class="button text-small"
					aria-pressed={work.flat.tool === tool && work.flat.layout !== 'off'}
					onclick={() => {
						if (work.flat.layout === 'off') work.flat.layout = 'beside';
						work.flat.tool = tool;
					}}>{label}</button
				>
			{/each}
		</div>
	{:else if source.kind === 'picture'}
		<p class="my-1 text-small text-soft">{source.file || 'A picture'}, {source.width} × {source.height} points</p>
		<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2 gap-y-1">
			<label for="field-channel" class="text-soft">Channel</label>
			<select
				id="field-channel"
				class="field"
				value={source.channel}
				onchange={(e) => setSource({ ...source, channel: e.currentTarget.value as 'red' })}
			>
				{#each ['brightness', 'red', 'green', 'blue'] as channel (channel)}<option value={channel}>{channel}</option
					>{/each}
			</select>
			<label for="field-lay" class="text-soft">Laid</label>
			<select
				id="field-lay"
				class="field"
				value={source.lay}
				onchange={(e) => setSource({ ...source, lay: e.currentTarget.value as 'fit' })}
			>
				<option value="fit">over the whole face</option><option value="repeat">again and again</option>
			</select>
		</div>
		{#if source.lay === 'repeat'}
			{@render number('Width', 'size', source.size, 'length')}
		{/if}
		{@render number('Turn', 'turn', source.turn, 'angle')}
	{:else if source.kind === 'noise' || source.kind === 'random'}
		{@render number('Seed', 'seed', source.seed, 'count')}
		{#if source.kind === 'noise'}
			{@render number('Size', 'size', source.size, 'length', 'Of its hills, about')}
		{/if}
	{:else if source.kind === 'formula'}
		<FormulaField
			label="Formula"
			value={source.formula}
			completions={() => ruleCompletions(work.project, 'cell')}
			oncommit={(formula) => commit('Change the field', (f) => (f.source = { kind: 'formula', formula }))}
		/>
	{/if}
	{#if here?.error}
		<p class="text-small text-rust" role="alert">{here.error}.</p>
	{:else if here}
		<div class="mt-1.5">
			<EaseCurve
				{field}
				values={[here.values]}
				{range}
				onpreview={(ease) => preview((f) => (f.ease = ease))}
				oncommit={(ease) => commit('Change the curve of a field', (f) => (f.ease = ease))}
			/>
			<p class="figure flex justify-between text-small text-soft">
				<span>{printFull(range[0], quantity, unit)}</span><span>{printFull(range[1], quantity, unit)}</span>
			</p>
		</div>
	{/if}
	<div class="mt-1 flex flex-wrap items-center gap-x-3 text-small">
		<label class="flex items-center gap-1" title="Otherwise what occurs on each face, least and greatest"
			><input
				type="checkbox"
				class="accent-patina"
				checked={field.range !== undefined}
				onchange={(e) => {
					const on = e.currentTarget.checked;
					error = commit('Change the range of a field', (f) => {
						if (!on) delete f.range;
						else f.range = range[0] === range[1] ? [range[0], range[0] + 1] : [range[0], range[1]];
					});
				}}
			/>own range</label
		>
		<label class="flex items-center gap-1"
			>steps <input
				class="field figure w-12 px-1.5"
				placeholder="none"
				value={field.steps === undefined ? '' : String(field.steps)}
				onchange={(e) => {
					const n = Number(e.currentTarget.value);
					const none = !e.currentTarget.value.trim();
					error =
						!none && !(Number.isInteger(n) && n >= 2 && n <= 100)
							? 'steps are a whole number from 2 to 100, or none'
							: commit('Change the steps of a field', (f) => {
									if (none) delete f.steps;
									else f.steps = n;
								});
				}}
			/></label
		>
		{#if field.ease}<button
				class="text-patina hover:underline"
				onclick={() => (error = commit('Straighten the curve of a field', (f) => void delete f.ease))}>Straight</button
			>{/if}
	</div>
	{#if field.range}
		{#each [0, 1] as const as end (end)}
			<NumberField
				label={end === 0 ? 'Counts as 0' : 'Counts as 1'}
				value={field.range[end]}
				{quantity}
				{unit}
				onpreview={(v) => preview((f) => (f.range = end === 0 ? [v, field.range![1]] : [field.range![0], v]))}
				oncommit={(v) =>
					commit(
						'Change the range of a field',
						(f) => (f.range = end === 0 ? [v, field.range![1]] : [field.range![0], v])
					)}
				onrevert={() => work.editor.revert()}
			/>
		{/each}
	{/if}
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
