<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { Popover } from 'bits-ui';
	import { messageOf } from '$core/errors.ts';
	import { STARTER_KITS } from '$core/kit/starters/index.ts';
	import type { KitHost } from '$core/kit/schema.ts';
	import { setHostOf } from '$core/placement/rules/ruleHosts.ts';
	import type { RuleSet } from '$core/placement/rules/schema.ts';
	import type { KitFile } from '$core/project/kitFile.ts';
	import { dropKept, listKept, loadKept, type KeptKit } from '$lib/editor/kitLibrary.ts';
	import { HOST_KINDS, kitAsFile, newKit } from '$lib/editor/kits.ts';
	import { useEditing } from '$lib/editor/context.ts';
	import KitPicture from './KitPicture.svelte';

	interface Props {
		ontake: (file: KitFile) => void;
		onnew: (id: string) => void;
		/** Kits that stand on these hosts only. */
		host?: RuleSet['host'];
		label?: string;
	}
	let { ontake, onnew, host, label: trigger }: Props = $props();
	const fits = (kind: KitHost['kind']) => host === undefined || setHostOf({ kind }) === host;

	const work = useEditing();
	let open = $state(false);
	let kept = $state.raw<readonly KeptKit[]>();
	let error = $state<string>();

	async function attempt(action: () => Promise<unknown>) {
		error = undefined;
		try {
			await action();
		} catch (cause) {
			error = messageOf(cause);
		}
	}
	const refresh = () => attempt(async () => (kept = await listKept()));

	function make(kind: KitHost['kind']) {
		open = false;
		let id = '';
		const fault = work.editor.commit(
			`New ${HOST_KINDS[kind].toLowerCase()} kit`,
			(draft) => (id = newKit(draft, kind))
		);
		if (fault) error = fault;
		else onnew(id);
	}
	const GROUPS = [
		['On cells', ['cell', 'box']],
		['On edges, nodes, paths and bays', ['edge', 'node', 'path', 'bay']]
	] as const;
</script>

<Popover.Root bind:open onOpenChange={(o) => o && void refresh()}>
	<Popover.Trigger
		class={trigger ? 'text-patina hover:underline' : 'button text-small'}
		title="Starters, your library, or a new kit"
		>{#if trigger}{trigger}{:else}<Plus size={13} />Add kit{/if}</Popover.Trigger
	>
	<Popover.Portal>
		<Popover.Content
			side="right"
			align="start"
			sideOffset={8}
			collisionPadding={8}
			class="z-40 max-h-[calc(100vh-70px)] w-[700px] overflow-auto rounded-md border border-rule bg-sheet p-3 text-ink shadow-lg"
			aria-label="Kits to add"
		>
			<div class="mb-2 flex flex-wrap items-center gap-1.5 text-small">
				<span class="text-soft">New, from nothing, for a</span>
				{#each Object.entries(HOST_KINDS).filter(([kind]) => fits(kind as 'cell')) as [kind, label] (kind)}<button
						class="button"
						onclick={() => make(kind as 'cell')}>{label.toLowerCase()}</button
					>{/each}
			</div>
			{#each GROUPS.filter(([, kinds]) => kinds.some(fits)) as [label, kinds] (label)}
				<h4 class="heading mt-2 mb-1">Starters {label.toLowerCase()}</h4>
				<div class="flex flex-wrap gap-1">
					{#each STARTER_KITS.filter((k) => (kinds as readonly string[]).includes(k.host.kind) && fits(k.host.kind)) as starter (starter.id)}
						<button
							class="flex w-[106px] flex-col items-center gap-0.5 rounded border border-transparent p-1 text-center text-least leading-tight hover:border-control"
							title={starter.help}
							onclick={() => ((open = false), ontake(kitAsFile(starter)))}
						>
							<KitPicture kit={starter} size={72} weighed />
							<span>{starter.name}</span>
						</button>
					{/each}
				</div>
			{/each}
			<h4 class="heading mt-2 mb-1">Your library</h4>
			{#if error}<p class="text-small text-rust" role="alert">{error}</p>{/if}
			{#if kept?.length}
				<ul class="text-small">
					{#each kept as { id, name } (id)}
						<li class="flex items-center gap-2 py-px">
							<button
								class="text-patina underline"
								onclick={() => attempt(async () => (ontake(await loadKept(id)), (open = false)))}>{name}</button
							>
							<button
								class="text-soft hover:text-rust"
								aria-label="Remove {name} from your library"
								title="Remove from your library"
								onclick={() => attempt(async () => (await dropKept(id), await refresh()))}><Trash2 size={12} /></button
							>
						</li>
					{/each}
				</ul>
			{:else if kept}<p class="text-small text-soft">Empty. “Keep” puts a kit here, for other projects.</p>{/if}
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
