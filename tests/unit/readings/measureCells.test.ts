import { expect } from 'chai';
import fc from 'fast-check';
import { measureCells } from '../../../src/core/readings/measureCells.ts';

/** Readings of one cell with these corners. */
function read(...corners: [number, number, number][]) {
	const n = corners.length;
	const { columns } = measureCells(
		{ position: Float64Array.from(corners.flat()) },
		{
			count: 1,
			cornerStart: Uint32Array.of(0, n),
			corners: Uint32Array.from({ length: n }, (_, k) => k),
			row: Uint32Array.of(4),
			column: Uint32Array.of(7),
			edgeCount: 0,
			edgeNodes: new Uint32Array(),
			edgeCells: new Int32Array()
		}
	);
	return (name: keyof typeof columns) => columns[name][0]!;
}

const degrees = (radians: number) => (radians * 180) / Math.PI;

describe('readings of a cell', () => {
	it('measures an upright rectangle facing south', () => {
		const r = read([0, 0, 3000], [1500, 0, 3000], [1500, 0, 5400], [0, 0, 5400]);
		expect([r('row'), r('column')]).deep.equal([5, 8]);
		expect([r('width'), r('height'), r('area'), r('warp')].map((x) => Math.round(x * 1e6) / 1e6)).deep.equal([
			1500, 2400, 3.6e6, 0
		]);
		expect([r('edge1'), r('edge2'), r('edge3'), r('edge4'), r('perimeter')]).deep.equal([1500, 2400, 1500, 2400, 7800]);
		expect(degrees(r('tilt'))).closeTo(90, 1e-12);
		expect(degrees(r('bearing'))).closeTo(180, 1e-12);
		expect(r('elevation')).equal(3000);
	});

	it('reads tilt and bearing of a roof that falls to the east at 30 degrees', () => {
		const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
		const r = read([0, 0, 1000], [1000 * c, 0, 1000 - 1000 * s], [1000 * c, 2000, 1000 - 1000 * s], [0, 2000, 1000]);
		expect(degrees(r('tilt'))).closeTo(30, 1e-10);
		expect(degrees(r('bearing'))).closeTo(90, 1e-10);
	});

	it('has no fourth edge on a triangle, and the warp of three corners is nothing', () => {
		const r = read([0, 0, 0], [300, 0, 0], [0, 400, 0]);
		expect([r('edge1'), r('edge2'), r('edge3')]).deep.equal([300, 500, 400]);
		expect(r('edge4')).NaN;
		expect([r('area'), r('warp'), r('perimeter')]).deep.equal([60_000, 0, 1200]);
	});

	it('takes as warp the distance of the two diagonals (their common perpendicular)', () => {
		const x = fc.double({ min: -400, max: 400, noNaN: true });
		fc.assert(
			fc.property(fc.array(x, { minLength: 12, maxLength: 12 }), (d) => {
				const base = [
					[0, 0, 0],
					[2000, 0, 0],
					[2000, 2000, 0],
					[0, 2000, 0]
				];
				const p = base.map((q, k) => q.map((v, c) => v + d[k * 3 + c]!) as [number, number, number]);
				const [a, b] = [minus(p[2]!, p[0]!), minus(p[3]!, p[1]!)];
				const n = cross(a, b);
				const distance = Math.abs(dot(minus(p[1]!, p[0]!), n)) / Math.hypot(...n);
				expect(read(...p)('warp')).closeTo(distance, 1e-8);
			})
		);
	});

	it('does not depend on where the cell stands, nor on how far it is turned about z', () => {
		const p: [number, number, number][] = [
			[0, 0, 0],
			[1400, 30, 80],
			[1500, 1300, -60],
			[20, 1200, 90]
		];
		const before = read(...p);
		const turn = (q: [number, number, number]): [number, number, number] => [-q[1] + 5e5, q[0] - 2e5, q[2] + 9000];
		const after = read(...(p.map(turn) as typeof p));
		for (const name of ['width', 'height', 'area', 'warp', 'perimeter', 'tilt'] as const)
			expect(after(name) / before(name)).closeTo(1, 1e-9);
		expect(after('elevation')).closeTo(before('elevation') + 9000, 1e-6);
	});

	it('gives an area of nothing for cells of no size', () => {
		expect(read([1, 1, 1], [1, 1, 1], [1, 1, 1])('area')).equal(0);
		expect(read([0, 0, 0], [1, 0, 0], [2, 0, 0], [3, 0, 0])('area')).equal(0);
	});
});

type Vector = [number, number, number];
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vector, b: Vector): Vector => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0]
];
