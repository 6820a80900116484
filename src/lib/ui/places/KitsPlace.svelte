<script lang="ts">
	import BookMarked from '@lucide/svelte/icons/book-marked';
	import Copy from '@lucide/svelte/icons/copy';
	import Download from '@lucide/svelte/icons/download';
	import FileUp from '@lucide/svelte/icons/file-up';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { messageOf } from '$core/errors.ts';
	import { contentNames } from '$core/project/contents.ts';
	import { contentsOfKit, packKit, readKit, writeKit, type KitFile } from '$core/project/kitFile.ts';
	import { loadContents, sendContents } from '$lib/worker/contents.ts';
	import { keepKit } from '$lib/editor/kitLibrary.ts';
	import { addKit, duplicateKit, holdersOf, removeKit } from '$lib/editor/kits.ts';
	import { hostInWords } from '$lib/editor/kitSteps.ts';
	import { saveFile } from '$lib/editor/saveFile.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import KitForm from '../bench/KitForm.svelte';
	import KitGallery from '../bench/KitGallery.svelte';
	import KitPicture from '../bench/KitPicture.svelte';
	import MaterialsPanel from '../bench/MaterialsPanel.svelte';
	import MeshesPanel from '../bench/MeshesPanel.svelte';

	const work = useWorkspace();
	const { bench } = work;
	const kit = $derived(bench.kit);
	const holders = $derived(kit ? holdersOf(work.project, kit.id) : []);
	let wanted = $state('');
	const shown = $derived(
		work.project.kits.filter((k) => `${k.name} ${k.help}`.toLowerCase().includes(wanted.trim().toLowerCase()))
	);
	let files: HTMLInputElement;
	let message = $state<{ readonly text: string; readonly bad: boolean }>();
	const tell = (text: string, bad = false) => (message = { text, bad });

	function edit(label: string, change: Parameters<typeof work.editor.commit>[1], then?: () => void) {
		const error = work.editor.commit(label, change);
		if (error) tell(error, true);
		else {
			message = undefined;
			then?.();
		}
	}

	async function take(file: KitFile) {
		let id = '';
		try {
			await sendContents(contentsOfKit(file));
		} catch (cause) {
			return void tell(messageOf(cause), true);
		}
		edit(
			`Add ${file.kits[0]!.name}`,
			(draft) => (id = addKit(draft, file)),
			() => bench.choose(id)
		);
	}

	async function bringIn(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		if (!file) return;
		try {
			await take(readKit(await file.text()));
		} catch (cause) {
			tell(`“${file.name}”: ${messageOf(cause)}`, true);
		}
	}

	/** Meshes go along with a kit: they must be here. */
	const loadMeshes = () => loadContents(contentNames({ masses: [], references: [], modules: work.project.modules }));

	async function save() {
		try {
			await loadMeshes();
			const name = kit!.name.replace(/[^\p{L}\p{N}-]+/gu, '-').toLowerCase();
			saveFile(`${name}.kit.json`, writeKit(work.project, kit!));
		} catch (cause) {
			tell(messageOf(cause), true);
		}
	}

	async function keep() {
		try {
			await loadMeshes();
			await keepKit(packKit(work.project, kit!));
			tell(`“${kit!.name}” is in your library.`);
		} catch (cause) {
			tell(messageOf(cause), true);
		}
	}
</script>

<div class="flex gap-1.5">
	<KitGallery ontake={take} onnew={(id) => bench.choose(id)} />
	<button class="button text-small" title="Bring in a kit from a JSON file" onclick={() => files.click()}
		><FileUp size={13} />Bring in</button
	>
	<input
		bind:this={files}
		type="file"
		accept=".json,application/json"
		class="hidden"
		aria-label="Kit file"
		onchange={bringIn}
	/>
</div>
{#if message}<p
		class="mt-1 text-small whitespace-pre-line {message.bad ? 'text-rust' : 'text-soft'}"
		role={message.bad ? 'alert' : 'status'}
	>
		{message.text}
	</p>{/if}
{#if work.project.kits.length > 8}
	<input class="field mt-2 w-full" type="search" placeholder="Find a kit" aria-label="Find a kit" bind:value={wanted} />
{/if}
<ul class="mt-2 max-h-[46vh] overflow-auto rounded border border-rule" aria-label="Kits of the project">
	{#each shown as k (k.id)}
		<li>
			<button
				class="flex w-full items-center gap-2 border-l-2 px-1.5 py-1 text-left {k.id === kit?.id
					? 'border-patina bg-wash/50'
					: 'border-transparent hover:bg-wash/30'}"
				aria-pressed={k.id === kit?.id}
				title={k.help}
				onclick={() => bench.choose(k.id)}
			>
				<KitPicture kit={k} size={38} />
				<span class="min-w-0"
					><span class="block truncate font-semibold {k.id === kit?.id ? 'text-patina' : ''}">{k.name}</span><span
						class="block truncate text-small text-soft">{hostInWords(k)}</span
					></span
				>
			</button>
		</li>
	{:else}
		<li class="px-2 py-1.5 text-soft">
			{work.project.kits.length ? 'No kit of that name.' : 'This project has no kit yet.'}
		</li>
	{/each}
</ul>
{#if kit}
	<div class="mt-2 flex flex-wrap gap-1">
		<button
			class="button text-small"
			title="A copy to be changed"
			onclick={() => {
				let id = '';
				edit(
					`Duplicate ${kit.name}`,
					(draft) => (id = duplicateKit(draft, kit.id)),
					() => bench.choose(id)
				);
			}}><Copy size={13} />Copy</button
		>
		<button
			class="button text-small"
			title="Save this kit as a JSON file, with everything that it needs"
			onclick={() => void save()}><Download size={13} />Save</button
		>
		<button class="button text-small" title="Keep this kit in your library, for other projects" onclick={keep}
			><BookMarked size={13} />Keep</button
		>
		<button
			class="button text-small"
			title={holders.length ? `Used by ${holders.join(', ')}; it is taken off there` : 'Nothing uses it'}
			onclick={() =>
				edit(
					`Remove ${kit.name}`,
					(draft) => removeKit(draft, kit.id),
					() => bench.choose(work.project.kits[0]?.id ?? '')
				)}><Trash2 size={13} />Remove</button
		>
	</div>
	<p class="mt-1 text-small text-soft">
		{holders.length ? `On ${holders.join(', ')}` : 'Not placed yet: choose it under Placement.'}
	</p>
	<KitForm {kit} />
{/if}
<MaterialsPanel />
<MeshesPanel />
