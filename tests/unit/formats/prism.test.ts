import { expect } from 'chai';
import fc from 'fast-check';
import earcut from 'earcut';
import { prismOf, sweptOf } from '../../../src/core/formats/ifc/prism.ts';
import type { Mesh } from '../../../src/core/kit/mesh.ts';

type Flat = readonly (readonly [number, number])[];

/** A star-shaped outline, moved from the ground along a line, closed at both ends. */
function swept(loops: readonly Flat[], along: readonly [number, number, number]): Mesh {
	const flat = loops.flat();
	const holes = loops.slice(1).map((_, k) => loops.slice(0, k + 1).reduce((n, l) => n + l.length, 0));
	const cap = earcut(flat.flat(), holes);
	const n = flat.length;
	const triangles: number[] = [];
	for (let t = 0; t < cap.length; t += 3) {
		const [a, b, c] = cap.slice(t, t + 3) as [number, number, number];
		triangles.push(a, c, b, a + n, b + n, c + n);
	}
	let from = 0;
	for (const loop of loops) {
		loop.forEach((_, k) => {
			const [a, b] = [from + k, from + ((k + 1) % loop.length)];
			triangles.push(a, b, b + n, a, b + n, a + n);
		});
		from += loop.length;
	}
	const positions = [
		...flat.map(([x, y]) => [x, y, 0]),
		...flat.map(([x, y]) => [x + along[0], y + along[1], along[2]])
	];
	return { positions: Float64Array.from(positions.flat()), triangles: Uint32Array.from(triangles) };
}

/** Signed area. Source: the shoelace formula. */
const area = (loop: readonly number[]) => {
	let twice = 0;
	for (let k = 0; k < loop.length; k += 2) {
		const n = (k + 2) % loop.length;
		twice += loop[k]! * loop[n + 1]! - loop[n]! * loop[k + 1]!;
	}
	return twice / 2;
};

const star = fc
	.array(fc.double({ min: 20, max: 100, noNaN: true }), { minLength: 3, maxLength: 12 })
	.map((radii): Flat =>
		radii.map((r, k) => [
			r * Math.cos((k * 2 * Math.PI) / radii.length),
			r * Math.sin((k * 2 * Math.PI) / radii.length)
		])
	);
const line = fc.tuple(
	fc.double({ min: -300, max: 300, noNaN: true }),
	fc.double({ min: -300, max: 300, noNaN: true }),
	fc.double({ min: 50, max: 3000, noNaN: true })
);

describe('prisms', () => {
	it('are told with their outline, which way they go and how far, oblique ones, too (property)', () => {
		fc.assert(
			fc.property(star, line, fc.boolean(), (outline, along, hollow) => {
				const loops = hollow ? [outline, outline.map(([x, y]) => [x * 0.1, y * 0.1] as const).reverse()] : [outline];
				const mesh = swept(loops, along);
				const prism = prismOf(mesh);
				expect(prism).not.equal(undefined);
				const found = sweptOf(prism!, mesh.positions)!;
				const areas = found.loops.map(area);
				expect(areas.length).equal(loops.length);
				const whole = areas.reduce((sum, a, k) => sum + (k === 0 ? Math.abs(a) : -Math.abs(a)), 0);
				const right = loops.reduce((sum, l, k) => sum + (k === 0 ? 1 : -1) * Math.abs(area(l.flat())), 0);
				expect(whole).closeTo(right, 1e-6 * right);
				expect(areas[0]).greaterThan(0);
				expect(found.depth).closeTo(Math.hypot(...along), 1e-6);
				// The volume: outline times how far it goes upright.
				expect(whole * found.depth * Math.abs(found.direction[2])).closeTo(right * along[2], 1e-5 * right * along[2]);
				expect(found.direction[2]).greaterThan(0);
			}),
			{ numRuns: 150 }
		);
	});

	it('are none where an end is mitred, warped, or not there', () => {
		const square: Flat = [
			[0, 0],
			[50, 0],
			[50, 100],
			[0, 100]
		];
		const mesh = swept([square], [0, 0, 1000]);
		const moved = (point: number, by: number): Mesh => ({
			...mesh,
			positions: mesh.positions.map((v, k) => (k === point * 3 + 2 ? v + by : v))
		});
		expect(prismOf(mesh)).not.equal(undefined);
		expect(prismOf(moved(6, 20))).equal(undefined);
		expect(prismOf({ ...mesh, triangles: mesh.triangles.slice(6) })).equal(undefined);
	});
});
