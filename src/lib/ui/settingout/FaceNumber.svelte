<script lang="ts">
	import { FaceEdit } from '$lib/editor/faceEdit.ts';
	import type { Path } from '$lib/editor/paths.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import type { Quantity } from '$core/units/quantity.ts';
	import NumberField from '../NumberField.svelte';

	interface Props {
		path: Path;
		label: string;
		quantity: Quantity;
		help?: string;
		step?: number;
	}

	let { path, label, quantity, help, step }: Props = $props();

	const work = useWorkspace();
	const edit = new FaceEdit(work, () => path, () => label);
</script>

<NumberField
	{label}
	{help}
	{quantity}
	{step}
	value={(edit.value as number | undefined) ?? 0}
	unit={work.project.units}
	onpreview={edit.preview}
	oncommit={edit.commit}
	onrevert={edit.revert}
/>
