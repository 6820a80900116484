<script lang="ts">
	import { endCells, rowRuns } from '$lib/editor/rowCounts.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { cellMark, DEFAULT_MARK } from '$core/tiling/marks.ts';
	import { settleOrder } from '$core/tiling/order.ts';
	import { group } from '$core/units/print.ts';
	import PathChoice from '../PathChoice.svelte';
	import PathNumber from '../PathNumber.svelte';
	import PathSwitch from '../PathSwitch.svelte';
	import TextField from '../TextField.svelte';

	const work = useWorkspace();
	const face = $derived(work.face.current!.face);
	const view = $derived(work.face.view);
	const closed = $derived(view?.ends.closedAcross ?? false);
	/** What the order comes to on this face. */
	const settled = $derived(settleOrder(face.order, face.tiling.kind, closed));
	const byHeight = $derived(settled.rows === 'height');
	const byAngle = $derived(settled.columns === 'angle');
	const runs = $derived(view ? rowRuns(view) : []);
	const ends = $derived(view && endCells(view));
	const rows = $derived(runs.at(-1)?.to ?? 0);
	let open = $state(false);

	function selectRows(from: number, to: number) {
		const model = work.runner.view;
		if (!model || !view) return;
		const index = model.faces.indexOf(view);
		const counted = view.order?.row ?? view.row;
		const cells = Array.from({ length: view.cellCount }, (_, cell) => cell).filter(
			(c) => counted[c]! + 1 >= from && counted[c]! + 1 <= to
		);
		work.selection.chooseAll(
			model,
			cells.map((cell) => ({ face: index, cell }))
		);
	}
</script>

<section class="mt-4 border-t border-rule pt-2" aria-labelledby="marks-heading">
	<h3 id="marks-heading" class="heading">Marks</h3>
	<TextField
		label="Face mark"
		help="What the marks of this face’s panels start with"
		value={face.mark}
		oncommit={(mark) =>
			work.editor.commit(
				'Change mark',
				work.face.onFace((f) => (f.mark = mark))
			)}
	/>
	<TextField
		label="Template"
		wide
		help="{'{face}'}, {'{row}'}, {'{column}'} and {'{role}'}, with the least number of digits behind a colon; such as {DEFAULT_MARK}"
		value={face.marks}
		oncommit={(marks) =>
			work.editor.commit(
				'Change template of marks',
				work.face.onFaces((f) => (f.marks = marks || DEFAULT_MARK))
			)}
	/>
	{#if view && ends}
		<dl
			class="mt-1 grid grid-cols-[96px_1fr] gap-x-2 text-small {work.runner.behind ? 'italic opacity-60' : ''}"
			data-testid="marks-preview"
		>
			<dt class="text-soft">First, last</dt>
			<dd class="figure truncate" title="{cellMark(view, ends[0])} to {cellMark(view, ends[1])}">
				{cellMark(view, ends[0])}<br />{cellMark(view, ends[1])}
			</dd>
		</dl>
	{/if}
	<p class="mt-1 text-small text-soft">
		Pieces of one cell have a letter behind. Marks of edges and nodes follow their first cell, such as /2 and .3; Show
		lights them up.
	</p>

	<details class="mt-2" bind:open>
		<summary class="text-small text-soft hover:text-patina"
			>Order: {byHeight ? 'bands of height' : 'rows of the tiling'}{byAngle ? ', by angle' : ''}{face.order.backAndForth
				? ', back and forth'
				: ''}</summary
		>
		<PathChoice
			of="face"
			path={['order', 'rows']}
			label="Rows"
			help="Rows of the tiling, or cells of about one height"
			options={[
				['auto', 'as fits'],
				['tiling', 'of the tiling'],
				['height', 'by height']
			]}
		/>
		{#if byHeight}<PathNumber
				of="face"
				path={['order', 'tolerance']}
				label="Tolerance"
				quantity="length"
				help="Middles that are no higher than this above the lowest of a row are in the row"
			/>{/if}
		<PathChoice
			of="face"
			path={['order', 'columns']}
			label="Columns"
			help="How cells are counted within a row"
			options={[
				['auto', 'as fits'],
				['tiling', 'as the tiling has them'],
				['along', 'along the row'],
				['angle', 'by angle around']
			]}
		/>
		{#if byAngle}
			<PathNumber
				of="face"
				path={['order', 'bearing']}
				label="From bearing"
				quantity="angle"
				help="Where the count begins, clockwise from north (+y), around the upright axis through the middle"
			/>
			<PathChoice
				of="face"
				path={['order', 'clockwise']}
				label="Sense"
				help="Seen from above"
				options={[
					[true, 'clockwise'],
					[false, 'anticlockwise']
				]}
			/>
		{/if}
		<PathSwitch
			of="face"
			path={['order', 'backAndForth']}
			label="Back and forth"
			help="Every second row is counted from its other end"
		/>
		<p class="text-small text-soft">Rows begin at the edge that Setting-out counts from.</p>
	</details>

	{#if view && view.cellCount > 0}
		<table
			class="figure mt-2 w-full text-small {work.runner.behind ? 'italic opacity-60' : ''}"
			data-testid="row-table"
		>
			<thead
				><tr class="border-b border-rule text-left text-soft"
					><th class="font-sans font-normal">Rows ({group(rows, 0)})</th><th class="text-right font-sans font-normal"
						>Cells in each</th
					></tr
				></thead
			>
		</table>
		<div class="max-h-32 overflow-auto">
			<table class="figure w-full text-small">
				<tbody>
					{#each runs.slice(0, 200) as { from, to, cells } (from)}
						<tr class="hover:bg-wash/60">
							<td
								><button
									class="text-left hover:text-patina"
									title="Choose the cells of {from === to ? 'this row' : 'these rows'}"
									onclick={() => selectRows(from, to)}>{from === to ? from : `${from} to ${to}`}</button
								></td
							>
							<td class="text-right">{group(cells, 0)}</td>
						</tr>
					{/each}
				</tbody>
			</table>
			{#if runs.length > 200}<p class="text-small text-soft">and {group(runs.length - 200, 0)} more</p>{/if}
		</div>
		<p class="figure mt-1 border-t border-rule text-right text-small" data-testid="cell-total">
			{group(view.cellCount, 0)} cells
		</p>
	{/if}
</section>
