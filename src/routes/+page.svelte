<script lang="ts">
	import Copy from '@lucide/svelte/icons/copy';
	import Pencil from '@lucide/svelte/icons/pencil';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import Upload from '@lucide/svelte/icons/upload';
	import { tick } from 'svelte';
	import { superForm } from 'sveltekit-superforms';
	import { enhance } from '$app/forms';
	import TokensPanel from '$lib/ui/TokensPanel.svelte';

	let { data, form: result } = $props();

	// svelte-ignore state_referenced_locally
	const { form, errors, enhance: enhanceCreate } = superForm(data.create);
	let renaming = $state<string>();
	let renameField = $state<HTMLInputElement>();
	let importForm: HTMLFormElement;

	const outcome = $derived(result as { message?: string; done?: string; id?: string } | null);
	const failure = $derived(
		outcome?.message ??
			(result as { form?: { errors?: { name?: string[] }; message?: string; id?: string } } | null)?.form?.message
	);
	const when = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

	async function startRename(id: string) {
		renaming = id;
		await tick();
		renameField?.select();
	}
</script>

<svelte:head><title>Projects · Zygaster</title></svelte:head>

<main class="mx-auto max-w-4xl px-6 py-10">
	<header class="mb-6 flex items-center gap-3">
		<img src="/icon.svg" alt="" class="h-8 w-8" />
		<div>
			<h1 class="text-xl">Zygaster</h1>
			<p class="text-soft">Divide a freeform face, place kits, hand over panels with marks.</p>
		</div>
		<form
			bind:this={importForm}
			method="POST"
			action="?/import"
			enctype="multipart/form-data"
			class="ml-auto"
			use:enhance
		>
			<label
				class="button focus-within:outline-2 focus-within:outline-patina"
				title="A project file (JSON) made by the handover"
			>
				<Upload size={14} />Bring in a file
				<input
					type="file"
					name="file"
					accept=".json,application/json"
					class="sr-only"
					onchange={() => importForm.requestSubmit()}
				/>
			</label>
		</form>
	</header>

	<form method="POST" action="?/create" class="mb-6 flex items-start gap-2" use:enhanceCreate>
		<div class="flex-1">
			<label class="sr-only" for="new-name">Name of the new project</label>
			<input
				id="new-name"
				name="name"
				class="field bg-sheet py-1.5"
				placeholder="Name of the new project"
				autocomplete="off"
				aria-invalid={$errors.name ? 'true' : undefined}
				bind:value={$form.name}
			/>
			{#if $errors.name}<p class="mt-1 text-small text-rust" role="alert">{$errors.name[0]}</p>{/if}
		</div>
		<button class="button button-main py-1.5"><Plus size={14} />New project</button>
	</form>

	{#if failure}
		<p class="mb-4 rounded border border-rust bg-sheet px-3 py-2 whitespace-pre-line text-rust" role="alert">
			{failure}
		</p>
	{/if}
	{#if outcome?.done === 'deleted'}
		<form
			method="POST"
			action="?/restore"
			class="mb-4 flex items-center gap-3 rounded border border-rule bg-sheet px-3 py-2"
			use:enhance
		>
			<input type="hidden" name="id" value={outcome.id} />
			<p role="status">The project was deleted.</p>
			<button class="button">Undo</button>
		</form>
	{/if}

	{#if data.projects.length}
		<ul class="divide-y divide-rule rounded border border-rule bg-sheet">
			{#each data.projects as project (project.id)}
				<li class="flex items-center gap-3 px-4 py-2.5" data-project={project.id}>
					{#if renaming === project.id}
						<form
							method="POST"
							action="?/rename"
							class="flex flex-1 gap-2"
							use:enhance={() =>
								async ({ update, result }) => {
									await update({ reset: false });
									if (result.type === 'success') renaming = undefined;
								}}
						>
							<input type="hidden" name="id" value={project.id} />
							<input
								bind:this={renameField}
								name="name"
								class="field"
								aria-label="New name"
								value={project.name}
								required
								maxlength="120"
								onkeydown={(e) => e.key === 'Escape' && (renaming = undefined)}
							/>
							<button class="button button-main">Rename</button>
						</form>
					{:else}
						<a href="/projects/{project.id}" class="flex-1 truncate font-semibold hover:text-patina">{project.name}</a>
						<span class="text-small text-soft">
							changed {when.format(project.updatedAt)} · revision
							<span class="figure">{project.revision}</span>
						</span>
						<span class="flex gap-1">
							<button
								class="rounded p-1.5 text-soft hover:text-patina"
								title="Rename"
								aria-label="Rename {project.name}"
								onclick={() => startRename(project.id)}><Pencil size={15} /></button
							>
							<form method="POST" action="?/duplicate" use:enhance>
								<input type="hidden" name="id" value={project.id} />
								<button
									class="rounded p-1.5 text-soft hover:text-patina"
									title="Duplicate"
									aria-label="Duplicate {project.name}"><Copy size={15} /></button
								>
							</form>
							<form method="POST" action="?/delete" use:enhance>
								<input type="hidden" name="id" value={project.id} />
								<button
									class="rounded p-1.5 text-soft hover:text-rust"
									title="Delete"
									aria-label="Delete {project.name}"><Trash2 size={15} /></button
								>
							</form>
						</span>
					{/if}
				</li>
			{/each}
		</ul>
	{:else}
		<p class="rounded border border-dashed border-control px-4 py-8 text-center text-soft">
			No project yet. Name one above, or bring in a project file.
		</p>
	{/if}
	{#if data.deleted.length}
		<details class="mt-6">
			<summary class="heading cursor-pointer">
				Deleted ({data.deleted.length}), kept for {data.daysDeleted} days
			</summary>
			<ul class="mt-1 divide-y divide-rule rounded border border-rule bg-sheet">
				{#each data.deleted as project (project.id)}
					<li class="flex items-center gap-3 px-4 py-2">
						<span class="flex-1 truncate text-soft">{project.name}</span>
						<span class="text-small text-soft">deleted {when.format(project.deletedAt)}</span>
						<form method="POST" action="?/restore" use:enhance>
							<input type="hidden" name="id" value={project.id} />
							<button class="button" aria-label="Bring back {project.name}">Bring back</button>
						</form>
					</li>
				{/each}
			</ul>
		</details>
	{/if}
	<TokensPanel tokens={data.tokens} made={(result as { token?: string; name?: string } | null) ?? {}} />
</main>
