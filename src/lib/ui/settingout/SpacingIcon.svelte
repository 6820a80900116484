<script lang="ts">
	import type { SpacingKind } from '$core/settingout/spacing.ts';

	let { kind }: { kind: SpacingKind } = $props();

	/** Lines of each picture, in a box of 20 by 14. */
	const LINES: Record<SpacingKind, string> = {
		count: 'M5 1v12M10 1v12M15 1v12',
		module: 'M5 1v12M9 1v12M13 1v12',
		'at-most': 'M7 1v12M13 1v12M2 7h3M3.5 5.5 5 7 3.5 8.5',
		list: 'M4 1v12M12 1v12M14.5 1v12',
		levels: 'M1 4h18M1 10h18M1 7h2M5 7h2M9 7h2M13 7h2M17 7h2',
		planes: 'M7 1 4 13M12 1 9 13M17 1l-3 12',
		radial: 'M10 13 3 1M10 13V1M10 13l7-12',
		curve: 'M1 11C6 1 12 13 19 3M5 4v5M10 4v6M15 4v6',
		off: ''
	};
</script>

<svg viewBox="0 0 20 14" width="20" height="14" fill="none" stroke="currentColor" stroke-width="1.2" aria-hidden="true">
	<rect x="0.6" y="0.6" width="18.8" height="12.8" rx="1" opacity="0.55" />
	<path d={LINES[kind]} />
</svg>
