<script lang="ts">
	import { Command, Dialog } from 'bits-ui';
	import { commandForKey, commandsOf } from '$lib/editor/commands.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	let { open = $bindable(false) }: { open?: boolean } = $props();

	const work = useWorkspace();
	const sections = $derived(Object.entries(Object.groupBy(commandsOf(work), (c) => c.section)));

	function onkeydown(event: KeyboardEvent) {
		if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
			event.preventDefault();
			open = !open;
			return;
		}
		const target = event.target as HTMLElement;
		const typing = target.closest('input, textarea, select, [contenteditable]');
		if (open || event.defaultPrevented || (typing && !event.ctrlKey && !event.metaKey)) return;
		const command = commandForKey(work, event);
		if (!command) return;
		event.preventDefault();
		// A figure being typed is taken before it is undone.
		if (typing) (target as HTMLInputElement).blur();
		command.run();
	}
</script>

<svelte:window {onkeydown} />

<Dialog.Root bind:open>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-40 bg-ink/20" />
		<Dialog.Content
			class="fixed top-24 left-1/2 z-50 w-[420px] -translate-x-1/2 rounded-md border border-rule bg-sheet text-ink shadow-xl"
		>
			<Dialog.Title class="sr-only">Commands</Dialog.Title>
			<Command.Root label="Commands">
				<Command.Input
					class="w-full border-b border-rule bg-transparent px-3.5 py-2.5 outline-none"
					placeholder="Search commands"
				/>
				<Command.List class="max-h-80 overflow-auto p-1.5">
					<Command.Empty class="px-2 py-3 text-soft">No command has this name.</Command.Empty>
					{#each sections as [section, commands] (section)}
						<Command.Group value={section}>
							<Command.GroupHeading class="heading px-2 pt-2 pb-1">{section}</Command.GroupHeading>
							<Command.GroupItems>
								{#each commands ?? [] as command (command.label)}
									<Command.Item
										value="{section} {command.label}"
										class="flex rounded px-2 py-1 data-selected:bg-wash"
										onSelect={() => {
											open = false;
											command.run();
										}}
									>
										{command.label}
										{#if command.keys}<kbd class="figure ml-auto text-small text-soft">{command.keys}</kbd>{/if}
									</Command.Item>
								{/each}
							</Command.GroupItems>
						</Command.Group>
					{/each}
				</Command.List>
			</Command.Root>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
