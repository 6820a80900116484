<script lang="ts">
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { useWorkspace } from '$lib/editor/context.ts';

	const work = useWorkspace();
	const { issues } = work;
	const date = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
	let name = $state('');
	let author = $state('');
	let note = $state('');
	let mark = $state<string>();
	$effect(() => {
		if (issues.issues === undefined) void issues.refresh();
	});
	async function add() {
		if (!(await issues.add({ name, mark: mark ?? issues.nextMark, author, note }))) return;
		[name, note, mark] = ['', '', undefined];
	}
	function compare(id: string) {
		[issues.before, issues.after] = [id, undefined];
		[work.drawer, work.drawerOpen] = ['changes', true];
		void issues.compare();
	}
</script>

<section class="mt-4 border-t border-rule pt-2" aria-label="Issues">
	<h3 class="heading" title="States of the schedules that were given out; each is kept as it was">Issues</h3>
	<ul class="mt-1">
		{#each issues.issues ?? [] as issue (issue.id)}
			<li class="group grid grid-cols-[28px_1fr_auto] items-baseline gap-x-1 py-0.5">
				<strong class="figure">{issue.mark}</strong>
				<span class="min-w-0">
					{issue.name}
					<span class="block truncate text-small text-soft" title={issue.note}
						>{date.format(new Date(issue.at))}{issue.author ? `, ${issue.author}` : ''}{issue.note
							? `: ${issue.note}`
							: ''}</span
					>
				</span>
				<span class="flex items-center gap-1.5 text-small">
					<button
						class="text-patina hover:underline"
						title="What has changed since {issue.mark}"
						onclick={() => compare(issue.id)}>Compare</button
					>
					<button
						class="text-soft opacity-0 group-hover:opacity-100 hover:text-rust focus-visible:opacity-100"
						aria-label="Take issue {issue.mark} back"
						title="Take it back; the revision itself stays"
						onclick={() => void issues.remove(issue.id)}><Trash2 size={12} /></button
					>
				</span>
			</li>
		{:else}<li class="text-small text-soft">
				{issues.issues ? 'Nothing has been given out yet.' : 'Asking for them …'}
			</li>{/each}
	</ul>
	<form
		class="mt-2 grid grid-cols-[64px_1fr] items-center gap-x-2 gap-y-1"
		onsubmit={(e) => (e.preventDefault(), void add())}
	>
		<label for="issue-mark" class="text-soft">Revision</label>
		<input
			id="issue-mark"
			class="field w-16"
			maxlength="12"
			value={mark ?? issues.nextMark}
			oninput={(e) => (mark = e.currentTarget.value)}
		/>
		<label for="issue-name" class="text-soft">For</label>
		<input id="issue-name" class="field" maxlength="120" placeholder="Tender" required bind:value={name} />
		<label for="issue-author" class="text-soft">Author</label>
		<input id="issue-author" class="field" maxlength="120" bind:value={author} />
		<label for="issue-note" class="text-soft">Note</label>
		<input id="issue-note" class="field" maxlength="500" bind:value={note} />
		<button class="button button-main col-start-2 justify-self-start" disabled={issues.busy || !name.trim()}
			>Issue what is saved</button
		>
	</form>
	{#if issues.error}<p class="mt-1 text-small text-rust" role="alert">{issues.error}</p>{/if}
</section>
