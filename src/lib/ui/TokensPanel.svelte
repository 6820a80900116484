<script lang="ts">
	import KeyRound from '@lucide/svelte/icons/key-round';
	import { enhance } from '$app/forms';

	interface Props {
		tokens: readonly {
			readonly id: string;
			readonly name: string;
			readonly createdAt: Date;
			readonly usedAt: Date | null;
		}[];
		/** What has just been made: it is told this once. */
		made: { readonly token?: string; readonly name?: string };
	}
	let { tokens, made }: Props = $props();
	const when = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
	let copied = $state(false);
	async function copy() {
		await navigator.clipboard.writeText(made.token!);
		copied = true;
	}
</script>

<section class="mt-10" aria-label="Programs">
	<h2 class="heading">Programs</h2>
	<p class="mb-2 text-small text-soft">
		Programs read and edit projects and order files with a token; what they can do is described in
		<a class="text-patina underline" href="/api/v1/openapi.json">openapi.json</a> (OpenAPI 3.1). Whoever has a token may do
		all that you may here.
	</p>
	{#if made.token}
		<div class="mb-2 rounded border border-patina bg-sheet px-3 py-2" role="status">
			<p>The token “{made.name}” is shown this once; keep it where the program finds it.</p>
			<p class="mt-1 flex items-center gap-2">
				<code class="figure min-w-0 break-all" data-testid="token">{made.token}</code>
				<button class="button ml-auto shrink-0" onclick={() => void copy()}>{copied ? 'Copied' : 'Copy'}</button>
			</p>
		</div>
	{/if}
	{#if tokens.length}
		<ul class="mb-2 divide-y divide-rule rounded border border-rule bg-sheet">
			{#each tokens as { id, name, createdAt, usedAt } (id)}
				<li class="flex items-center gap-3 px-4 py-2">
					<KeyRound size={14} class="shrink-0 text-soft" />
					<span class="min-w-0 flex-1 truncate">{name}</span>
					<span class="text-small text-soft"
						>made {when.format(createdAt)} · {usedAt ? `used ${when.format(usedAt)}` : 'not used yet'}</span
					>
					<form method="POST" action="?/withdrawToken" use:enhance>
						<input type="hidden" name="id" value={id} />
						<button class="button" aria-label="Withdraw {name}">Withdraw</button>
					</form>
				</li>
			{/each}
		</ul>
	{/if}
	<form method="POST" action="?/makeToken" class="flex items-start gap-2" use:enhance>
		<label class="sr-only" for="token-name">What the token is for</label>
		<input
			id="token-name"
			name="name"
			class="field bg-sheet py-1.5"
			placeholder="What the token is for, such as nightly schedules"
			autocomplete="off"
			maxlength="120"
		/>
		<button class="button py-1.5 whitespace-nowrap"><KeyRound size={14} />Make a token</button>
	</form>
</section>
