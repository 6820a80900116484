<script lang="ts">
	import { tick } from 'svelte';
	import Eye from '@lucide/svelte/icons/eye';
	import EyeOff from '@lucide/svelte/icons/eye-off';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { faceKey } from '$core/project/schema.ts';
	import { group } from '$core/units/print.ts';
	import AddMass from './mass/AddMass.svelte';

	const work = useWorkspace();
	const counts = $derived(new Map(work.runner.view?.faces.map((f) => [f.key, f.cellCount]) ?? []));
	/** Faces of a mass with more than this many are folded until it is chosen. */
	const FEW = 4;

	/** Ctrl adds a face or takes it away, Shift takes all from the one that is worked on. */
	function choose(key: string, event: MouseEvent) {
		if (event.ctrlKey || event.metaKey) return work.face.toggle(key);
		if (!event.shiftKey) return void (work.face.chosen = key);
		const keys = work.project.masses.flatMap((m) => m.faces.map((f) => faceKey(m, f)));
		const [a, b] = [keys.indexOf(work.face.current?.key ?? key), keys.indexOf(key)];
		const range = keys.slice(Math.min(a, b), Math.max(a, b) + 1);
		work.face.chooseAll(a <= b ? range : range.reverse());
	}
	function moveByKeys(event: KeyboardEvent, m: number) {
		const by = ({ ArrowUp: -1, ArrowDown: 1 } as const)[event.key];
		if (!event.altKey || !by) return;
		event.preventDefault();
		work.moveMass(m, by);
		// A row that is put elsewhere loses the focus.
		const row = event.currentTarget as HTMLElement;
		void tick().then(() => row.focus());
	}
	const toggle = (m: number, f: number) =>
		work.editor.apply(work.project.masses[m]!.faces[f]!.hidden ? 'Show face' : 'Hide face', (draft) => {
			const face = draft.masses[m]!.faces[f]!;
			face.hidden = !face.hidden;
		});
	const toggleReference = (r: number) =>
		work.editor.apply(work.project.references[r]!.hidden ? 'Show reference' : 'Hide reference', (draft) => {
			draft.references[r]!.hidden = !draft.references[r]!.hidden;
		});
</script>

{#snippet eye(hidden: boolean, name: string, onclick: () => void)}
	<button
		class="w-6 shrink-0 pl-1.5 text-soft hover:text-patina {hidden
			? ''
			: 'opacity-0 group-hover:opacity-100 focus-visible:opacity-100'}"
		title={hidden ? 'Hidden; show it' : 'Hide'}
		aria-label="{hidden ? 'Show' : 'Hide'} {name}"
		{onclick}
	>
		{#if hidden}<EyeOff size={13} />{:else}<Eye size={13} />{/if}
	</button>
{/snippet}

<section aria-labelledby="tree-heading" class="max-h-[33%] shrink-0 overflow-auto border-b border-rule pb-2">
	<div class="flex items-center justify-between px-3.5 pt-2.5">
		<h2 id="tree-heading" class="heading">Masses and faces</h2>
		<AddMass />
	</div>
	<ul>
		{#each work.project.masses as mass, m (mass.id)}
			{@const open = mass.faces.length <= FEW || work.face.current?.mass.id === mass.id}
			<li>
				<button
					class="flex w-full items-baseline px-3.5 py-[3px] text-left hover:bg-wash/60"
					title="Choose it; with Ctrl all of its faces together; Alt with up or down moves it in the list"
					onkeydown={(e) => moveByKeys(e, m)}
					onclick={(e) => {
						const keys = mass.faces.map((face) => faceKey(mass, face));
						if (e.ctrlKey || e.metaKey) work.face.chooseAll(keys);
						else work.face.chosen = keys[0]!;
					}}
				>
					{mass.name}
					<span class="figure ml-auto text-small text-soft">
						{mass.faces.length}
						{mass.faces.length === 1 ? 'face' : 'faces'}
					</span>
				</button>
				<ul>
					{#each open ? mass.faces : [] as face, f (face.id)}
						{@const key = faceKey(mass, face)}
						<li
							class="group flex items-center pr-3.5 {work.face.current?.key === key
								? 'bg-wash'
								: work.face.all.includes(key)
									? 'bg-wash/70'
									: 'hover:bg-wash/60'}"
						>
							<button
								class="flex min-w-0 grow items-baseline py-[3px] pl-7 text-left"
								aria-current={work.face.current?.key === key ? 'true' : undefined}
								aria-pressed={work.face.all.length > 1 ? work.face.all.includes(key) : undefined}
								onclick={(e) => choose(key, e)}
							>
								<span class="truncate {face.hidden || !face.facade ? 'text-soft' : ''}">{face.name}</span>
								<span
									class="figure ml-auto pl-2 text-small {work.runner.behind ? 'text-soft/50 italic' : 'text-soft'}"
									title={!face.facade
										? 'Not part of the facade'
										: work.runner.behind
											? 'Cells before the last edit'
											: 'Cells'}
								>
									{counts.has(key) ? group(counts.get(key)!, 0) : '–'}
								</span>
							</button>
							{@render eye(face.hidden, face.name, () => toggle(m, f))}
						</li>
					{/each}
				</ul>
			</li>
		{:else}
			<li class="px-3.5 py-2 text-soft">
				No mass yet. A mass is the building body whose faces are divided.
				<div class="mt-2"><AddMass wide /></div>
			</li>
		{/each}
		{#each work.project.references as reference, r (reference.id)}
			<li class="group flex items-center pr-3.5 pl-3.5 hover:bg-wash/60">
				<span class="grow truncate py-[3px] text-soft" title="Reference: shown grey, never divided"
					>{reference.name}</span
				>
				<button
					class="px-1 text-small text-soft opacity-0 group-hover:opacity-100 hover:text-rust focus-visible:opacity-100"
					aria-label="Remove {reference.name}"
					onclick={() => work.editor.apply(`Remove ${reference.name}`, (draft) => draft.references.splice(r, 1))}
					>Remove</button
				>
				{@render eye(reference.hidden, reference.name, () => toggleReference(r))}
			</li>
		{/each}
	</ul>
</section>
