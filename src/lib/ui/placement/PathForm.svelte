<script lang="ts">
	import type { DrawnPath } from '$core/placement/drawn/schema.ts';
	import type { Quantity } from '$core/units/quantity.ts';
	import { kitOnPath, PATH_POINTS } from '$lib/editor/drawnPaths.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';

	let { path }: { path: DrawnPath } = $props();

	const work = useWorkspace();
	const k = $derived(work.project.paths.findIndex((p) => p.id === path.id));
	const source = $derived(path.source);
	const onNodes = $derived(source.kind === 'picked' || source.kind === 'traced');
	const kits = $derived(work.project.kits.filter((kit) => kit.host.kind === 'path'));
	const users = $derived(
		work.project.rules.filter((r) => r.where.some((c) => c.kind === 'path' && c.paths.includes(path.id))).length
	);
	let error = $state<string>();

	const edit = (change: (path: DrawnPath) => void) => {
		const at = k;
		return (draft: typeof work.project) => change(draft.paths[at]!);
	};
	const commit = (label: string, change: (path: DrawnPath) => void) => work.editor.commit(label, edit(change));
	const set = (fields: Partial<DrawnPath>, label = 'Change a path') =>
		(error = commit(label, (p) => void Object.assign(p, fields)));
	/** With some fields changed; one that is undefined is left out, as documents have it. */
	const merged = <T extends object>(whole: T, fields: object): T =>
		Object.fromEntries(Object.entries({ ...whole, ...fields }).filter(([, value]) => value !== undefined)) as T;
	const setSource = (fields: object) => commit('Change a path', (p) => (p.source = merged(p.source, fields)));
	const AXES = ['East', 'North', 'Up'] as const;

	function draw() {
		if (work.flat.layout === 'off') work.flat.layout = 'beside';
		work.flat.lineFor = 'path';
		work.flat.tool = 'line';
	}
	function arrayTo(kind: string) {
		const array: DrawnPath['array'] =
			kind === 'around'
				? { kind, x: 0, y: 0, count: 8 }
				: kind === 'along'
					? { kind, way: 'across', every: 2 }
					: undefined;
		error = commit('Copy a path', (p) => {
			if (array) p.array = array;
			else delete p.array;
		});
	}
	const setArray = (fields: object) => commit('Copy a path', (p) => (p.array = merged(p.array!, fields)));
</script>

{#snippet number(label: string, value: number, quantity: Quantity, take: (v: number) => string | undefined, help = '')}
	<NumberField
		{label}
		{help}
		{value}
		{quantity}
		unit={work.project.units}
		onpreview={() => undefined}
		oncommit={take}
		onrevert={() => work.editor.revert()}
	/>
{/snippet}
{#snippet tick(label: string, checked: boolean, take: (on: boolean) => void, help = '')}
	<label class="flex items-center gap-1.5 py-0.5" title={help}
		><input
			type="checkbox"
			class="accent-patina"
			{checked}
			onchange={(e) => take(e.currentTarget.checked)}
		/>{label}</label
	>
{/snippet}

<div class="px-1.5 pb-2">
	{#key path.id}
		<TextField label="Name" value={path.name} oncommit={(name) => commit('Rename a path', (p) => (p.name = name))} />
		<TextField
			label="Mark"
			help="Copies bear a number behind it"
			value={path.mark}
			oncommit={(mark) => commit('Mark a path', (p) => (p.mark = mark))}
		/>
	{/key}
	<button
		class="button my-1 w-full justify-center"
		title="On the developed view, where Enter or a double click ends it, or in the model"
		onclick={draw}>{PATH_POINTS[source.kind].label} in either view</button
	>
	{#if source.kind === 'picked'}
		{@const nodes = source.nodes}
		<div class="my-1 flex flex-wrap items-center gap-1 text-small" role="group" aria-label="Points of the path">
			{#each nodes as node, n (n)}
				<button
					class="figure rounded border border-control px-1 hover:border-rust hover:text-rust"
					title="Row {node[0] + 1}, column {node[1] + 1}, corner {node[3]}. Click to take it out"
					aria-label="Take point {n + 1} out"
					onclick={() => setSource({ nodes: nodes.toSpliced(n, 1) })}>{n + 1}</button
				>
			{:else}<span class="text-soft">No points yet: at least two are needed.</span>{/each}
			{#if nodes.length > 1}<button
					class="text-patina hover:underline"
					onclick={() => setSource({ nodes: nodes.toReversed() })}>turn round</button
				>{/if}
		</div>
	{:else if source.kind === 'traced'}
		{@const [row, column, , corner] = source.from}
		<p class="text-small text-soft">
			From corner {corner} of row {row + 1}, column {column + 1}, again and again:
		</p>
		{@render number('Steps up', source.up, 'count', (up) => setSource({ up }), 'Places of the grid; below 0 down')}
		{@render number(
			'Steps across',
			source.across,
			'count',
			(across) => setSource({ across }),
			'Places of the grid; below 0 to the left'
		)}
		{@render tick(
			'until the border',
			source.most === undefined,
			(on) => void setSource({ most: on ? undefined : 8 }),
			'Or for so many steps'
		)}
		{#if source.most !== undefined}
			{@render number('So many steps', source.most, 'count', (most) => setSource({ most }))}
		{/if}
		{@render tick('backwards as well', source.both, (both) => void setSource({ both }))}
	{:else if source.kind === 'cut'}
		{#each AXES as label, c (label)}
			{@render number(`Point ${label.toLowerCase()}`, source.point[c]!, 'length', (v) =>
				setSource({ point: source.point.with(c, v) })
			)}
		{/each}
		{#each AXES as label, c (label)}
			{@render number(
				`Way ${label.toLowerCase()}`,
				source.normal[c]!,
				'ratio',
				(v) => setSource({ normal: source.normal.with(c, v) }),
				'The plane lies square to this way: 0, 0, 1 is level'
			)}
		{/each}
	{:else if source.kind === 'curve'}
		{@render tick('smooth', source.smooth, (smooth) => void setSource({ smooth }))}
	{/if}
	{#if source.kind !== 'cut' && source.kind !== 'geodesic'}
		{@render tick('closed', path.closed, (closed) => void set({ closed }), 'The last point is joined to the first')}
	{/if}
	{#if !onNodes && source.kind !== 'free'}
		{@render number('Points every', path.spacing, 'length', (spacing) => set({ spacing }), 'At most so far apart')}
	{/if}
	{@render number('Off the face', path.lift, 'length', (lift) => set({ lift }), 'Outwards; below 0 inwards')}
	<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
		<label for="path-array" class="text-soft">Copies</label>
		<select
			id="path-array"
			class="field"
			value={path.array?.kind ?? 'none'}
			onchange={(e) => arrayTo(e.currentTarget.value)}
		>
			<option value="none">none</option>
			{#if onNodes}<option value="along">along the grid</option>{/if}
			<option value="around">around an upright axis</option>
		</select>
	</div>
	{#if path.array?.kind === 'along'}
		{@const array = path.array}
		<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
			<label for="path-way" class="text-soft">They go</label>
			<select id="path-way" class="field" value={array.way} onchange={(e) => setArray({ way: e.currentTarget.value })}>
				<option value="across">across</option><option value="up">up</option>
			</select>
		</div>
		{@render number(
			'Every',
			array.every,
			'count',
			(every) => setArray({ every }),
			'So many places of the grid further on'
		)}
		{@render tick(
			'as many as have room',
			array.count === undefined,
			(on) => void setArray({ count: on ? undefined : 4 }),
			'Around a closed face all around'
		)}
		{#if array.count !== undefined}
			{@render number('How many', array.count, 'count', (count) => setArray({ count }))}
		{/if}
	{:else if path.array?.kind === 'around'}
		{@const array = path.array}
		{@render number(
			'How many',
			array.count,
			'count',
			(count) => setArray({ count }),
			array.angle === undefined ? `One every ${(360 / array.count).toFixed(3)}°` : ''
		)}
		<p class="text-small text-soft">
			{array.angle === undefined
				? `All around: 360° / ${array.count} = ${+(360 / array.count).toFixed(4)}°`
				: 'By an angle'}
		</p>
		{@render tick(
			'all around',
			array.angle === undefined,
			(on) => void setArray({ angle: on ? undefined : (2 * Math.PI) / array.count })
		)}
		{#if array.angle !== undefined}
			{@render number('Angle', array.angle, 'angle', (angle) => setArray({ angle }))}
		{/if}
		{@render number('Axis east', array.x, 'length', (x) => setArray({ x }))}
		{@render number('Axis north', array.y, 'length', (y) => setArray({ y }))}
	{/if}
	{@render tick(
		'with a mirrored twin',
		path.mirrored,
		(mirrored) => void set({ mirrored }),
		'Steps across the other way, or mirrored about the axis of its copies'
	)}
	{@render number(
		'Woven by',
		path.weave,
		'length',
		(weave) => set({ weave }),
		'Where copies cross they go over and under in turn, so far from their middles; 0 for not'
	)}
	<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2"
		><span class="text-soft">Kit</span>
		<select
			class="field min-w-0"
			aria-label="Kit on this path"
			value=""
			onchange={(e) => {
				const kit = e.currentTarget.value;
				e.currentTarget.value = '';
				let rule = '';
				error = work.editor.commit('Put a kit on a path', (draft) => (rule = kitOnPath(draft, path.id, kit)));
				if (!error) work.placement.rule = rule;
			}}
		>
			<option value="" disabled
				>{users ? `${users === 1 ? 'one rule' : `${users} rules`} so far; one more …` : 'put one on it …'}</option
			>
			{#each kits as { id, name } (id)}<option value={id}>{name}</option>{/each}
		</select></label
	>
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
