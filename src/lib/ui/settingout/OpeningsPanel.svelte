<script lang="ts">
	import Copy from '@lucide/svelte/icons/copy';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { addOpening, copyOpening, removeOpening, type NewOpening } from '$lib/editor/openings.ts';
	import { middleOf, ownBorder, roomFor } from '$lib/editor/openingPlace.ts';
	import { group } from '$core/units/print.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import OpeningForm from './OpeningForm.svelte';

	const work = useWorkspace();
	const flat = work.flat;
	const openings = $derived(work.face.current!.face.openings);
	const chosen = $derived(openings.findIndex((o) => o.id === flat.opening));
	let error = $state<string>();

	function add(label: string, stem: string, opening: NewOpening) {
		let id = '';
		error = work.editor.commit(
			`Add ${label}`,
			work.face.onFace((face) => (id = addOpening(face, opening, stem)))
		);
		if (!error) flat.opening = id;
	}
	/** Each by what it adds, where there is room for it; drawn ones are drawn on the developed view. */
	async function addKind(kind: string) {
		if (kind === 'draw') {
			if (flat.layout === 'off') flat.layout = 'beside';
			flat.tool = 'polygon';
			return;
		}
		const { key } = work.face.current!;
		const laid = await work.runner.ask((api) => api.flat(key));
		if (!laid) return void (error = 'This face cannot be laid flat yet; its division has a fault.');
		const room = (width: number, height: number) => {
			const [across, up] = roomFor(laid, width, height);
			return { kind: 'face', across, up } as const;
		};
		if (kind === 'rectangle')
			add('rectangle', 'Opening', { outline: { kind, width: 2000, height: 1500 }, place: room(2000, 1500) });
		if (kind === 'circle') {
			// Its place is its centre, not the middle of its lower side.
			const place = room(2000, 2000);
			add('circle', 'Opening', { outline: { kind, diameter: 2000 }, place: { ...place, up: place.up + 1000 } });
		}
		if (kind === 'door') {
			const [level] = [...work.project.levels].sort((a, b) => a.height - b.height);
			if (!level) error = 'A door stands on a level, and there is none yet. Levels are made under Mass.';
			else
				add('door', 'Door', {
					filling: 'door',
					outline: { kind: 'rectangle', width: 1000, height: 2135 },
					place: { kind: 'level', across: room(1000, 2135).across, level: level.id, above: 0 }
				});
		}
		if (kind === 'plan') void addPlan(middleOf(laid));
		if (kind === 'border') {
			const [across, up] = middleOf(laid);
			add('border', 'Border', {
				role: 'border',
				outline: { kind: 'polygon', points: ownBorder(laid) },
				place: { kind: 'face', across, up },
				turn: -laid.rowTurn
			});
		}
	}

	/** A plan outline begins over the middle of the face. */
	async function addPlan(middle: readonly [number, number]) {
		const at = await work.runner.ask((api) => api.onFace(work.face.current!.key, ...middle));
		const [x, y] = at ?? [work.face.current!.mass.frame.x, work.face.current!.mass.frame.y];
		add('plan outline', 'Plan outline', {
			outline: { kind: 'rectangle', width: 3000, height: 3000 },
			place: { kind: 'plan', x: Math.round(x), y: Math.round(y) }
		});
	}
	const id = $props.id();
</script>

<section class="mt-3 border-t border-rule pt-2" aria-labelledby="openings-heading">
	<div class="flex items-center justify-between">
		<h3 id="openings-heading" class="heading">Openings and borders</h3>
		<label for={id} class="sr-only">Add an opening</label>
		<select
			{id}
			class="w-[68px] shrink-0 rounded border border-control bg-sheet px-1.5 py-0.5 text-small"
			value=""
			onchange={(e) => {
				void addKind(e.currentTarget.value);
				e.currentTarget.value = '';
			}}
		>
			<option value="" disabled>Add…</option>
			<option value="rectangle">Rectangle</option>
			<option value="circle">Circle</option>
			<option value="draw">Polygon, drawn</option>
			<option value="door">Door at a level</option>
			<option value="plan">Plan outline, projected</option>
			<option value="border">Border</option>
		</select>
	</div>
	{#if openings.length === 0}
		<p class="text-small text-soft">
			None. Add one here, or draw it on the developed view; the grid is cut exactly along it.
		</p>
	{/if}
	<ul class="-mx-1.5">
		{#each openings as opening (opening.id)}
			<li class="group flex items-center rounded px-1.5 {flat.opening === opening.id ? 'bg-wash' : 'hover:bg-wash/60'}">
				<button
					class="min-w-0 grow truncate py-[3px] text-left"
					aria-pressed={flat.opening === opening.id}
					onclick={() => (flat.opening = flat.opening === opening.id ? undefined : opening.id)}
				>
					{opening.name}
					<span class="text-small text-soft">{opening.role === 'border' ? 'border' : opening.outline.kind}</span>
				</button>
				<button
					class="px-1 text-soft opacity-0 group-hover:opacity-100 hover:text-patina focus-visible:opacity-100"
					title="Copy"
					aria-label="Copy {opening.name}"
					onclick={() =>
						(error = work.editor.commit(
							'Copy opening',
							work.face.onFace((f) => (flat.opening = copyOpening(f, opening.id, 1000)))
						))}><Copy size={13} /></button
				>
				<button
					class="px-1 text-soft opacity-0 group-hover:opacity-100 hover:text-rust focus-visible:opacity-100"
					title="Remove"
					aria-label="Remove {opening.name}"
					onclick={() =>
						(error = work.editor.commit(
							`Remove ${opening.name}`,
							work.face.onFace((f) => removeOpening(f, opening.id))
						))}><Trash2 size={13} /></button
				>
			</li>
		{/each}
	</ul>
	{#if work.face.view && openings.some((o) => o.role === 'border')}
		{@const { lost, cut } = work.face.view.counts}
		<p class="text-small text-soft" role="status">
			{lost + cut
				? `Borders and openings leave out ${group(lost, 0)} fields and cut ${group(cut, 0)} cells.`
				: 'The border leaves nothing out yet: move its points.'}
		</p>
	{/if}
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
	{#if chosen >= 0}{#key flat.opening}<OpeningForm k={chosen} />{/key}{/if}
</section>
