<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import { Popover } from 'bits-ui';
	import { kindsOf, TILING_GROUPS, tilingName, tilingOfKind, TILINGS } from '$lib/editor/tilings.ts';
	import { tilingPicture } from '$lib/editor/tilingPicture.ts';
	import { useEditing } from '$lib/editor/context.ts';
	import type { Tiling } from '$core/tiling/schema.ts';
	import TilingIcon from './TilingIcon.svelte';

	const work = useEditing();
	const tiling = $derived(work.face.current!.face.tiling);
	const own = $derived(work.project.tilings);
	let open = $state(false);
	let error = $state<string>();

	const unitFor = (t: Tiling) => (t.kind === 'own' ? own.find((o) => o.id === t.tiling)?.unit : undefined);
	const same = (t: Tiling) =>
		t.kind === tiling.kind && (t.kind !== 'own' || tiling.kind !== 'own' || t.tiling === tiling.tiling);

	function choose(next: Tiling) {
		open = false;
		if (same(next)) return;
		error = work.editor.commit(
			`Tile: ${tilingName(next, own).toLowerCase()}`,
			work.face.onFaces((f) => void (f.tiling = structuredClone(next)))
		);
	}
</script>

{#snippet choice(next: Tiling, label: string, help: string)}
	<button
		class="flex w-[104px] flex-col items-center gap-1 rounded border p-1.5 text-center text-least leading-tight {same(
			next
		)
			? 'border-patina bg-wash/50 text-patina'
			: 'border-transparent hover:border-control'}"
		title={help}
		aria-pressed={same(next)}
		onclick={() => choose(next)}
	>
		<TilingIcon picture={tilingPicture(next, unitFor(next))} size={64} />
		<span>{label}</span>
	</button>
{/snippet}

<Popover.Root bind:open>
	<Popover.Trigger
		class="mt-1 flex w-full items-center gap-2.5 rounded border border-control bg-sheet px-2 py-1.5 text-left hover:border-patina"
		title="Choose another tiling"
		data-testid="tiling-choice"
	>
		<TilingIcon picture={tilingPicture(tiling, unitFor(tiling))} size={56} />
		<span class="min-w-0 grow"
			><span class="block truncate font-semibold">{tilingName(tiling, own)}</span><span
				class="line-clamp-2 block text-small leading-tight text-soft">{TILINGS[tiling.kind].help}</span
			></span
		>
		<ChevronDown size={14} class="shrink-0 text-soft" />
	</Popover.Trigger>
	<Popover.Portal>
		<Popover.Content
			side="right"
			align="start"
			sideOffset={8}
			collisionPadding={8}
			class="z-40 max-h-[calc(100vh-80px)] w-[664px] overflow-auto rounded-md border border-rule bg-sheet p-3 text-ink shadow-lg"
			aria-label="Tilings"
		>
			{#each TILING_GROUPS as group (group)}
				<h4 class="heading mt-2 mb-1 first:mt-0">{group}</h4>
				<div class="flex flex-wrap">
					{#each kindsOf(group) as kind (kind)}{@render choice(
							tilingOfKind(kind as 'rectangular'),
							TILINGS[kind].label,
							TILINGS[kind].help
						)}{/each}
				</div>
			{/each}
			{#if own.length}
				<h4 class="heading mt-2 mb-1">Own tilings of this project</h4>
				<div class="flex flex-wrap">
					{#each own as { id, name } (id)}{@render choice(
							{ kind: 'own', tiling: id, border: 'cut' },
							name,
							'A repeating unit of this project'
						)}{/each}
				</div>
			{/if}
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
{#if error}<p class="mt-1 text-small whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
