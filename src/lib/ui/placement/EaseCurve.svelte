<script lang="ts">
	import { easeThrough, stepOf } from '$core/placement/fields/ease.ts';
	import type { Field } from '$core/placement/fields/schema.ts';
	import { histogram } from '$core/readings/spread.ts';

	interface Props {
		field: Field;
		/** Values of what is shown; the range that counts as 0 and 1. */
		values: readonly Float32Array[];
		range: readonly [number, number];
		onpreview: (ease: Field['ease']) => string | undefined;
		oncommit: (ease: Field['ease']) => string | undefined;
	}
	let { field, values, range, onpreview, oncommit }: Props = $props();

	const WIDTH = 264;
	const HEIGHT = 84;
	const MARGIN = 6;
	const BARS = 32;
	const EVEN: NonNullable<Field['ease']> = [
		[0, 0],
		[1, 1]
	];
	const points = $derived(field.ease ?? EVEN);
	const x = (t: number) => MARGIN + t * (WIDTH - 2 * MARGIN);
	const y = (t: number) => HEIGHT - MARGIN - t * (HEIGHT - 2 * MARGIN);
	const bars = $derived(histogram(values, Math.min(...range), Math.max(...range), BARS));
	const most = $derived(Math.max(1, ...bars));
	const path = $derived.by(() => {
		const ease = easeThrough(points);
		const at = (t: number) => (field.steps ? stepOf(ease(t), field.steps) / (field.steps - 1) : ease(t));
		return Array.from(
			{ length: 97 },
			(_, k) => `${k ? 'L' : 'M'}${x(k / 96).toFixed(1)} ${y(at(k / 96)).toFixed(1)}`
		).join('');
	});
	let svg: SVGSVGElement;
	let held = $state<number>();
	let moved: Field['ease'];

	function shareAt(event: PointerEvent): [number, number] {
		const box = svg.getBoundingClientRect();
		const round = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 100) / 100;
		return [
			round(((event.clientX - box.left) * (WIDTH / box.width) - MARGIN) / (WIDTH - 2 * MARGIN)),
			round((HEIGHT - MARGIN - (event.clientY - box.top) * (HEIGHT / box.height)) / (HEIGHT - 2 * MARGIN))
		];
	}
	/** The points with one at another place, between its neighbours; the ends stay at their ends. */
	function placed(k: number, [px, py]: readonly [number, number]): NonNullable<Field['ease']> {
		const last = points.length - 1;
		const at =
			k === 0 ? 0 : k === last ? 1 : Math.min(points[k + 1]![0] - 0.01, Math.max(points[k - 1]![0] + 0.01, px));
		return points.with(k, [Math.round(at * 100) / 100, py]);
	}
	function grab(event: PointerEvent, k: number) {
		event.stopPropagation();
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		held = k;
		moved = undefined;
	}
	function drag(event: PointerEvent) {
		if (held === undefined) return;
		moved = placed(held, shareAt(event));
		onpreview(moved);
	}
	function drop() {
		if (held !== undefined && moved) oncommit(moved);
		held = undefined;
	}
	function add(event: MouseEvent) {
		const [px, py] = shareAt(event as PointerEvent);
		const k = points.findIndex((p) => p[0] > px + 0.01);
		if (k <= 0 || points.length >= 20 || points.some((p) => Math.abs(p[0] - px) < 0.02)) return;
		oncommit(points.toSpliced(k, 0, [px, py]));
	}
	function key(event: KeyboardEvent, k: number) {
		const step = 0.05;
		const by: Record<string, [number, number]> = {
			ArrowLeft: [-step, 0],
			ArrowRight: [step, 0],
			ArrowUp: [0, step],
			ArrowDown: [0, -step]
		};
		const [dx, dy] = by[event.key] ?? [0, 0];
		if (event.key === 'Delete' && k > 0 && k < points.length - 1) oncommit(points.toSpliced(k, 1));
		else if (dx || dy) oncommit(placed(k, [points[k]![0] + dx, Math.min(1, Math.max(0, points[k]![1] + dy))]));
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<svg
	bind:this={svg}
	viewBox="0 0 {WIDTH} {HEIGHT}"
	class="w-full touch-none rounded border border-rule bg-sheet"
	role="group"
	aria-label="Curve from what occurs to 0 and 1. Double click adds a point, Delete takes the chosen one away."
	ondblclick={add}
>
	{#each bars as bar, k (k)}
		<rect
			x={x(k / BARS)}
			y={y(bar / most)}
			width={(WIDTH - 2 * MARGIN) / BARS - 1}
			height={Math.max(0, y(0) - y(bar / most))}
			fill="var(--wash)"
		/>
	{/each}
	<path d={path} fill="none" stroke="var(--patina)" stroke-width="1.6" />
	{#each points as [px, py], k (k)}
		<circle
			cx={x(px)}
			cy={y(py)}
			r="4.5"
			fill="var(--sheet)"
			stroke={held === k ? 'var(--patina)' : 'var(--rust)'}
			stroke-width="1.6"
			class="cursor-move outline-offset-2"
			role="slider"
			tabindex="0"
			aria-label="Point {k + 1} of the curve"
			aria-valuenow={py}
			aria-valuetext="{Math.round(px * 100)} % along, {Math.round(py * 100)} % up"
			onpointerdown={(e) => grab(e, k)}
			onpointermove={drag}
			onpointerup={drop}
			onpointercancel={drop}
			onkeydown={(e) => key(e, k)}
		/>
	{/each}
</svg>
