<script lang="ts">
	import FileUp from '@lucide/svelte/icons/file-up';
	import X from '@lucide/svelte/icons/x';
	import { addImported, replaceImported } from '$lib/editor/masses.ts';
	import type { ImportState } from '$lib/editor/importState.svelte.ts';
	import { partColour } from '$core/drawing/partColours.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { MODEL_ENDINGS } from '$core/formats/modelFiles/detect.ts';
	import { FILE_UNITS } from '$core/units/fileUnits.ts';
	import { group, printFull } from '$core/units/print.ts';
	import NumberField from '../NumberField.svelte';

	let { state: incoming }: { state: ImportState } = $props();

	const work = useWorkspace();
	const unit = $derived(work.project.units);
	const parts = $derived(incoming.parts?.parts ?? []);
	const repairs = $derived(incoming.parts?.repairs);
	const crease = $derived(incoming.split.kind === 'crease' ? incoming.split.angle : Math.PI / 6);
	let files: HTMLInputElement;
	/** Faces that are listed at once. */
	const MOST_LISTED = 60;

	const REPAIRS = [
		['welded', 'vertices a little apart made one'],
		['flat', 'triangles without area left out'],
		['doubled', 'triangles that stood twice left out'],
		['flipped', 'triangles turned to face like their neighbours'],
		['tangled', 'sides shared by more than two triangles parted']
	] as const;
	const done = $derived(repairs ? REPAIRS.filter(([name]) => repairs[name] > 0) : []);

	function choose(files: FileList | null | undefined) {
		if (files?.length) void incoming.read([...files]);
	}
	const setAngle = (angle: number) => {
		if (!(angle > 0 && angle < Math.PI)) return 'Right would be 1° to 179°.';
		incoming.split = { kind: 'crease', angle };
		void incoming.part();
	};
	function togglePiece(k: number, on: boolean) {
		incoming.chosen = on ? [...incoming.chosen, k].sort((a, b) => a - b) : incoming.chosen.filter((c) => c !== k);
		void incoming.part();
	}
	const points = () => incoming.shape.faces.map((f) => f.points);
	async function bringIn() {
		if (!(await incoming.send(points()))) return;
		let key = '';
		const notes: string[] = [];
		const error = work.editor.commit(`Bring in ${incoming.file}`, (draft) => {
			notes.length = 0;
			key = addImported(draft, incoming.shape, (words) => notes.push(words));
		});
		if (error) return void (incoming.error = error);
		if (notes.length) work.editor.notice = notes.join(' ');
		work.face.chosen = key;
		close();
	}
	/** The chosen mass, where it came from a file too. */
	const older = $derived(work.face.current?.mass.shape.kind === 'imported' ? work.face.current : undefined);
	async function replace() {
		const { m, mass } = older!;
		if (!(await incoming.send(points()))) return;
		const error = work.editor.commit(`Replace ${mass.name} by ${incoming.file}`, (draft) =>
			replaceImported(draft, m, incoming.shape)
		);
		if (error) return void (incoming.error = error);
		close();
	}
	async function asReference() {
		const add = await incoming.addReference();
		if (!add) return;
		incoming.error = work.editor.commit(`Bring in ${incoming.file} as reference`, add);
		if (!incoming.error) close();
	}
	function close() {
		incoming.stop();
		work.importing = undefined;
	}
</script>

<section
	class="flex min-h-0 flex-col border-l border-rule bg-sheet"
	aria-label="Bring in a model file"
	ondragover={(e) => e.preventDefault()}
	ondrop={(e) => {
		e.preventDefault();
		choose(e.dataTransfer?.files);
	}}
>
	<header class="flex items-center gap-2 border-b border-rule px-3 py-1.5">
		<h2 class="font-semibold">From a file</h2>
		<span class="truncate text-small text-soft">{incoming.file ?? ''}</span>
		<button class="ml-auto rounded p-1 text-soft hover:text-patina" title="Close" aria-label="Close" onclick={close}
			><X size={15} /></button
		>
	</header>
	<div class="min-h-0 grow overflow-auto px-3 py-2">
		<button class="button" onclick={() => files.click()}
			><FileUp size={14} />{incoming.summary ? 'Other files' : 'Choose model files'}</button
		>
		<input
			bind:this={files}
			type="file"
			multiple
			accept={MODEL_ENDINGS.join()}
			class="hidden"
			aria-label="Model file"
			onchange={(e) => {
				choose(e.currentTarget.files);
				e.currentTarget.value = '';
			}}
		/>
		{#if !incoming.summary && !incoming.busy}
			<p class="mt-2 text-small text-soft">
				STEP, IGES, BREP, IFC, OBJ, STL, GLB, glTF or PLY, one or several that belong together, up to 200 MB and 2
				million triangles; or drop them here. They are read on this machine. Their faces then behave like any others.
			</p>
		{/if}
		{#if incoming.error}<p
				class="mt-2 rounded border border-rust px-2 py-1 text-small whitespace-pre-line text-rust"
				role="alert"
			>
				{incoming.error}
			</p>{/if}
		{#if incoming.busy}
			<div class="mt-2 flex items-center gap-2 text-small" role="status">
				<progress class="h-1.5 w-24" value={incoming.busy.share}></progress>
				<span class="truncate">{incoming.busy.what}</span>
				<button class="ml-auto text-patina underline" onclick={() => incoming.stop()}>Stop</button>
			</div>
		{/if}
		{#if incoming.summary}
			<div class="my-2 grid grid-cols-[96px_1fr] items-center gap-x-2 gap-y-1.5">
				<label for="file-unit" class="text-soft">Unit</label>
				{#if incoming.needsUnit}
					<select
						id="file-unit"
						class="field"
						value={String(incoming.mm)}
						onchange={(e) => {
							incoming.mm = Number(e.currentTarget.value);
							void incoming.part();
						}}
					>
						{#each FILE_UNITS as { name, label, mm } (name)}<option value={String(mm)}
								>{label}; the file does not say</option
							>{/each}
					</select>
				{:else}
					<span>told by the file</span>
				{/if}
			</div>
			{#if incoming.parts?.hint}<p
					class="mb-2 rounded border border-ochre px-2 py-1 text-small text-ochre-ink"
					role="status"
				>
					{incoming.parts.hint}
				</p>{/if}
			{#if incoming.summary.pieces.length > 1}
				<h3 class="heading mt-2">Pieces, {incoming.chosen.length} of {incoming.summary.pieces.length}</h3>
				<div class="my-1 flex gap-1.5 text-small">
					<button
						class="button"
						onclick={() => {
							incoming.chosen = incoming.summary!.pieces.map((_, k) => k);
							void incoming.part();
						}}>All</button
					>
					<button
						class="button"
						onclick={() => {
							incoming.chosen = [];
							void incoming.part();
						}}>None</button
					>
				</div>
				<ul class="max-h-32 overflow-auto rounded border border-rule px-2 py-1">
					{#each incoming.summary.pieces as { name, triangles }, k (k)}
						<li>
							<label class="flex items-baseline gap-2">
								<input
									type="checkbox"
									class="accent-patina"
									checked={incoming.chosen.includes(k)}
									onchange={(e) => togglePiece(k, e.currentTarget.checked)}
								/>
								<span class="truncate">{name}</span>
								<span class="figure ml-auto text-small whitespace-nowrap text-soft"
									>{group(triangles, 0)} triangles</span
								>
							</label>
						</li>
					{/each}
				</ul>
			{/if}
			<h3 class="heading mt-3">Faces part</h3>
			{#if incoming.summary.hasFaces}
				<label class="my-1 flex items-center gap-2">
					<input
						type="radio"
						name="split"
						class="accent-patina"
						checked={incoming.split.kind === 'file'}
						onchange={() => {
							incoming.split = { kind: 'file' };
							void incoming.part();
						}}
					/>
					as the file has them
				</label>
				<label class="my-1 flex items-center gap-2">
					<input
						type="radio"
						name="split"
						class="accent-patina"
						checked={incoming.split.kind === 'crease'}
						onchange={() => setAngle(crease)}
					/>
					at creases
				</label>
			{/if}
			{#if incoming.split.kind === 'crease'}
				<NumberField
					label="Sharper than"
					help="Neighbouring triangles that turn by more belong to two faces"
					quantity="angle"
					{unit}
					value={crease}
					onpreview={setAngle}
					oncommit={setAngle}
					onrevert={() => undefined}
				/>
			{/if}
			{#if done.length}
				<h3 class="heading mt-3">Mended</h3>
				<ul class="text-small" data-testid="repairs">
					{#each done as [name, words] (name)}<li>
							<span class="figure">{group(repairs![name], 0)}</span>
							{words}
						</li>{/each}
				</ul>
			{/if}
			<h3 class="heading mt-3">{parts.length} {parts.length === 1 ? 'face' : 'faces'}</h3>
			<ul data-testid="import-faces">
				{#each parts.slice(0, MOST_LISTED) as { id, name, triangles }, k (id)}
					{@const report = incoming.reportOf(id)}
					<li>
						<button
							class="grid w-full grid-cols-[12px_1fr_auto] items-baseline gap-x-2 rounded px-1 text-left hover:bg-wash/60 {incoming.face ===
							id
								? 'bg-wash'
								: ''}"
							title="Choose it to move its corners"
							onclick={() => (incoming.face = id)}
						>
							<span class="h-2.5 w-2.5 self-center rounded-sm" style="background: {partColour(k)}"></span>
							<span class="truncate">{name}</span>
							<span class="figure text-small whitespace-nowrap text-soft {report ? 'col-span-2 col-start-2' : ''}">
								{#if report}{printFull(report.areaM2 * 1e6, 'area', unit)} · stretch {report.stretch.toFixed(2)} · off {printFull(
										report.deviationMm,
										'length',
										unit
									)}{report.holes
										? ` · ${report.holes} ${report.holes === 1 ? 'hole becomes an opening' : 'holes become openings'}`
										: ''}{:else}{group(triangles, 0)} triangles{/if}
							</span>
						</button>
					</li>
				{/each}
			</ul>
			{#if parts.length > MOST_LISTED}<p class="text-small text-soft">and {parts.length - MOST_LISTED} more</p>{/if}
			{#if incoming.reportOf(incoming.face)?.corners.length}
				<p class="mt-1 text-small text-soft">
					The lines show how it is laid. Drag its four corners in the model; they stay on its border. The first one is
					the lower left.
				</p>
			{/if}
			{#each incoming.left as line (line)}<p class="mt-1 text-small text-ochre-ink">{line}</p>{/each}
		{/if}
	</div>
	{#if incoming.summary}
		<footer class="flex flex-wrap gap-1.5 border-t border-rule px-3 py-2">
			{#if incoming.laid.length}
				<button class="button button-main" disabled={incoming.busy !== undefined} onclick={bringIn}
					>Bring in {incoming.laid.length} {incoming.laid.length === 1 ? 'face' : 'faces'}</button
				>
				{#if older}
					<button
						class="button"
						disabled={incoming.busy !== undefined}
						title="Faces that lie where they did keep their divisions, marks and kits"
						onclick={replace}>Replace {older.mass.name}</button
					>
				{/if}
			{:else}
				<button
					class="button button-main"
					disabled={parts.length === 0 || incoming.busy !== undefined}
					title="Finds borders and corners and lays each face over a grid"
					onclick={() => incoming.layAll()}>Lay the faces over</button
				>
			{/if}
			<button
				class="button"
				disabled={parts.length === 0 || incoming.busy !== undefined}
				title="Neighbouring buildings, ground: shown grey, never divided"
				onclick={asReference}>Only as reference</button
			>
		</footer>
	{/if}
</section>
