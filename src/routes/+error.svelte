<script lang="ts">
	import { page } from '$app/state';
</script>

<svelte:head><title>{page.status} · Zygaster</title></svelte:head>

<main class="mx-auto mt-24 max-w-lg px-6">
	<p class="figure text-soft">{page.status}</p>
	<h1 class="my-2 text-xl">{page.error?.message}</h1>
	<p class="mb-6 text-soft">
		{page.status === 404
			? 'The address may be mistyped, or the project was deleted.'
			: 'Nothing that was saved is lost.'}
	</p>
	<a class="button" href="/">All projects</a>
</main>
