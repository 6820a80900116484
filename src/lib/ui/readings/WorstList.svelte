<script lang="ts">
	import { cellsOfHosts, hostMarks } from '$lib/editor/hosts.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { extremes } from '$core/readings/spread.ts';
	import { printFull } from '$core/units/print.ts';

	const MOST = 24;
	const work = useWorkspace();
	const readings = work.readings;
	const host = $derived(readings.reading.host);
	const list = $derived.by(() => {
		const found = extremes(
			readings.faces.map((f) => f.values),
			MOST,
			readings.greatestFirst
		);
		const marks = new Map(
			readings.faces.map(({ face }, column) => {
				const hosts = found.filter((e) => e.column === column).map((e) => e.host);
				const all = hosts.length ? hostMarks(face, host, hosts) : [];
				return [column, new Map(hosts.map((h, k) => [h, all[k]!]))] as const;
			})
		);
		return found.map(({ column, host: h }) => ({
			...readings.faces[column]!,
			host: h,
			mark: marks.get(column)!.get(h)!,
			value: readings.faces[column]!.values[h]!
		}));
	});
	type Entry = (typeof list)[number];
	const cellsOf = ({ index, face, host: h }: Entry) =>
		cellsOfHosts(face, host, [h]).map((cell) => ({ face: index, cell }));

	function choose(entry: Entry, add: boolean) {
		const view = work.runner.view;
		if (!view) return;
		work.selection.chooseAll(view, cellsOf(entry), add);
		const [first] = work.selection.addresses(view).slice(-1);
		if (first) work.space?.reveal(first);
	}
</script>

<div class="flex items-center gap-1 text-small text-soft">
	<label class="flex items-center gap-1.5"
		>The
		<select class="rounded border border-control bg-paper py-px text-small" bind:value={readings.greatestFirst}>
			<option value={true}>greatest</option>
			<option value={false}>least</option>
		</select>
	</label>
	of all
</div>
<ol class="mt-1 min-h-0 grow overflow-auto text-small" data-testid="worst">
	{#each list as entry (entry.mark)}
		<li>
			<button
				class="flex w-full justify-between gap-2 rounded px-1 hover:bg-wash"
				title={host === 'cell' ? 'Choose this cell' : `Choose the cells at this ${host}`}
				onclick={(e) => choose(entry, e.shiftKey)}
				onpointerenter={() => (work.selection.hovered = cellsOf(entry)[0])}
				onpointerleave={() => (work.selection.hovered = undefined)}
			>
				<span class="figure truncate">{entry.mark}</span><span class="figure shrink-0"
					>{readings.scale.kinds?.[entry.value] ??
						printFull(entry.value, readings.reading.quantity, work.project.units)}</span
				>
			</button>
		</li>
	{/each}
</ol>
