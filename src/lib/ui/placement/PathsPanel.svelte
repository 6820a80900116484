<script lang="ts">
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { group, printFull } from '$core/units/print.ts';
	import {
		addPath,
		newPathSource,
		PATH_LABELS,
		removePath,
		type PathKind,
		type PathStart
	} from '$lib/editor/drawnPaths.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import KindMenu from '../KindMenu.svelte';
	import PathForm from './PathForm.svelte';

	const work = useWorkspace();
	const { placement } = work;
	const key = $derived(work.face.current!.key);
	const paths = $derived(work.project.paths.filter((p) => p.face === key));
	const drawn = $derived(work.face.view?.drawn);
	let error = $state<string>();

	/** Paths are metres long; in feet they stay what they are. */
	const printLong = (mm: number) =>
		work.project.units === 'ft-in' ? printFull(mm, 'length', 'ft-in') : `${group(mm / 1000, 1)} m`;
	/** Copies of a path, points of one and length of all, as far as the model has them. */
	function told(id: string): string {
		const own = drawn?.ids.flatMap((d, k) => (d === id ? [k] : [])) ?? [];
		if (!drawn || !own.length) return 'not drawn';
		const points = drawn.start[own[0]! + 1]! - drawn.start[own[0]!]!;
		const length = own.reduce((sum, k) => sum + drawn.lengths[k]!, 0);
		const copies = own.length > 1 ? `${group(own.length, 0)} × ` : '';
		return `${copies}${group(points, 0)} points, ${printLong(length)}`;
	}
	/** The middle of the face, and a quarter of its size, to begin at. */
	async function middle(): Promise<PathStart> {
		const flat = await work.runner.ask((api) => api.flat(key));
		const [x0, y0, x1, y1] = flat?.bounds ?? [0, 0, 4000, 4000];
		const [x, y] = [Math.round((x0 + x1) / 2), Math.round((y0 + y1) / 2)];
		const at = await work.runner.ask((api) => api.onFace(key, x, y));
		return {
			flat: [x, y],
			space: at ? [Math.round(at[0]), Math.round(at[1]), Math.round(at[2])] : [0, 0, 0],
			size: Math.max(100, Math.round(Math.min(x1 - x0, y1 - y0) / 4))
		};
	}
	async function add(kind: PathKind) {
		const [start, face] = [await middle(), key];
		let id = '';
		error = work.editor.commit('Add a path', (draft) => (id = addPath(draft, face, newPathSource(kind, start))));
		if (!error) placement.path = id;
	}
</script>

<section class="mt-4 border-t border-rule pt-2" aria-labelledby="paths-heading">
	<div class="flex items-center justify-between">
		<h3 id="paths-heading" class="heading" title="Chains of points of your own, which kits for paths stand on">
			Paths on this face
		</h3>
		<KindMenu
			label="Add a path"
			list="Kinds of paths"
			kinds={Object.entries(PATH_LABELS)}
			onchoose={(kind) => void add(kind as PathKind)}
		/>
	</div>
	{#if paths.length === 0}
		<p class="text-small text-soft">
			None yet. Ribs, cables and rails run along paths: through nodes, the shortest way, a plane’s cut or a curve.
		</p>
	{/if}
	<ul class="-mx-1.5">
		{#each paths as path (path.id)}
			{@const open = placement.path === path.id}
			<li class={open ? 'bg-wash/60' : ''}>
				<div class="group flex items-baseline gap-1.5 px-1.5 py-0.5 hover:bg-wash/50">
					<button
						class="min-w-0 grow truncate text-left"
						aria-expanded={open}
						onclick={() => (placement.path = open ? undefined : path.id)}
						>{path.name} <span class="figure text-small text-soft">{path.mark}</span></button
					>
					<span class="figure shrink-0 text-small text-soft">{told(path.id)}</span>
					<button
						class="self-center text-soft opacity-0 group-hover:opacity-100 hover:text-rust focus-visible:opacity-100"
						aria-label="Remove {path.name}"
						title="Remove, with rules that stand on it alone"
						onclick={() => (error = work.editor.commit('Remove a path', (draft) => removePath(draft, path.id)))}
						><Trash2 size={12} /></button
					>
				</div>
				{#if open}<PathForm {path} />{/if}
			</li>
		{/each}
	</ul>
	{#if error}<p class="text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</section>
