<script lang="ts">
	import type { Path } from '$lib/editor/paths.ts';
	import { PathEdit, type PathRoot } from '$lib/editor/pathEdit.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { Quantity } from '$core/units/quantity.ts';
	import NumberField from './NumberField.svelte';

	interface Props {
		/** What the path starts from. */
		of: PathRoot;
		path: Path;
		label: string;
		quantity: Quantity;
		help?: string;
		step?: number;
	}

	let { of, path, label, quantity, help, step }: Props = $props();

	const work = useWorkspace();
	// A field does not change what it is of.
	// svelte-ignore state_referenced_locally
	const edit = new PathEdit(
		of,
		work,
		() => path,
		() => label
	);
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
