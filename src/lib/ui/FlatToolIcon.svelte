<script lang="ts">
	import Brush from '@lucide/svelte/icons/brush';
	import Circle from '@lucide/svelte/icons/circle';
	import Eraser from '@lucide/svelte/icons/eraser';
	import Lasso from '@lucide/svelte/icons/lasso';
	import MousePointer from '@lucide/svelte/icons/mouse-pointer-2';
	import Pentagon from '@lucide/svelte/icons/pentagon';
	import RectangleHorizontal from '@lucide/svelte/icons/rectangle-horizontal';
	import Spline from '@lucide/svelte/icons/spline';
	import type { FlatTool } from '$lib/editor/flatState.svelte.ts';

	let { tool }: { tool: FlatTool } = $props();

	const ICONS = {
		select: MousePointer,
		lasso: Lasso,
		rectangle: RectangleHorizontal,
		circle: Circle,
		polygon: Pentagon,
		spline: Spline,
		paint: Brush,
		erase: Eraser,
		line: Spline
	};
	const Icon = $derived(ICONS[tool]);
</script>

<Icon size={15} />
