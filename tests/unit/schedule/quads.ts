import type { Turn } from '../../../src/core/schedule/types/cluster.ts';

/** Four corners as the six distances between them, in the order that turns keep. */
export const PAIRS = [
	[0, 1],
	[1, 2],
	[2, 3],
	[3, 0],
	[0, 2],
	[1, 3]
] as const;
/** Four ways to turn them. */
export const QUAD: Turn[] = [0, 1, 2, 3].map((by) => ({
	from: Uint16Array.from(PAIRS, ([a, b]) => {
		const [p, q] = [(a + by) % 4, (b + by) % 4];
		return PAIRS.findIndex(([x, y]) => (x === p && y === q) || (x === q && y === p));
	})
}));
