<script lang="ts">
	import type { MapPlace } from '$core/project/handover.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import TextField from '../TextField.svelte';

	/** Where the project is on a map, for building models. */
	const work = useWorkspace();
	const place = $derived(work.project.handover.place);
	const edit = (change: (place: MapPlace) => void) =>
		work.editor.commit('Change the place on the map', (draft) => {
			change((draft.handover.place ??= { crs: 'EPSG:25832', eastings: 0, northings: 0, height: 0, turn: 0 }));
		});
	const DEGREE = Math.PI / 180;
	/** Takes a number in words; answers what is wrong with it. */
	function take(text: string, change: (place: MapPlace, value: number) => void): string | undefined {
		const value = Number(text.replace(',', '.'));
		return text === '' || !Number.isFinite(value) ? `“${text}” is no number.` : edit((p) => change(p, value));
	}
	function remove() {
		work.editor.apply('Take the project off the map', (draft) => void Reflect.deleteProperty(draft.handover, 'place'));
	}
	const rounded = (value: number) => String(Math.round(value * 1e6) / 1e6);
</script>

<section class="mb-1 text-small" aria-label="Place on the map">
	<label class="flex items-center gap-1.5" title="Building models say where their origin is on a map"
		><input
			type="checkbox"
			class="accent-patina"
			checked={place !== undefined}
			onchange={(e) => (e.currentTarget.checked ? edit(() => undefined) : remove())}
		/>IFC with its place on the map</label
	>
	{#if place}
		<TextField
			label="Reference"
			help="The map’s coordinate reference system, by its EPSG number"
			value={place.crs}
			oncommit={(crs) => edit((p) => (p.crs = crs))}
		/>
		<TextField
			label="Eastings m"
			help="Of the origin"
			value={rounded(place.eastings)}
			oncommit={(text) => take(text, (p, v) => (p.eastings = v))}
		/>
		<TextField
			label="Northings m"
			help="Of the origin"
			value={rounded(place.northings)}
			oncommit={(text) => take(text, (p, v) => (p.northings = v))}
		/>
		<TextField
			label="Height m"
			help="Of the origin above the map’s datum"
			value={rounded(place.height)}
			oncommit={(text) => take(text, (p, v) => (p.height = v))}
		/>
		<TextField
			label="Turned °"
			help="From the map’s north to the project’s, which is along y, clockwise"
			value={rounded(place.turn / DEGREE)}
			oncommit={(text) => take(text, (p, v) => (p.turn = v * DEGREE))}
		/>
	{/if}
</section>
