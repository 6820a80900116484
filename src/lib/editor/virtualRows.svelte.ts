import { createVirtualizer } from '@tanstack/svelte-virtual';
import { untrack } from 'svelte';
import { get } from 'svelte/store';

/** The rows of a long list that are in sight, all of one height, px. To be called while a component is set up. */
export function virtualRows(scroller: () => HTMLDivElement | undefined, count: () => number, height: number) {
	const rows = createVirtualizer<HTMLDivElement, HTMLDivElement>({
		count: 0,
		getScrollElement: () => scroller() ?? null,
		estimateSize: () => height,
		overscan: 8
	});
	$effect(() => {
		const [element, all] = [scroller(), count()];
		if (element) untrack(() => get(rows).setOptions({ count: all, getScrollElement: () => element }));
	});
	return rows;
}
