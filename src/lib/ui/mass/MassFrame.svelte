<script lang="ts">
	import ChevronRight from '@lucide/svelte/icons/chevron-right';
	import { arrayMass } from '$lib/editor/masses.ts';
	import { useEditing } from '$lib/editor/context.ts';
	import type { Frame } from '$core/mass/frame.ts';
	import NumberField from '../NumberField.svelte';

	const work = useEditing();
	const mass = $derived(work.face.current!.mass);
	const m = $derived(work.face.current!.m);
	const unit = $derived(work.project.units);

	const FIELDS = [
		{ name: 'x', label: 'East', quantity: 'length', help: 'Of the mass’s own origin' },
		{ name: 'y', label: 'North', quantity: 'length', help: 'Of the mass’s own origin' },
		{
			name: 'z',
			label: 'Ground',
			quantity: 'length',
			help: 'Height of the mass’s own ground; what hangs on a level stays there'
		},
		{ name: 'turn', label: 'Turn', quantity: 'angle', help: 'Anticlockwise seen from above' }
	] as const;
	const set = (name: keyof Frame, value: number | boolean) =>
		work.face.onMass((m) => Object.assign(m.frame, { [name]: value }));

	const around = $state({ count: 4, x: 0, y: 0 });
	let error = $state<string>();
	const ARRAY = [
		{ name: 'count', label: 'How many', quantity: 'count', help: 'In all, evenly around' },
		{ name: 'x', label: 'Axis east', quantity: 'length', help: 'Where the axis stands' },
		{ name: 'y', label: 'Axis north', quantity: 'length', help: 'Where the axis stands' }
	] as const;
	function check(name: 'count' | 'x' | 'y', value: number) {
		if (name === 'count' && (value < 2 || value > 100)) return 'Right would be 2 to 100.';
		around[name] = value;
	}
</script>

<details class="group mt-3">
	<summary class="heading flex list-none items-center gap-1">
		<ChevronRight size={12} class="group-open:rotate-90" />Position
	</summary>
	{#each FIELDS as { name, label, quantity, help } (name)}
		<NumberField
			{label}
			{help}
			{quantity}
			{unit}
			step={quantity === 'length' ? 100 : undefined}
			value={mass.frame[name]}
			onpreview={(v) => work.editor.preview(set(name, v))}
			oncommit={(v) => work.editor.commit(`Move ${mass.name}`, set(name, v))}
			onrevert={() => work.editor.revert()}
		/>
	{/each}
	<label class="my-1 flex items-center gap-2" title="East and west of the mass change over; its outside stays outside">
		<input
			type="checkbox"
			class="accent-patina"
			checked={mass.frame.mirrored}
			onchange={(e) => work.editor.apply(`Mirror ${mass.name}`, set('mirrored', e.currentTarget.checked))}
		/>
		Mirrored
	</label>
</details>
<details class="group mt-2">
	<summary class="heading flex list-none items-center gap-1">
		<ChevronRight size={12} class="group-open:rotate-90" />Array around an axis
	</summary>
	{#each ARRAY as { name, label, quantity, help } (name)}
		<NumberField
			{label}
			{help}
			{quantity}
			{unit}
			value={around[name]}
			onpreview={(v) => check(name, v)}
			oncommit={(v) => check(name, v)}
			onrevert={() => undefined}
		/>
	{/each}
	<button
		class="button mt-1"
		onclick={() =>
			(error = work.editor.commit(`Array ${mass.name}`, (draft) =>
				arrayMass(draft, m, around.count, around.x, around.y)
			))}
	>
		Make {around.count - 1} copies
	</button>
	{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</details>
