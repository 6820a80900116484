<script lang="ts">
	import { ROLES } from '$core/kit/fields.ts';
	import { CELL_READINGS } from '$core/readings/cellReadings.ts';
	import { faceKey } from '$core/project/schema.ts';
	import { PAPERS, SCALES, type Sheet, type SheetView } from '$core/project/sheets.ts';
	import type { Quantity } from '$core/units/quantity.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { sheetIn } from '$lib/editor/sheets.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';

	interface Props {
		id: string;
	}
	let { id }: Props = $props();

	const work = useWorkspace();
	const { sheets } = work;
	const sheet = $derived(work.project.handover.sheets.find((s) => s.id === id)!);
	const view = $derived(sheet.view);
	const isDrawn = $derived(view.kind !== 'types' && view.kind !== 'schedule');
	/** What it is drawn at. */
	const scale = $derived(sheets.open === id ? sheets.pages[0]?.scale : undefined);
	let error = $state<string>();

	const edit = (label: string, change: (sheet: Sheet) => void) =>
		(error = work.editor.commit(label, (draft) => change(sheetIn(draft, id))));
	const editView = <Kind extends SheetView['kind']>(
		_: Kind,
		label: string,
		change: (view: Extract<SheetView, { kind: Kind }>) => void
	) => edit(label, (s) => change(s.view as Extract<SheetView, { kind: Kind }>));
	const preview = () => undefined;

	const faces = $derived(
		work.project.masses.flatMap((mass) =>
			mass.faces
				.filter((face) => face.facade)
				.map((face) => ({ key: faceKey(mass, face), name: `${mass.name} › ${face.name}` }))
		)
	);
	/** Nothing named stands for all. */
	function chooseFace(key: string, chosen: boolean) {
		edit('Choose faces', (s) => {
			const v = s.view as Extract<SheetView, { faces: string[] }>;
			const before = v.faces.length ? v.faces : faces.map((f) => f.key);
			const now = chosen ? [...before, key] : before.filter((k) => k !== key);
			v.faces = now.length === faces.length ? [] : now;
		});
	}
	async function straightOn(key: string) {
		const bearing = await work.runner.ask((api) => api.bearingOf(key));
		if (bearing === undefined) return void (error = 'This face is not divided yet, so that it looks nowhere.');
		edit('Look straight on', (s) => {
			if (s.view.kind === 'elevation' || s.view.kind === 'section') s.view.bearing = bearing;
		});
	}
	const colours = Object.entries(CELL_READINGS).flatMap(([name, reading]) =>
		'kinds' in reading ? [] : [{ name, label: reading.label }]
	);
</script>

{#snippet pick(
	label: string,
	value: string,
	options: readonly { readonly value: string; readonly text: string }[],
	take: (value: string) => void
)}
	<label class="my-1 grid grid-cols-[84px_1fr] items-center gap-x-2"
		><span class="text-soft">{label}</span>
		<select class="field" {value} onchange={(e) => take(e.currentTarget.value)}>
			{#each options as { value, text } (value)}<option {value}>{text}</option>{/each}
		</select></label
	>
{/snippet}
{#snippet number(
	label: string,
	help: string,
	value: number,
	quantity: Quantity,
	take: (value: number) => string | undefined
)}
	<NumberField
		{label}
		{help}
		{value}
		{quantity}
		unit={work.project.units}
		onpreview={preview}
		onrevert={preview}
		oncommit={take}
	/>
{/snippet}
{#snippet tick(label: string, checked: boolean, take: (checked: boolean) => void)}
	<label class="flex items-center gap-1.5 py-px"
		><input
			type="checkbox"
			class="accent-patina"
			{checked}
			onchange={(e) => take(e.currentTarget.checked)}
		/>{label}</label
	>
{/snippet}

<div class="my-1 rounded border border-rule bg-paper px-2 py-1 text-small" data-testid="sheet-form">
	<TextField label="Name" value={sheet.name} oncommit={(name) => edit('Rename sheet', (s) => (s.name = name))} />
	{@render pick(
		'Paper',
		sheet.paper,
		Object.entries(PAPERS).map(([name, [w, h]]) => ({ value: name, text: `${name}, ${w} × ${h} mm` })),
		(paper) => edit('Change paper', (s) => (s.paper = paper as Sheet['paper']))
	)}
	{@render tick('Long side across', sheet.across, (across) => edit('Turn paper', (s) => (s.across = across)))}
	{#if isDrawn}
		{@render pick(
			'Scale',
			String(sheet.scale ?? ''),
			[
				{
					value: '',
					text: sheet.scale === undefined && scale ? `1 : ${scale}, the largest that fits` : 'the largest that fits'
				},
				...SCALES.map((s) => ({ value: String(s), text: `1 : ${s}` }))
			],
			(text) =>
				edit('Change scale', (s) => {
					if (text) s.scale = Number(text);
					else Reflect.deleteProperty(s, 'scale');
				})
		)}
		{#if sheet.scale !== undefined && scale !== undefined && scale !== sheet.scale}
			<p class="text-ochre-ink">
				1 : {sheet.scale} does not fit.
				<button class="text-patina underline" onclick={() => edit('Change scale', (s) => (s.scale = scale))}
					>Take 1 : {scale}</button
				>
			</p>
		{/if}
	{/if}
	{#if view.kind === 'elevation' || view.kind === 'section'}
		{@render number(
			'Facing',
			'The bearing that what is seen looks at, clockwise from the north, which is along y',
			view.bearing,
			'angle',
			(bearing) => editView('elevation', 'Change bearing', (v) => (v.bearing = bearing))
		)}
		<label class="my-1 grid grid-cols-[84px_1fr] items-center gap-x-2"
			><span class="text-soft">Straight on</span>
			<select
				class="field"
				value=""
				onchange={(e) => {
					void straightOn(e.currentTarget.value);
					e.currentTarget.value = '';
				}}
			>
				<option value="" disabled>to a face …</option>
				{#each faces as { key, name } (key)}<option value={key}>{name}</option>{/each}
			</select></label
		>
	{/if}
	{#if view.kind === 'section'}
		{@render number(
			'Cut at',
			'How far before the middle of the model it is cut; negative lies behind',
			view.at,
			'length',
			(at) => editView('section', 'Move the cut', (v) => (v.at = at))
		)}
	{:else if view.kind === 'plan'}
		{@render tick('Cut at a height', view.height !== undefined, (cut) =>
			editView('plan', cut ? 'Cut the plan' : 'Look from above', (v) => {
				if (cut) v.height = (work.project.levels[0]?.height ?? 0) + 1000;
				else Reflect.deleteProperty(v, 'height');
			})
		)}
		{#if view.height !== undefined}
			{@render number('Height', 'Above the ground', view.height, 'length', (height) =>
				editView('plan', 'Move the cut', (v) => (v.height = height))
			)}
		{/if}
	{:else if view.kind === 'types'}
		{@render pick(
			'Role',
			view.role ?? '',
			[{ value: '', text: 'all' }, ...ROLES.map((r) => ({ value: r, text: r }))],
			(role) =>
				editView('types', 'Choose a role', (v) => {
					if (role) v.role = role;
					else Reflect.deleteProperty(v, 'role');
				})
		)}
		{@render pick(
			'On a page',
			String(view.perPage),
			[1, 4, 12].map((n) => ({ value: String(n), text: n === 1 ? '1 piece' : `${n} pieces` })),
			(n) => editView('types', 'Change pieces on a page', (v) => (v.perPage = Number(n) as typeof v.perPage))
		)}
		{@render number('At most', 'The most frequent ones first, as types are numbered', view.most, 'count', (most) =>
			editView('types', 'Change number of types', (v) => (v.most = most))
		)}
	{:else if view.kind === 'schedule'}
		{@render pick(
			'Schedule',
			view.table,
			work.project.tables.map((t) => ({ value: t.id, text: t.name })),
			(table) => editView('schedule', 'Choose a schedule', (v) => (v.table = table))
		)}
	{/if}
	{#if view.kind === 'developed'}
		{@render pick(
			'Colour',
			sheet.colour,
			[
				{ value: 'none', text: 'none' },
				{ value: 'kit', text: 'by kit' },
				...colours.map(({ name, label }) => ({ value: name, text: label }))
			],
			(colour) => edit('Change colours', (s) => (s.colour = colour))
		)}
	{/if}
	{#if isDrawn}
		{@render tick('Marks where there is room', sheet.marks, (marks) => edit('Change marks', (s) => (s.marks = marks)))}
		{#if view.kind !== 'plan'}{@render tick('Levels', sheet.levels, (on) =>
				edit('Change levels', (s) => (s.levels = on))
			)}{/if}
		{@render tick('Sizes over all', sheet.sizes, (on) => edit('Change sizes', (s) => (s.sizes = on)))}
	{/if}
	{#if 'faces' in view && faces.length > 1}
		<h4 class="mt-1 font-semibold">Faces</h4>
		{#each faces as { key, name } (key)}
			{@render tick(name, view.faces.length === 0 || view.faces.includes(key), (on) => chooseFace(key, on))}
		{/each}
	{/if}
	{#if error}<p class="mt-1 whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
