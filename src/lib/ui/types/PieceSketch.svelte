<script lang="ts">
	import type { PieceDrawing } from '$core/schedule/pieceDrawing.ts';

	/** A piece as lines, as large as there is room for. */
	let { drawing, width, height, label }: { drawing: PieceDrawing; width: number; height: number; label: string } =
		$props();

	const MARGIN = 1.5;
	const per = $derived(
		Math.max(drawing.width / (width - 2 * MARGIN), drawing.height / (height - 2 * MARGIN), Number.MIN_VALUE)
	);
	const path = $derived.by(() => {
		const { lines } = drawing;
		const left = (width - drawing.width / per) / 2;
		const low = (height + drawing.height / per) / 2;
		const at = (k: number) => `${(left + lines[k]! / per).toFixed(2)} ${(low - lines[k + 1]! / per).toFixed(2)}`;
		let text = '';
		for (let k = 0; k < lines.length; k += 4) text += `M${at(k)}L${at(k + 2)}`;
		return text;
	});
</script>

<svg {width} {height} role="img" aria-label={label} class="text-ink">
	<path d={path} fill="none" stroke="currentColor" stroke-width="0.8" stroke-linecap="round" />
</svg>
