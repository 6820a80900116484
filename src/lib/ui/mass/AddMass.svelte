<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import { DropdownMenu } from 'bits-ui';
	import { NEW_KINDS } from '$lib/editor/masses.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { kindOf } from '$core/mass/shapes.ts';

	/** A button with words instead of the small plus. */
	let { wide = false }: { wide?: boolean } = $props();

	const work = useWorkspace();
</script>

<DropdownMenu.Root>
	<DropdownMenu.Trigger
		class={wide ? 'button' : 'rounded p-1 text-soft hover:text-patina'}
		title="Add a mass"
		aria-label="Add a mass"
	>
		<Plus size={14} />{#if wide}Add a mass{/if}
	</DropdownMenu.Trigger>
	<DropdownMenu.Portal>
		<DropdownMenu.Content
			class="z-40 max-h-[80vh] w-80 overflow-auto rounded-md border border-rule bg-sheet p-1.5 text-base text-ink shadow-lg"
			align="start"
			sideOffset={4}
		>
			{#each NEW_KINDS as kind (kind)}
				{@const { label, help } = kindOf({ kind })}
				<DropdownMenu.Item
					class="cursor-pointer rounded px-2 py-1 data-highlighted:bg-wash"
					onSelect={() => work.addMass(kind)}
				>
					<span class="font-semibold">{label}</span>
					<span class="block text-small text-soft">{help}</span>
				</DropdownMenu.Item>
			{/each}
			<DropdownMenu.Separator class="my-1 border-t border-rule" />
			<DropdownMenu.Item
				class="cursor-pointer rounded px-2 py-1 data-highlighted:bg-wash"
				onSelect={() => work.bringIn()}
			>
				<span class="font-semibold">From a file</span>
				<span class="block text-small text-soft"
					>STEP, IGES, BREP, IFC, OBJ, STL, GLB, PLY; or as reference geometry</span
				>
			</DropdownMenu.Item>
		</DropdownMenu.Content>
	</DropdownMenu.Portal>
</DropdownMenu.Root>
