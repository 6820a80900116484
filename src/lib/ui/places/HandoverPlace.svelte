<script lang="ts">
	import Archive from '@lucide/svelte/icons/archive';
	import Download from '@lucide/svelte/icons/download';
	import { TABLE_UNITS, type TableUnit } from '$core/units/tableUnits.ts';
	import { hasUnits, WRITERS, type Format } from '$core/formats/writers.ts';
	import { FileOrder } from '$lib/editor/handover.svelte.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { MESH_UNITS, type MeshUnit } from '$core/formats/mesh/meshUnits.ts';
	import MapPlace from './MapPlace.svelte';
	import SheetsList from '../sheets/SheetsList.svelte';
	import TextField from '../TextField.svelte';

	const work = useWorkspace();
	const { issues } = work;
	/** The issue that files are made of; the project as it is now where none is chosen. */
	let issue = $state('');
	$effect(() => {
		if (issues.issues === undefined) void issues.refresh();
	});
	/** A file that can be made. */
	interface HandedFile {
		readonly format: Format;
		readonly label: string;
		readonly help: string;
		readonly options: object;
		readonly order: FileOrder;
	}
	const GROUPS: readonly { readonly heading: string; readonly formats: readonly Format[] }[] = [
		{
			heading: 'Schedules',
			formats: [
				'xlsx',
				'rows',
				'tables',
				'csv',
				'edges',
				'paths',
				'bays',
				'parts',
				'quantities',
				'cutlist',
				'nodes',
				'corners'
			]
		},
		{ heading: 'Models', formats: ['ifc', 'glb', 'obj', 'stl', 'ply', '3mf', 'step', 'space'] },
		{ heading: 'Drawings', formats: ['pdf', 'dxf', 'svg'] },
		{ heading: 'Project', formats: ['json'] }
	];
	/** Orders stay while somebody looks at other files. */
	const orders: Record<string, FileOrder> = {};
	const orderOf = (key: string) => (orders[key] ??= new FileOrder());
	/** The files of a format: of schedules of the project's own one each. */
	function filesOf(format: Format): HandedFile[] {
		const { label, help } = WRITERS[format];
		if (format !== 'tables') return [{ format, label, help, options: {}, order: orderOf(format) }];
		return work.project.tables.map(({ id, name }) => ({
			format,
			label: name,
			help,
			options: { table: id },
			order: orderOf(`tables ${id}`)
		}));
	}
	/** The project's own unit, as far as files have it. */
	let units = $state<TableUnit>(({ mm: 'mm', m: 'm', 'ft-in': 'ft' } as const)[work.project.units]);

	/** Meshes without a unit of their own. */
	const MESHES: readonly Format[] = ['obj', 'stl', 'ply'];
	let meshUnits = $state<MeshUnit>('mm');

	/** Of drawings: 1 to so many. */
	const SCALES = [10, 20, 25, 50, 100, 200, 250, 500];
	let scale = $state(100);

	/** Lengths that bars are delivered in, mm. */
	let stock = $state.raw<readonly number[]>([6000]);
	function setStock(text: string): string | undefined {
		const lengths = text.split(/[\s,;]+/).filter(Boolean);
		const found = lengths.map(Number);
		if (!found.length || found.some((l) => !(l > 0 && l <= 100_000)))
			return 'Lengths in mm up to 100 000, such as 6000, 4500.';
		stock = found;
		return undefined;
	}

	/** Everything that is chosen for a file here. */
	const given = ({ format, options }: Pick<HandedFile, 'format' | 'options'>) => ({
		...options,
		...(hasUnits(format) ? { units } : {}),
		...(MESHES.includes(format) ? { units: meshUnits } : {}),
		...(format === 'svg' ? { scale } : {}),
		...(format === 'cutlist' ? { lengths: [...stock] } : {})
	});
	async function take(order: FileOrder, format: Format, options: object) {
		await order.order(work.editor.id, format, options, issue || undefined);
		if (order.state.kind === 'done') window.location.assign(order.state.address);
	}
	const all = $derived(GROUPS.flatMap((g) => g.formats.flatMap(filesOf)));
	const tableOf = ({ options }: HandedFile) => ('table' in options ? String(options.table) : undefined);
	const inSet = (file: HandedFile) =>
		work.project.handover.files.some((f) => f.format === file.format && f.table === tableOf(file));
	const set = $derived(all.filter(inSet));
	const setOrder = orderOf('set');
	function choose(file: HandedFile, chosen: boolean) {
		const table = tableOf(file);
		work.editor.apply(`${chosen ? 'Put' : 'Take'} ${file.label} ${chosen ? 'into' : 'out of'} the set`, (draft) => {
			const others = draft.handover.files.filter((f) => f.format !== file.format || f.table !== table);
			draft.handover.files = chosen ? [...others, { format: file.format, ...(table ? { table } : {}) }] : others;
		});
	}

	const pending = $derived(work.editor.saveState.kind !== 'saved');
</script>

{#if pending && !issue}
	<p class="mb-2 text-small text-ochre-ink" role="status">
		Files are made from what is saved; some edits are not saved yet.
	</p>
{/if}
{#snippet unit(label: string, value: string, all: readonly string[], take: (unit: string) => void)}
	<label class="mb-1 grid grid-cols-[1fr_auto] items-center gap-2 text-small">
		<span class="text-soft">{label}</span>
		<select class="button" {value} onchange={(e) => take(e.currentTarget.value)}>
			{#each all as name (name)}<option>{name}</option>{/each}
		</select>
	</label>
{/snippet}

{#if issues.issues?.length}
	<label class="mb-2 grid grid-cols-[64px_1fr] items-center gap-2 text-small">
		<span class="text-soft">Files of</span>
		<select class="field min-w-0" bind:value={issue} title="An issue is handed over as it was, and files say so">
			<option value="">the project now</option>
			{#each issues.issues as { id, mark, name } (id)}<option value={id}>{mark} {name}</option>{/each}
		</select>
	</label>
{/if}
{#snippet progress(order: FileOrder)}
	{@const { state } = order}
	{#if state.kind === 'working'}
		<div class="mt-1 flex items-center gap-2" role="status">
			<progress class="h-1.5 w-full" value={state.progress}></progress>
			<button class="button" onclick={() => order.cancel()}>Stop</button>
		</div>
	{:else if state.kind === 'done'}
		<p class="mt-1 text-small">
			<a class="text-patina underline" href={state.address}>Download again</a>
			<span class="text-soft">· as of revision {state.revision}</span>
		</p>
	{:else if state.kind === 'failed'}
		<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{state.message}</p>
	{/if}
{/snippet}
<section class="mb-2" aria-label="Set">
	<button
		class="button button-main w-full justify-center"
		disabled={set.length === 0 || setOrder.state.kind === 'working'}
		onclick={() => void take(setOrder, 'set', { files: set.map((f) => ({ format: f.format, options: given(f) })) })}
		><Archive size={14} />Make the set of {set.length} {set.length === 1 ? 'file' : 'files'}</button
	>
	<p class="mt-1 text-small text-soft">
		{set.length ? 'One ZIP with a list of its files and their checksums.' : 'Tick files below; they leave as one ZIP.'}
	</p>
	{@render progress(setOrder)}
</section>
<SheetsList />
{#each GROUPS as { heading, formats } (heading)}
	<h3 class="heading mt-3 mb-1 first:mt-0">{heading}</h3>
	{#if heading === 'Schedules'}
		{@render unit('Lengths in', units, TABLE_UNITS, (u) => (units = u as TableUnit))}
	{:else if heading === 'Drawings'}
		{@render unit('SVG at 1 :', String(scale), SCALES.map(String), (s) => (scale = Number(s)))}
	{:else if heading === 'Models'}
		{@render unit('OBJ, STL and PLY in', meshUnits, Object.keys(MESH_UNITS), (u) => (meshUnits = u as MeshUnit))}
		<MapPlace />
	{/if}
	<ul>
		{#each formats.flatMap(filesOf) as file (JSON.stringify([file.format, file.options]))}
			{@const state = file.order.state}
			<li>
				<section class="border-t border-rule py-1" aria-label={file.label}>
					<div class="flex items-center gap-2">
						<input
							type="checkbox"
							class="accent-patina"
							aria-label="{file.label} in the set"
							title="In the set"
							checked={inSet(file)}
							onchange={(e) => choose(file, e.currentTarget.checked)}
						/>
						<div class="min-w-0 flex-1">
							<h4 class="font-semibold">{file.label}</h4>
							<p class="text-small text-soft">{file.help}</p>
						</div>
						{#if state.kind !== 'working'}
							<button
								class="button shrink-0"
								aria-label={state.kind === 'done' ? 'Make again' : 'Make and download'}
								title={state.kind === 'done' ? 'Make again' : 'Make and download'}
								onclick={() => void take(file.order, file.format, given(file))}
								><Download size={14} />{WRITERS[file.format].extension.toUpperCase()}</button
							>
						{/if}
					</div>
					{#if file.format === 'cutlist'}
						<TextField
							label="Delivered mm"
							help="Lengths that bars are delivered in; 4 mm are lost at a cut and 20 mm at the ends"
							value={stock.join(', ')}
							oncommit={setStock}
						/>
					{/if}
					{@render progress(file.order)}
				</section>
			</li>
		{/each}
	</ul>
{/each}
