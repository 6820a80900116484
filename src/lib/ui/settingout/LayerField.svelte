<script lang="ts">
	import { useWorkspace } from '$lib/editor/context.ts';
	import FieldRange from '../FieldRange.svelte';
	import PathChoice from '../PathChoice.svelte';
	import PathNumber from '../PathNumber.svelte';

	const work = useWorkspace();
	const layer = $derived(work.face.current!.face.settingOut.layer);
	const fields = $derived(work.project.fields);
</script>

{#if fields.length || typeof layer !== 'number'}
	<PathChoice
		of="face"
		path={['settingOut', 'layer']}
		label="Layer is"
		help="Distance of the second layer: one, or from node to node"
		options={[
			[typeof layer === 'number' ? layer : layer.from, 'the same everywhere'],
			[
				typeof layer === 'number' ? { kind: 'field', field: fields[0]!.id, from: layer, to: layer || 500 } : layer,
				'by a field'
			]
		]}
	/>
{/if}
{#if typeof layer === 'number'}
	<PathNumber
		of="face"
		path={['settingOut', 'layer']}
		label="Second layer"
		quantity="length"
		help="Distance of a second layer outside (or, below 0, inside), so that cells become boxes; 0 for none"
	/>
{:else}
	<FieldRange path={['settingOut', 'layer']} quantity="length" what="Distance" />
{/if}
