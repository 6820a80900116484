<script lang="ts">
	import Copy from '@lucide/svelte/icons/copy';
	import Eye from '@lucide/svelte/icons/eye';
	import EyeOff from '@lucide/svelte/icons/eye-off';
	import GripVertical from '@lucide/svelte/icons/grip-vertical';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { DropdownMenu } from 'bits-ui';
	import { dragHandle, dragHandleZone, type DndEvent } from 'svelte-dnd-action';
	import { STEP_KIND_NAMES, STEP_KINDS } from '$core/kit/stepKinds.ts';
	import type { Step } from '$core/kit/schema.ts';
	import { stepInWords, usersOfStep } from '$lib/editor/kitSteps.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import StepForm from './StepForm.svelte';

	const work = useWorkspace();
	const { bench } = work;
	const unit = $derived(work.project.units);

	interface Item {
		readonly id: string;
		readonly step: Step;
	}
	/** The list while a step is dragged; otherwise it follows the kit. */
	let dragged = $state.raw<readonly Item[]>();
	const items = $derived(dragged ?? bench.steps.map((step) => ({ id: step.name, step })));

	const GROUPS = [
		['points', 'Points'],
		['lines', 'Lines'],
		['numbers', 'Numbers'],
		['pieces', 'Pieces and moulds'],
		['bodies', 'Bodies'],
		['parts', 'Parts']
	] as const;

	/** What is wrong with a step on this host, by its name. */
	const faults = $derived.by(() => {
		const { trial } = bench;
		const all: Record<string, string> = {};
		if (trial?.error?.step) all[trial.error.step] = trial.error.message;
		for (const { step, reason } of trial?.failures ?? [])
			all[step.split(' › ').at(-1)!] ??= `Does not fit this host: ${reason}.`;
		return all;
	});

	function onkeydown(event: KeyboardEvent, step: Step) {
		if ((event.target as HTMLElement).closest('input, select, textarea, .cm-editor')) return;
		if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown'))
			bench.shift(step.name, event.key === 'ArrowUp' ? -1 : 1);
		else if (event.key === 'Delete') bench.remove(step.name);
		else if (event.key === 'd' && (event.ctrlKey || event.metaKey)) bench.duplicate(step.name);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<section class="flex min-h-0 flex-col border-r border-rule bg-sheet" aria-label="Steps of the kit">
	<header class="flex items-center gap-2 border-b border-rule px-2.5 py-1.5">
		<h3 class="font-semibold">Steps</h3>
		{#if bench.kit && bench.kit.variants.length}
			<span class="truncate text-small text-soft"
				>{bench.list === undefined
					? 'for other corner counts'
					: `for ${bench.kit.variants[bench.list]!.corners.join(', ')} corners`}</span
			>
		{/if}
		<DropdownMenu.Root>
			<DropdownMenu.Trigger class="button ml-auto text-small" title="Add a step behind the open one"
				><Plus size={13} />Add step</DropdownMenu.Trigger
			>
			<DropdownMenu.Portal>
				<DropdownMenu.Content
					side="right"
					align="start"
					sideOffset={6}
					collisionPadding={8}
					class="z-40 max-h-[calc(100vh-60px)] w-[470px] columns-2 gap-3 overflow-auto rounded-md border border-rule bg-sheet p-2 text-ink shadow-lg"
					aria-label="Kinds of steps"
				>
					{#each GROUPS as [group, label] (group)}
						<div class="mb-2 break-inside-avoid">
							<h4 class="heading mb-0.5 px-1.5">{label}</h4>
							{#each STEP_KIND_NAMES.filter((k) => STEP_KINDS[k].group === group) as kind (kind)}
								<DropdownMenu.Item
									class="cursor-pointer rounded px-1.5 py-[3px] outline-none data-[highlighted]:bg-wash"
									title={STEP_KINDS[kind].help}
									onSelect={() => bench.add(kind)}>{STEP_KINDS[kind].label}</DropdownMenu.Item
								>
							{/each}
						</div>
					{/each}
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
	</header>
	<ol
		class="min-h-0 grow overflow-auto"
		use:dragHandleZone={{ items: items as Item[], flipDurationMs: 120, dropTargetStyle: {}, dragDisabled: false }}
		onconsider={(e: CustomEvent<DndEvent<Item>>) => (dragged = e.detail.items)}
		onfinalize={(e: CustomEvent<DndEvent<Item>>) => {
			dragged = undefined;
			bench.order(e.detail.items.map((i) => i.id));
		}}
	>
		{#each items as { id, step } (id)}
			{@const open = bench.step === id}
			{@const users = usersOfStep(bench.steps, id)}
			<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
			<li
				class="border-b border-rule bg-sheet {open ? 'bg-wash/40' : ''}"
				onkeydown={(e) => onkeydown(e, step)}
				data-step={id}
			>
				<div class="flex items-start gap-1 py-1 pr-1.5 pl-0.5 {step.on ? 'pl-4' : ''} {step.off ? 'opacity-50' : ''}">
					<span use:dragHandle class="mt-0.5 cursor-grab text-soft" aria-label="Drag {id} to another place"
						><GripVertical size={14} /></span
					>
					<button
						class="min-w-0 grow text-left"
						aria-expanded={open}
						onclick={() => (bench.step = open ? undefined : id)}
					>
						<span class="flex items-baseline gap-1.5">
							<span class="truncate font-semibold {faults[id] ? 'text-rust' : open ? 'text-patina' : ''}">{id}</span>
							<span class="shrink-0 text-small text-soft"
								>{STEP_KINDS[step.kind].label}{step.on ? ` on ${step.on}` : ''}</span
							>
						</span>
						<span class="block truncate text-small text-soft" title={stepInWords(step, unit)}
							>{stepInWords(step, unit) || ' '}</span
						>
						{#if step.when !== undefined}<span class="block truncate text-small text-ochre-ink">where {step.when}</span
							>{/if}
						{#if faults[id] && !open}<span class="line-clamp-2 block text-small leading-tight text-rust"
								>{faults[id]}</span
							>{/if}
					</button>
					<span class="flex shrink-0 items-center gap-0.5 text-soft">
						<button
							class="p-0.5 hover:text-patina"
							title={step.off ? 'Switch on' : 'Switch off'}
							aria-label="Switch {id} {step.off ? 'on' : 'off'}"
							aria-pressed={!step.off}
							onclick={() => bench.toggle(id)}
							>{#if step.off}<EyeOff size={13} />{:else}<Eye size={13} />{/if}</button
						>
						{#if open}
							<button
								class="p-0.5 hover:text-patina"
								title="Duplicate (Ctrl+D)"
								aria-label="Duplicate {id}"
								onclick={() => bench.duplicate(id)}><Copy size={13} /></button
							>
							<button
								class="p-0.5 hover:text-rust"
								title={users.length ? `Remove (Delete); ${users.join(', ')} take from it` : 'Remove (Delete)'}
								aria-label="Remove {id}"
								onclick={() => bench.remove(id)}><Trash2 size={13} /></button
							>
						{/if}
					</span>
				</div>
				{#if open && !dragged}{#key id}<StepForm {step} fault={faults[id]} />{/key}{/if}
			</li>
		{/each}
	</ol>
	{#if bench.error}<p class="border-t border-rust px-2.5 py-1 text-small whitespace-pre-line text-rust" role="alert">
			{bench.error}
		</p>{/if}
</section>
