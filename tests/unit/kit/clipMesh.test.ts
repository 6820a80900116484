import { expect } from 'chai';
import fc from 'fast-check';
import Manifold from 'manifold-3d';
import { clipMesh } from '../../../src/core/kit/clipMesh.ts';
import { meshVolume, type Mesh } from '../../../src/core/kit/mesh.ts';
import { unitBall, unitCylinder, UNIT_BOX } from '../../../src/core/kit/unitBodies.ts';
import { neighboursOf, NO_TRIANGLE } from '../../../src/core/mesh/triangleMesh.ts';
import type { Point } from '../../../src/core/geometry/curve.ts';

const grown = ({ positions, triangles }: Mesh): Mesh => ({ positions: positions.map((x) => x * 1000), triangles });
/** A square tube of 1000 x 1000 with a bore of 600, 2000 long. */
function tube(): Mesh {
	const ring = (half: number, z: number) => [-half, -half, z, half, -half, z, half, half, z, -half, half, z];
	const positions = [...ring(500, 0), ...ring(300, 0), ...ring(500, 2000), ...ring(300, 2000)];
	const triangles: number[] = [];
	const quad = (a: number, b: number, c: number, d: number) => triangles.push(a, b, c, a, c, d);
	for (let k = 0; k < 4; k++) {
		const n = (k + 1) % 4;
		quad(k, n, 8 + n, 8 + k);
		quad(4 + n, 4 + k, 12 + k, 12 + n);
		quad(n, k, 4 + k, 4 + n);
		quad(8 + k, 8 + n, 12 + n, 12 + k);
	}
	return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}
const BODIES = { box: grown(UNIT_BOX), ball: grown(unitBall(16)), cylinder: grown(unitCylinder(12)), tube: tube() };

/** No cut through one of them is larger, mm2. */
const CUT_MM2 = 2000 * 2500;
/** Whether a vertex lies nearly in a plane, and not in it. */
function nearlyIn({ positions }: Mesh, at: Point, normal: Point): boolean {
	for (let k = 0; k < positions.length; k += 3) {
		const h = [0, 1, 2].reduce((sum, c) => sum + (positions[k + c]! - at[c]!) * normal[c]!, 0);
		if (h !== 0 && Math.abs(h) < 0.01) return true;
	}
	return false;
}

const closed = (mesh: Mesh) => {
	const { neighbours, tangled } = neighboursOf(mesh.triangles);
	return tangled === 0 && !neighbours.includes(NO_TRIANGLE);
};
const unit = fc
	.tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }))
	.map(([z, a]): Point => [Math.sqrt(1 - z * z) * Math.cos(a), Math.sqrt(1 - z * z) * Math.sin(a), z]);
const mm = fc.double({ min: -400, max: 1400, noNaN: true });
const place = fc.tuple(mm, mm, mm);

describe('a closed body cut by a plane', () => {
	for (const [name, mesh] of Object.entries(BODIES))
		it(`parts into two closed bodies that add up to the whole: ${name}`, () => {
			fc.assert(
				fc.property(place, unit, (at, normal) => {
					const both = [normal, normal.map((x) => -x) as unknown as Point].map((n) => clipMesh(mesh, at, n));
					const volume = both.reduce((sum, half) => sum + (half ? meshVolume(half) : 0), 0);
					// What lies within 0.01 mm of the plane is taken to lie in it: the caps of both halves may be off by that over the cut.
					const off = nearlyIn(mesh, at, normal) ? (0.01 * CUT_MM2) / meshVolume(mesh) : 0;
					expect(volume / meshVolume(mesh)).to.be.closeTo(1, 1e-9 + off);
					for (const half of both) if (half) expect(closed(half)).to.equal(true);
				}),
				{
					numRuns: 60,
					// A plane that is turned by a hair, so that vertices lie nearly in it.
					examples: [
						[
							[0, 0, 0],
							[0.99999999995, 0.000009999999999816303, 0]
						]
					]
				}
			);
		});

	it('is what a package for solids cuts off, too (manifold-3d)', async () => {
		const wasm = await Manifold();
		wasm.setup();
		const mesh = BODIES.tube;
		const body = new wasm.Manifold(
			new wasm.Mesh({
				numProp: 3,
				vertProperties: Float32Array.from(mesh.positions),
				triVerts: mesh.triangles
			})
		);
		for (const [normal, at] of [
			[[0, 0.6, 0.8], 700],
			[[0.6, 0.48, 0.64], 500],
			[[0, 0, 1], 250]
		] as const) {
			const theirs = body.trimByPlane([...normal], at).volume();
			const ours = clipMesh(mesh, normal.map((x) => x * at) as unknown as Point, normal)!;
			expect(meshVolume(ours) / theirs).to.be.closeTo(1, 1e-5);
		}
	});

	it('stays as it is where the plane misses it, and is gone where it lies behind', () => {
		expect(clipMesh(BODIES.box, [0, 0, -1], [0, 0, 1])).to.equal(BODIES.box);
		expect(clipMesh(BODIES.box, [0, 0, 0], [0, 0, 1])).to.equal(BODIES.box);
		expect(clipMesh(BODIES.box, [0, 0, 1000], [0, 0, 1])).to.equal(undefined);
	});
});
