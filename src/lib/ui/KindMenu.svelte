<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import { DropdownMenu } from 'bits-ui';

	interface Props {
		/** What the button does, such as "Add a field". */
		label: string;
		/** What is chosen from. */
		list: string;
		kinds: readonly (readonly [kind: string, label: string])[];
		onchoose: (kind: string) => void;
	}
	let { label, list, kinds, onchoose }: Props = $props();
</script>

<DropdownMenu.Root>
	<DropdownMenu.Trigger class="rounded p-1 text-soft hover:text-patina" aria-label={label} title={label}
		><Plus size={14} /></DropdownMenu.Trigger
	>
	<DropdownMenu.Portal>
		<DropdownMenu.Content
			align="end"
			sideOffset={4}
			class="z-40 rounded-md border border-rule bg-sheet p-1 text-ink shadow-lg"
			aria-label={list}
		>
			{#each kinds as [kind, text] (kind)}
				<DropdownMenu.Item
					class="cursor-pointer rounded px-2 py-0.5 data-highlighted:bg-wash"
					onSelect={() => onchoose(kind)}>{text}</DropdownMenu.Item
				>
			{/each}
		</DropdownMenu.Content>
	</DropdownMenu.Portal>
</DropdownMenu.Root>
