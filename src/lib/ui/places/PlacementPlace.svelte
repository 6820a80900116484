<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Plus from '@lucide/svelte/icons/plus';
	import { SET_HOSTS, type RuleSet } from '$core/placement/rules/schema.ts';
	import { addSet } from '$lib/editor/placement.ts';
	import { HOST_KINDS } from '$lib/editor/kits.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import FieldsPanel from '../placement/FieldsPanel.svelte';
	import HandPanel from '../placement/HandPanel.svelte';
	import NumbersPanel from '../placement/NumbersPanel.svelte';
	import PathsPanel from '../placement/PathsPanel.svelte';
	import RuleSetList from '../placement/RuleSetList.svelte';

	const work = useWorkspace();
	const add = (host: RuleSet['host']) => work.editor.apply('Add a set', (draft) => void addSet(draft, host));
</script>

{#each work.project.sets as set (set.id)}
	<RuleSetList {set} />
{/each}
<DropdownMenu.Root>
	<DropdownMenu.Trigger
		class="mt-2 flex items-center gap-0.5 text-small text-soft hover:text-patina"
		title="Rules of another set add to what stands there, such as a shade over a pane"
		><Plus size={12} />Set of rules</DropdownMenu.Trigger
	>
	<DropdownMenu.Portal>
		<DropdownMenu.Content class="z-40 rounded-md border border-rule bg-sheet p-1 text-ink shadow-lg" sideOffset={4}>
			{#each SET_HOSTS as host (host)}
				<DropdownMenu.Item
					class="cursor-pointer rounded px-2 py-0.5 data-highlighted:bg-wash"
					onSelect={() => add(host)}>on {HOST_KINDS[host].toLowerCase()}s</DropdownMenu.Item
				>
			{/each}
		</DropdownMenu.Content>
	</DropdownMenu.Portal>
</DropdownMenu.Root>
<PathsPanel />
<HandPanel />
<FieldsPanel />
<NumbersPanel />
