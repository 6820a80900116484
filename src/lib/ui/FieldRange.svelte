<script lang="ts">
	import type { Quantity } from '$core/units/quantity.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { Path } from '$lib/editor/paths.ts';
	import PathChoice from './PathChoice.svelte';
	import PathNumber from './PathNumber.svelte';

	interface Props {
		/** Of something on the chosen face that goes from one value to another by a field. */
		path: Path;
		quantity: Quantity;
		/** What the two values are. */
		what: string;
		/** Which fields do not do. */
		note?: string;
	}
	let { path, quantity, what, note = '' }: Props = $props();

	const fields = $derived(useWorkspace().project.fields);
	const ENDS = [
		['from', 'least'],
		['to', 'greatest']
	] as const;
</script>

<PathChoice
	of="face"
	path={[...path, 'field']}
	label="Field"
	help="Fields are made under Placement{note}"
	options={fields.map(({ id, name }) => [id, name] as const)}
/>
{#each ENDS as [end, word] (end)}
	<PathNumber of="face" path={[...path, end]} label="Where {word}" {quantity} help="{what} where the field is {word}" />
{/each}
