<script lang="ts">
	import PencilLine from '@lucide/svelte/icons/pencil-line';
	import type { Path } from '$lib/editor/paths.ts';
	import { drawnFrom, PROFILE_PRESETS, profileSketch } from '$lib/editor/profiles.ts';
	import { PathEdit } from '$lib/editor/pathEdit.ts';
	import type { DrawingPlane, FormItem } from '$lib/editor/shapeForm.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { Profile } from '$core/mass/profile.ts';
	import ShapeForm from './ShapeForm.svelte';

	interface Props {
		path: Path;
		label: string;
		plane: DrawingPlane;
		/** Only closed lines make sense here. */
		closed?: boolean;
	}

	let { path, label, plane, closed = false }: Props = $props();

	const work = useWorkspace();
	const edit = new PathEdit(
		'shape',
		work,
		() => path,
		() => label
	);
	const profile = $derived(edit.value as Profile);
	const sketch = $derived(profileSketch(profile, 228, 84));
	const drawing = $derived(
		work.drawing?.path.join() === path.join() && work.drawing?.mass === work.face.current?.mass.id
	);
	const id = $props.id();
	let error = $state<string>();

	const KINDS: Record<Profile['kind'], string> = {
		circle: 'Circle',
		ellipse: 'Ellipse',
		rectangle: 'Rectangle',
		polygon: 'Polygon',
		drawn: 'Drawn line'
	};
	const length = (name: string, label: string, help: string): FormItem => ({
		kind: 'number',
		path: [name],
		label,
		quantity: 'length',
		help,
		step: 100
	});
	const rounding = length('rounding', 'Rounding', 'Radius at the corners; 0 keeps them sharp');
	const ITEMS: Record<Profile['kind'], FormItem[]> = {
		circle: [length('radius', 'Radius', 'Of the circle')],
		ellipse: [
			length('radiusX', 'Half width', 'Along the first axis'),
			length('radiusY', 'Half depth', 'Along the second axis')
		],
		rectangle: [
			length('width', 'Width', 'Along the first axis'),
			length('depth', 'Depth', 'Along the second axis'),
			rounding
		],
		polygon: [
			{ kind: 'number', path: ['sides'], label: 'Sides', quantity: 'count', help: 'How many sides' },
			length('radius', 'Radius', 'From the middle to a corner'),
			rounding
		],
		drawn: [rounding]
	};
	/** A drawn line takes over the points of what was there. */
	const setKind = (kind: Profile['kind']) =>
		(error = edit.commit(kind === 'drawn' ? drawnFrom(profile) : PROFILE_PRESETS[kind]));
	const draw = () => {
		if (profile.kind !== 'drawn') error = setKind('drawn');
		if (!error) work.drawing = { mass: work.face.current!.mass.id, path, plane, label, closed };
	};
</script>

<h3 class="heading mt-3">{label}</h3>
<div class="my-1.5 grid grid-cols-[1fr_auto] gap-1.5">
	<select
		{id}
		class="field"
		value={profile.kind}
		aria-label="{label}: kind"
		onchange={(e) => setKind(e.currentTarget.value as Profile['kind'])}
	>
		{#each Object.entries(KINDS) as [kind, name] (kind)}<option value={kind}>{name}</option>{/each}
	</select>
	<button
		class="button"
		aria-pressed={drawing}
		title="Draw and edit the line point by point"
		onclick={() => (drawing ? (work.drawing = undefined) : draw())}
	>
		<PencilLine size={13} />{drawing ? 'Close' : 'Draw'}
	</button>
</div>
<button
	class="block w-full cursor-pointer rounded border border-rule bg-paper"
	aria-label="Draw {label.toLowerCase()}"
	onclick={draw}
>
	<svg
		viewBox="0 0 228 84"
		class="w-full"
		role="img"
		aria-label={sketch ? `${KINDS[profile.kind]}, to scale` : 'No line'}
	>
		{#if sketch}<path
				d={sketch}
				fill={profile.kind === 'drawn' && !profile.closed ? 'none' : 'var(--wash)'}
				stroke="var(--patina)"
				stroke-width="1.5"
			/>{/if}
	</svg>
</button>
{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
<ShapeForm items={profile.kind === 'drawn' && !profile.closed ? [] : ITEMS[profile.kind]} base={path} />
