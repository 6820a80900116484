import { float64sOf } from '../content.ts';
import { norm } from '../elementary/index.ts';
import type { ImportedFace } from '../mass/imported.ts';

/**
 * The faces of a newer file with the ids of the older file's faces that they lie nearest to, so that what
 * was said of those holds for them. Pairs are taken nearest first; faces left over get ids of their own.
 * O(n2) of the faces.
 */
export function keepIds(older: readonly ImportedFace[], newer: readonly ImportedFace[]): ImportedFace[] {
	const [from, to] = [older, newer].map((faces) => faces.map(middleOf)) as [number[][], number[][]];
	const pairs = from
		.flatMap((a, o) => to.map((b, n) => ({ o, n, far: norm(a.map((x, c) => x - b[c]!)) })))
		.sort((a, b) => a.far - b.far || a.o - b.o || a.n - b.n);
	const ids = new Map<number, string>();
	const taken = new Set<number>();
	for (const { o, n } of pairs) {
		if (ids.has(n) || taken.has(o)) continue;
		ids.set(n, older[o]!.id);
		taken.add(o);
	}
	const used = new Set(ids.values());
	let next = 1;
	return newer.map((face, n) => {
		const known = ids.get(n);
		if (known) return { ...face, id: known };
		while (used.has(`face-${next}`)) next++;
		const id = `face-${next++}`;
		return { ...face, id };
	});
}

function middleOf({ points }: ImportedFace): number[] {
	const all = float64sOf(points);
	const sum = [0, 0, 0];
	all.forEach((x, o) => (sum[o % 3]! += x));
	return sum.map((s) => (s * 3) / all.length);
}
