<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { removeMass } from '$lib/editor/masses.ts';
	import { addSection } from '$lib/editor/sections.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import type { LoftSection } from '$core/mass/loft.ts';
	import type { Quantity } from '$core/units/quantity.ts';
	import NumberField from '../NumberField.svelte';
	import TextField from '../TextField.svelte';
	import SectionSketch from './SectionSketch.svelte';

	const work = useWorkspace();
	const mass = $derived(work.current!.mass);
	const shape = $derived(mass.shape);
	let chosen = $state(0);
	const k = $derived(Math.min(chosen, shape.sections.length - 1));
	const section = $derived(shape.sections[k]!);
	const inner = $derived(k > 0 && k < shape.sections.length - 1);

	const FIELDS: { name: keyof LoftSection; label: string; quantity: Quantity; help: string }[] = [
		{ name: 'span', label: 'Span', quantity: 'length', help: 'Between the two feet' },
		{ name: 'rise', label: 'Rise', quantity: 'length', help: 'Crown above the line between the feet' },
		{ name: 'lean', label: 'Lean', quantity: 'length', help: 'Sideways shift of the crown' },
		{ name: 'shift', label: 'Shift', quantity: 'length', help: 'Sideways shift of the whole section' },
		{ name: 'startHeight', label: 'Start height', quantity: 'length', help: 'First foot above the ground' },
		{ name: 'endHeight', label: 'End height', quantity: 'length', help: 'Second foot above the ground' }
	];

	const setSection = (name: keyof LoftSection, value: number) =>
		work.onMass((m) => (m.shape.sections[k]![name] = value));
	const setLength = (value: number) => work.onMass((m) => (m.shape.length = value));

	function add() {
		let at = k;
		work.editor.commit(
			'Add section',
			work.onMass((m) => (at = addSection(m.shape.sections, k)))
		);
		chosen = at;
	}
</script>

<TextField
	label="Name"
	value={mass.name}
	oncommit={(name) => work.editor.commit('Rename mass', work.onMass((m) => (m.name = name)))}
/>
<NumberField
	label="Length"
	help="From the first section to the last"
	value={shape.length}
	quantity="length"
	unit={work.project.units}
	step={100}
	onpreview={(v) => work.editor.preview(setLength(v))}
	oncommit={(v) => work.editor.commit('Change length', setLength(v))}
	onrevert={() => work.editor.revert()}
/>

<div class="mt-3 mb-1 flex items-center justify-between">
	<h3 class="heading">Sections along the loft</h3>
	<span class="flex gap-1">
		<button class="rounded p-1 text-soft hover:text-patina" title="Add a section after this one" aria-label="Add a section" onclick={add}>
			<Plus size={14} />
		</button>
		<button
			class="rounded p-1 text-soft enabled:hover:text-rust disabled:opacity-40"
			title={inner ? 'Remove this section' : 'The first and the last section stay'}
			aria-label="Remove this section"
			disabled={!inner}
			onclick={() =>
				work.editor.commit('Remove section', work.onMass((m) => m.shape.sections.splice(k, 1)))}
		>
			<Trash2 size={14} />
		</button>
	</span>
</div>
<div class="flex flex-wrap gap-1" role="group" aria-label="Sections">
	{#each shape.sections as _, s (s)}
		<button
			class="figure min-w-8 rounded border px-2 py-0.5 {s === k
				? 'border-patina bg-wash font-semibold'
				: 'border-control bg-paper'}"
			aria-pressed={s === k}
			onclick={() => (chosen = s)}>{s + 1}</button
		>
	{/each}
</div>
<SectionSketch {section} all={shape.sections} unit={work.project.units} />
{#if inner}
	<NumberField
		label="Place"
		help="Share of the length from the first section"
		value={section.at}
		quantity="ratio"
		unit={work.project.units}
		onpreview={(v) => work.editor.preview(setSection('at', v))}
		oncommit={(v) => work.editor.commit('Move section', setSection('at', v))}
		onrevert={() => work.editor.revert()}
	/>
{/if}
{#each FIELDS as { name, label, quantity, help } (name)}
	<NumberField
		{label}
		{help}
		{quantity}
		value={section[name]}
		unit={work.project.units}
		step={100}
		onpreview={(v) => work.editor.preview(setSection(name, v))}
		oncommit={(v) => work.editor.commit(`Change ${label.toLowerCase()} of section ${k + 1}`, setSection(name, v))}
		onrevert={() => work.editor.revert()}
	/>
{/each}
<button
	class="button mt-3 text-rust"
	onclick={() => work.editor.commit(`Remove ${mass.name}`, (draft) => removeMass(draft, mass.id))}
>
	<Trash2 size={14} />Remove this mass
</button>
