import { expect } from 'chai';
import { fillOf } from '../../../src/lib/stage/highlight.ts';

describe('cells lit up', () => {
	it('are tinted within their line and nowhere else, also where it is dented', () => {
		// An L of 3 by 3 with a notch of 2 by 2, upright; its fourth corner is the dent.
		const points = [
			[0, 0],
			[3, 0],
			[3, 1],
			[1, 1],
			[1, 3],
			[0, 3]
		];
		const nodes = Float32Array.from(points.flatMap(([x, z]) => [x!, 5, z!]));
		for (let turn = 0; turn < 6; turn++) {
			const ring = Uint32Array.from(points, (_, k) => (k + turn) % 6);
			const fill = fillOf(ring, nodes);
			let area = 0;
			for (let t = 0; t < fill.length; t += 3) {
				const [a, b, c] = fill.slice(t, t + 3).map((n) => [nodes[n * 3]!, nodes[n * 3 + 2]!]) as [
					number[],
					number[],
					number[]
				];
				area += Math.abs((b[0]! - a[0]!) * (c[1]! - a[1]!) - (b[1]! - a[1]!) * (c[0]! - a[0]!)) / 2;
			}
			expect(area).equal(5);
		}
	});
});
