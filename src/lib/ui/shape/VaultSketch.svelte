<script lang="ts">
	import { useEditing } from '$lib/editor/context.ts';
	import type { Settled } from '$core/mass/shapeKind.ts';
	import type { VaultShape } from '$core/mass/vault.ts';
	import { settleShape } from '$core/project/settle.ts';
	import { printFull } from '$core/units/print.ts';

	type Section = Settled<VaultShape>['sections'][number];

	/** Number of the section that is drawn strong. */
	let { k }: { k: number } = $props();

	const work = useEditing();
	const unit = $derived(work.project.units);
	const all = $derived((settleShape(work.project, work.face.current!.mass) as Settled<VaultShape>).sections);
	const section = $derived(all[k]!);

	const WIDTH = 236;
	const HEIGHT = 74;

	/** Feet and control point of the parabola, x and height. */
	function arch(s: Section) {
		const start = { x: s.shift - s.span / 2, z: s.startHeight };
		const end = { x: s.shift + s.span / 2, z: s.endHeight };
		const apex = {
			x: (start.x + end.x) / 2 + 2 * s.lean,
			z: (start.z + end.z) / 2 + 2 * s.rise
		};
		return { start, apex, end };
	}

	const extent = $derived.by(() => {
		const arches = all.map(arch);
		const xs = arches.flatMap((a) => [a.start.x, a.end.x]);
		const zs = arches.flatMap((a) => [a.start.z, a.end.z, (a.start.z + a.end.z) / 4 + a.apex.z / 2, 0]);
		return { x: Math.min(...xs), x2: Math.max(...xs), z: Math.min(...zs), z2: Math.max(...zs) };
	});
	const scale = $derived(Math.min((WIDTH - 12) / (extent.x2 - extent.x), (HEIGHT - 16) / (extent.z2 - extent.z || 1)));
	const point = (p: { x: number; z: number }) =>
		`${(WIDTH / 2 + (p.x - (extent.x + extent.x2) / 2) * scale).toFixed(1)} ${(HEIGHT - 8 - (p.z - extent.z) * scale).toFixed(1)}`;
	const path = (s: Section) => {
		const { start, apex, end } = arch(s);
		return `M${point(start)}Q${point(apex)} ${point(end)}`;
	};
	const ground = $derived(HEIGHT - 8 + extent.z * scale);
</script>

<svg
	viewBox="0 0 {WIDTH} {HEIGHT}"
	class="my-2 w-full rounded border border-rule bg-paper"
	role="img"
	aria-label="Section: span {printFull(section.span, 'length', unit)}, rise {printFull(section.rise, 'length', unit)}"
>
	<line x1="4" x2={WIDTH - 4} y1={ground} y2={ground} stroke="var(--rule)" stroke-dasharray="3 3" />
	{#each all as other, o (o)}
		<path d={path(other)} fill="none" stroke="var(--rule)" />
	{/each}
	<path d={path(section)} fill="none" stroke="var(--patina)" stroke-width="2" />
</svg>
