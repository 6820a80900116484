<script lang="ts">
	import type { Kit } from '$core/kit/schema.ts';
	import type { KitPicture } from '$core/placement/kitPicture.ts';
	import type { KitWeight } from '$core/placement/kitWeight.ts';
	import { group } from '$core/units/print.ts';
	import { useWorkspace } from '$lib/editor/context.ts';

	let {
		kit,
		size = 52,
		weighed = false
	}: { kit: Kit; size?: number; /** Its weight stands under the picture. */ weighed?: boolean } = $props();
	const work = useWorkspace();
	let canvas: HTMLCanvasElement;
	let weight = $state.raw<KitWeight>();
	const PER = { area: 'kg/m²', length: 'kg/m', piece: 'kg each' } as const;

	$effect(() => {
		let wanted = true;
		void work.bench.picture(kit).then((picture) => {
			if (!wanted || !canvas) return;
			weight = picture?.weight;
			draw(picture);
		});
		return () => (wanted = false);
	});

	function draw(picture: KitPicture | undefined) {
		const scale = Math.min(2, devicePixelRatio) * size;
		canvas.width = canvas.height = scale;
		// Thousands of small triangles: quicker by the processor than by way of the graphics card, and no card's context each.
		const context = canvas.getContext('2d', { willReadFrequently: true })!;
		if (!picture) return;
		const margin = 0.05 * scale;
		const at = (v: number) => margin + v * (scale - 2 * margin);
		const { triangles, material, materials, light } = picture;
		const colours = materials.map((id) => work.project.materials.find((m) => m.id === id)?.colour ?? '#8C9296');
		for (let t = 0; t < material.length; t++) {
			context.beginPath();
			context.moveTo(at(triangles[t * 6]!), at(triangles[t * 6 + 1]!));
			context.lineTo(at(triangles[t * 6 + 2]!), at(triangles[t * 6 + 3]!));
			context.lineTo(at(triangles[t * 6 + 4]!), at(triangles[t * 6 + 5]!));
			context.closePath();
			context.fillStyle = context.strokeStyle = shaded(colours[material[t]!]!, light[t]!);
			context.lineWidth = 0.6;
			context.fill();
			context.stroke();
		}
	}

	const shaded = (colour: string, light: number) =>
		`rgb(${[1, 3, 5]
			.map((k) => Math.round(parseInt(colour.slice(k, k + 2), 16) * (0.45 + 0.6 * light)))
			.map((v) => Math.min(255, v))
			.join()})`;
</script>

<canvas bind:this={canvas} class="shrink-0" style="width: {size}px; height: {size}px" aria-hidden="true"></canvas>
{#if weighed}<span class="figure text-soft" title="Of its default values, on the first of its trial hosts"
		>{weight ? `${group(weight.value, weight.value < 100 ? 1 : 0)} ${PER[weight.per]}` : ' '}</span
	>{/if}
