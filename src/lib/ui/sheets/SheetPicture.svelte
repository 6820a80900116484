<script lang="ts">
	import { CAPITALS, type Page, type PagePath } from '$core/formats/paper/page.ts';

	/** A page as it is printed; y runs upwards on it. */
	interface Props {
		page: Page;
		label: string;
	}
	let { page, label }: Props = $props();

	const round = (v: number) => Math.round(v * 1000) / 1000;
	const lineOf = ({ lines, closed }: PagePath) =>
		lines
			.map((points) => {
				let d = '';
				for (let k = 0; k < points.length; k += 2)
					d += `${k ? 'L' : 'M'}${round(points[k]!)} ${round(page.height - points[k + 1]!)}`;
				return closed ? `${d}Z` : d;
			})
			.join('');
</script>

<svg viewBox="0 0 {page.width} {page.height}" class="size-full bg-white" role="img" aria-label={label}>
	{#each page.paths as path, k (k)}
		<path
			d={lineOf(path)}
			fill={path.fill ?? 'none'}
			stroke={path.colour ?? 'none'}
			stroke-width={path.weight ?? 0.18}
			stroke-dasharray={path.dash?.join(' ')}
			stroke-linecap="round"
			stroke-linejoin="round"
		/>
	{/each}
	{#each page.texts as { x, y, height, text, anchor, bold, colour, turn }, k (k)}
		<text
			{x}
			y={page.height - y}
			font-size={height / CAPITALS}
			font-weight={bold ? 600 : 400}
			text-anchor={anchor ?? 'start'}
			fill={colour}
			transform={turn ? `rotate(${(-turn * 180) / Math.PI} ${x} ${page.height - y})` : undefined}>{text}</text
		>
	{/each}
</svg>
