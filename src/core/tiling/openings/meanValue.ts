import { hypot } from '../../elementary/index.ts';
import { SAME_FLAT_MM } from '../../tolerances.ts';
import type { Ring } from './rings.ts';

/**
 * Shares of a polygon's corners that add up to 1 and give a point within it back: along a side only its two
 * ends have one, and what is flat stays flat. Source: Floater, Mean value coordinates, CAGD 20 (2003);
 * Hormann and Floater, ACM TOG 25 (2006), for points on sides.
 */
export function meanValueShares(ring: Ring, x: number, y: number): Float64Array {
	const n = ring.length;
	const shares = new Float64Array(n);
	const far = ring.map(([px, py]) => hypot(px - x, py - y));
	const corner = far.findIndex((r) => r < SAME_FLAT_MM);
	if (corner >= 0) {
		shares[corner] = 1;
		return shares;
	}
	const area = new Float64Array(n);
	const product = new Float64Array(n);
	for (let k = 0; k < n; k++) {
		const [a, b] = [ring[k]!, ring[(k + 1) % n]!];
		area[k] = ((a[0] - x) * (b[1] - y) - (b[0] - x) * (a[1] - y)) / 2;
		product[k] = (a[0] - x) * (b[0] - x) + (a[1] - y) * (b[1] - y);
		const length = hypot(b[0] - a[0], b[1] - a[1]);
		if (Math.abs(area[k]! * 2) < SAME_FLAT_MM * length && product[k]! < 0) {
			const next = (k + 1) % n;
			const total = far[k]! + far[next]!;
			shares[k] = far[next]! / total;
			shares[next] = far[k]! / total;
			return shares;
		}
	}
	let total = 0;
	for (let k = 0; k < n; k++) {
		const before = (k + n - 1) % n;
		const next = (k + 1) % n;
		let w = 0;
		if (area[before] !== 0) w += (far[before]! - product[before]! / far[k]!) / area[before]!;
		if (area[k] !== 0) w += (far[next]! - product[k]! / far[k]!) / area[k]!;
		shares[k] = w;
		total += w;
	}
	return shares.map((w) => w / total);
}
