<script lang="ts">
	import { faceKey, type Face } from '$core/project/schema.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	const work = useWorkspace();
	const current = $derived(work.face.current!);
	const keys = $derived(work.face.all);
	const faces = $derived(work.project.masses.flatMap((m) => m.faces.filter((f) => keys.includes(faceKey(m, f)))));
	const PARTS = {
		'setting-out': [
			['the division across', (f: Face) => f.settingOut.across],
			['the division up', (f: Face) => f.settingOut.up],
			['borders', (f: Face) => f.borders]
		],
		tiling: [
			['the tiling', (f: Face) => f.tiling],
			['how marks are written', (f: Face) => f.marks],
			['the order', (f: Face) => f.order]
		],
		placement: []
	} as const;
	/** What of this place is not the same on all of them. */
	const differs = $derived(
		(PARTS[work.place as keyof typeof PARTS] ?? [])
			.filter(([, part]) => new Set(faces.map((f) => JSON.stringify(part(f)))).size > 1)
			.map(([name]) => name)
	);
	let error = $state<string>();

	/** Gives the others what this face has of this place; openings and marks stay each face's own. */
	function copy() {
		const { settingOut, borders, tiling, marks, order } = $state.snapshot(current.face) as Face;
		const parts = work.place === 'tiling' ? { tiling, marks, order } : { settingOut, borders };
		error = work.editor.commit(
			work.place === 'tiling' ? 'Copy the tiling to other faces' : 'Copy the division to other faces',
			work.face.onFaces((face) => void Object.assign(face, structuredClone(parts)))
		);
	}
</script>

<div class="mb-2 rounded border border-patina bg-wash/50 px-2.5 py-1.5 text-small" role="status">
	<p>
		<strong>{keys.length} faces</strong> are chosen; those of {current.face.name} are shown, and what is changed here is changed
		on all.
		{#if work.place === 'placement'}New rules stand on all of them.{/if}
		{#if differs.length}They differ in {differs.join(' and ')}.{/if}
	</p>
	{#if differs.length}
		<button class="text-patina underline" onclick={copy}>Make all like {current.face.name}</button>
	{/if}
	<button class="ml-2 text-soft underline" onclick={() => (work.face.chosen = current.key)}>This face alone</button>
	{#if error}<p class="whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
