<script lang="ts">
	import type { TilingPicture } from '$lib/editor/tilingPicture.ts';

	let { picture, size = 48 }: { picture: TilingPicture; size?: number } = $props();
	const pad = $derived(picture.width * 0.02);
</script>

<svg
	viewBox="{-pad} {-pad} {picture.width + 2 * pad} {picture.height + 2 * pad}"
	width={size}
	height={(size * picture.height) / picture.width}
	fill="none"
	stroke="currentColor"
	stroke-linejoin="round"
	class="shrink-0"
	aria-hidden="true"
>
	{#each picture.paths as path, k (k)}
		<path
			d={path}
			stroke-width="1"
			vector-effect="non-scaling-stroke"
			fill={k === 0 && picture.paths.length > 1 ? 'var(--wash)' : 'none'}
		/>
	{/each}
</svg>
