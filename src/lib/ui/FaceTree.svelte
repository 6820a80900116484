<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import { addMass } from '$lib/editor/masses.ts';
	import { useWorkspace } from '$lib/editor/workspace.svelte.ts';
	import { faceKey } from '$core/project/schema.ts';
	import { group } from '$core/units/print.ts';

	const work = useWorkspace();
	const counts = $derived(
		new Map(work.runner.view?.faces.map((f) => [f.key, f.cellCount]) ?? [])
	);

	function add() {
		let key = '';
		work.editor.commit('Add mass', (draft) => (key = addMass(draft)));
		work.chosen = key;
		work.place = 'mass';
	}
</script>

<section aria-labelledby="tree-heading" class="border-b border-rule pb-2">
	<div class="flex items-center justify-between px-3.5 pt-2.5">
		<h2 id="tree-heading" class="heading">Masses and faces</h2>
		<button class="rounded p-1 text-soft hover:text-patina" title="Add a mass" aria-label="Add a mass" onclick={add}>
			<Plus size={14} />
		</button>
	</div>
	<ul>
		{#each work.project.masses as mass (mass.id)}
			<li>
				<div class="flex items-baseline px-3.5 py-[3px]">
					{mass.name}
					<span class="figure ml-auto text-small text-soft">
						{mass.faces.length}
						{mass.faces.length === 1 ? 'face' : 'faces'}
					</span>
				</div>
				<ul>
					{#each mass.faces as face (face.id)}
						{@const key = faceKey(mass, face)}
						<li>
							<button
								class="flex w-full items-baseline py-[3px] pr-3.5 pl-7 text-left hover:bg-wash/60 {work
									.current?.key === key
									? 'bg-wash'
									: ''}"
								aria-current={work.current?.key === key ? 'true' : undefined}
								onclick={() => (work.chosen = key)}
							>
								{face.name}
								<span
									class="figure ml-auto text-small {work.runner.stale ? 'text-soft/50 italic' : 'text-soft'}"
									title={work.runner.stale ? 'Cells before the last edit' : 'Cells'}
								>
									{counts.has(key) ? group(counts.get(key)!, 0) : '–'}
								</span>
							</button>
						</li>
					{/each}
				</ul>
			</li>
		{:else}
			<li class="px-3.5 py-2 text-soft">
				No mass yet. A mass is the building body whose faces are divided.
				<button class="button mt-2" onclick={add}><Plus size={14} />Add a mass</button>
			</li>
		{/each}
	</ul>
</section>
