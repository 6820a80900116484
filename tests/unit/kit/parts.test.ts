import { expect } from 'chai';
import fc from 'fast-check';
import { meshVolume, weldedMesh } from '../../../src/core/kit/mesh.ts';
import { meshArea } from '../../../src/core/mesh/triangleMesh.ts';
import { sidesOf } from '../../../src/core/schedule/oneSide.ts';
import type { KitInput } from '../../../src/core/kit/schema.ts';
import { far, kitOf, level, rectangle, regular, run } from './make.ts';

const outline = { kind: 'outline', name: 'outline' } as const;
const part = { role: 'panel', material: 'aluminium' } as const;
type Step = KitInput['steps'][number];

describe('bars', () => {
	for (const n of [3, 4, 6, 9])
		it(`mitre a regular polygon of ${n} at 180 / ${n} degrees off square, and fill what two rings enclose`, async () => {
			const [radius, w, d] = [1000, 60, 100];
			const kit = kitOf([outline, { kind: 'bar', name: 'bars', ...part, line: 'outline', width: w, depth: d }]);
			const made = await run(kit, regular(n, radius));
			const side = 2 * radius * Math.sin(Math.PI / n);
			expect(made.total('bars', 'length')).closeTo(n * side, 1e-6);
			expect(made.total('bars', 'pieces')).equal(n);
			const [mesh] = made.meshes('bars');
			// A mitred ring of bars is the prism between polygons of apothems a + w/2 and a - w/2 (plane geometry).
			const a = radius * Math.cos(Math.PI / n);
			const between = n * Math.tan(Math.PI / n) * ((a + w / 2) ** 2 - (a - w / 2) ** 2);
			expect(meshVolume(mesh!) / (between * d)).closeTo(1, 1e-9);
			expect(made.total('bars', 'volume') / (between * d)).closeTo(1, 1e-9);
			// The cut end leans by half the turn, 180 / n, from square: outer and inner edges differ by w tan(180 / n) at each end.
			const points = Array.from({ length: mesh!.positions.length / 3 }, (_, k) => [
				...mesh!.positions.subarray(k * 3, k * 3 + 3)
			]);
			const lengths = [0, 1, 2, 3].map((k) => far(points[n + k]!, points[n + 4 + k]!)).sort((x, y) => x - y);
			expect(lengths[0]).closeTo(side - w * Math.tan(Math.PI / n), 1e-6);
			expect(lengths[3]).closeTo(side + w * Math.tan(Math.PI / n), 1e-6);
		});

	for (const [profile, section] of [
		['rectangle', 60 * 100],
		['hollow', 60 * 100 - 50 * 90],
		['round', Math.PI * 30 ** 2],
		['tube', Math.PI * (30 ** 2 - 25 ** 2)],
		['tee', 60 * 5 + 95 * 5],
		['angle', 60 * 5 + 95 * 5],
		['channel', 60 * 5 + 2 * 95 * 5]
	] as const)
		it(`weigh a ${profile} as its section times its length, and close it`, async () => {
			const kit = kitOf(
				[
					outline,
					{ kind: 'cut', name: 'axis', of: 'outline', start: 40, end: 60 },
					{ kind: 'bar', name: 'bar', ...part, line: 'axis', profile, width: 60, depth: 100, wall: 5 }
				],
				[],
				{ kind: 'edge' }
			);
			const made = await run(kit, {
				kind: 'edge',
				points: [
					[0, 0, 0],
					[1000, 300, 2000]
				]
			});
			const length = Math.hypot(1000, 300, 2000) - 100;
			expect(made.total('bar', 'length')).closeTo(length, 1e-9);
			expect(made.total('bar', 'volume')).closeTo(section * length, 1e-6);
			// Round ones are drawn in 16 pieces, which are a little slimmer.
			const drawn = meshVolume(made.meshes('bar')[0]!) / (section * length);
			expect(drawn).closeTo(
				profile === 'round' || profile === 'tube' ? (16 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 16) : 1,
				1e-9
			);
		});

	for (const profile of ['hollow', 'tube', 'tee', 'angle', 'channel'] as const)
		it(`close a ${profile} by ends that lie over themselves nowhere, however thin its wall (property)`, () =>
			fc.assert(
				fc.asyncProperty(
					fc.double({ min: 40, max: 300, noNaN: true }),
					fc.double({ min: 40, max: 300, noNaN: true }),
					fc.double({ min: 0.01, max: 0.45, noNaN: true }),
					async (width, depth, thin) => {
						const wall = thin * Math.min(width, depth);
						const bar = { kind: 'bar', name: 'bar', ...part, line: 'outline', profile, width, depth, wall } as const;
						const upright = [0, 1000].map((z): [number, number, number] => [0, 0, z]);
						const made = await run(kitOf([outline, bar], [], { kind: 'edge' }), { kind: 'edge', points: upright });
						const { positions: p, triangles: t } = made.meshes('bar')[0]!;
						let ends = 0;
						for (let k = 0; k < t.length; k += 3) {
							const [a, b, c] = [t[k]! * 3, t[k + 1]! * 3, t[k + 2]! * 3] as const;
							if (p[a + 2] !== p[b + 2] || p[a + 2] !== p[c + 2]) continue;
							ends +=
								Math.abs((p[b]! - p[a]!) * (p[c + 1]! - p[a + 1]!) - (p[b + 1]! - p[a + 1]!) * (p[c]! - p[a]!)) / 2;
						}
						// Both ends together are twice the section, which is what the bar's volume is over its length.
						expect(ends / ((2 * meshVolume(made.meshes('bar')[0]!)) / 1000)).closeTo(1, 1e-9);
					}
				),
				{ numRuns: 40 }
			));

	it('run along all edges of an icosahedron alike: one length and one dihedral (Coxeter, memory)', async () => {
		const g = (1 + Math.sqrt(5)) / 2;
		const corners = [
			[0, 1, g],
			[0, -1, g],
			[0, 1, -g],
			[0, -1, -g],
			[1, g, 0],
			[-1, g, 0],
			[1, -g, 0],
			[-1, -g, 0],
			[g, 0, 1],
			[g, 0, -1],
			[-g, 0, 1],
			[-g, 0, -1]
		].map((p) => p.map((x) => x * 500) as [number, number, number]);
		const kit = kitOf(
			[
				outline,
				{ kind: 'bar', name: 'bar', ...part, line: 'outline', profile: 'round', width: 40, start: -25, end: -25 }
			],
			[],
			{ kind: 'edge' }
		);
		let edges = 0;
		for (let a = 0; a < 12; a++)
			for (let b = a + 1; b < 12; b++) {
				if (Math.abs(far(corners[a]!, corners[b]!) - 1000) > 1e-6) continue;
				edges++;
				expect((await run(kit, { kind: 'edge', points: [corners[a]!, corners[b]!] })).total('bar', 'length')).closeTo(
					950,
					1e-9
				);
			}
		expect(edges).equal(30);
	});

	it('keep a length that cannot be from standing', async () => {
		const kit = kitOf([outline, { kind: 'bar', name: 'bar', ...part, line: 'outline', start: -60, end: -60 }], [], {
			kind: 'edge'
		});
		expect(
			(
				await run(kit, {
					kind: 'edge',
					points: [
						[0, 0, 0],
						[100, 0, 0]
					]
				})
			).failures
		).deep.equal(['bar: the bar is shorter than its ends cut off; right would be a longer line or a slimmer profile']);
	});
});

describe('sheets, plates and ribbons', () => {
	it('give the frustum of a cone its area pi (r1 + r2) s (handbook, memory)', async () => {
		const n = 60;
		const kit = kitOf([
			outline,
			{ kind: 'inset', name: 'smaller', of: 'outline', by: 'ratio', distance: 0.4 },
			{ kind: 'lift', name: 'upper', of: 'smaller', distance: 700 },
			{ kind: 'ribbon', name: 'skin', ...part, from: 'outline', to: 'upper', thickness: 2 }
		]);
		const made = await run(kit, regular(n, 1000));
		const [r1, r2] = [1000, 600];
		const cone = Math.PI * (r1 + r2) * Math.hypot(r1 - r2, 700);
		expect(made.total('skin', 'area') / cone).within(1 - 0.003, 1);
		// The pyramid itself: n trapezoids between apothems a1 and a2.
		const half = Math.tan(Math.PI / n);
		const [a1, a2] = [r1, r2].map((r) => r * Math.cos(Math.PI / n)) as [number, number];
		expect(made.total('skin', 'area')).closeTo(n * half * (a1 + a2) * Math.hypot(a1 - a2, 700), 1e-3);
	});

	it('fold over either diagonal, lie flat, or run to a point', async () => {
		const sheet = (shape: 'fold13' | 'fold24' | 'flat' | 'warped' | 'centre'): Step => ({
			kind: 'sheet',
			name: shape,
			...part,
			outline: 'outline',
			shape,
			thickness: 1
		});
		const kit = kitOf([outline, sheet('fold13'), sheet('fold24'), sheet('flat'), sheet('warped'), sheet('centre')]);
		const h = 300;
		const made = await run(kit, level([0, 0, 0], [1000, 0, h], [1000, 1000, 0], [0, 1000, h]));
		// Folded: two triangles with a base of sqrt 2 m and a height of hypot(0.5 sqrt 2 m, h).
		const folded = Math.SQRT2 * 1000 * Math.hypot((Math.SQRT2 * 1000) / 2, h);
		for (const shape of ['fold13', 'fold24'] as const) expect(made.total(shape, 'area')).closeTo(folded, 1e-6);
		expect(made.total('flat', 'area')).closeTo(1e6, 1e-6);
		expect(made.total('warped', 'area')).within(1e6, folded);
		expect(made.total('centre', 'area')).within(1e6, folded);
	});

	it('weigh a plate with holes, whose walls close it, by its area and thickness', async () => {
		const kit = kitOf([
			outline,
			{ kind: 'inset', name: 'rim', of: 'outline', distance: 200 },
			{ kind: 'round', name: 'hole', of: 'rim', radius: 100, pieces: 8 },
			{ kind: 'plate', name: 'plate', ...part, outline: 'outline', thickness: 30, holes: ['hole'] },
			{ kind: 'plate', name: 'whole', ...part, outline: 'outline', thickness: 30, side: 'both' }
		]);
		const made = await run(kit, rectangle(1200, 900));
		const [mesh] = made.meshes('plate');
		// Drawn are eight pieces a corner.
		expect(meshVolume(mesh!) / made.total('plate', 'volume')).closeTo(1, 1e-3);
		expect(made.total('plate', 'area') / (1200 * 900 - (800 * 500 - (4 - Math.PI) * 1e4))).closeTo(1, 1e-12);
		expect(made.total('plate', 'volume') / made.total('plate', 'area')).closeTo(30, 1e-9);
		expect(meshVolume(made.meshes('whole')[0]!)).closeTo(1200 * 900 * 30, 1e-3);
		expect(meshArea(made.meshes('whole')[0]!)).closeTo(2 * 1200 * 900 + 2 * (1200 + 900) * 30, 1e-3);
	});

	it('refuse a hole that is larger than its plate, on that host alone', async () => {
		const kit = kitOf([
			outline,
			{ kind: 'inset', name: 'hole', of: 'outline', distance: -50 },
			{ kind: 'plate', name: 'plate', ...part, outline: 'outline', thickness: 30, holes: ['hole'] }
		]);
		expect((await run(kit, rectangle(600, 600))).failures).deep.equal([
			'plate: a hole is larger than what it is cut from; right would be a smaller hole'
		]);
	});
});

describe('screens', () => {
	for (const tiles of ['squares', 'hexagons', 'voronoi'] as const)
		for (const opening of ['field', 'round'] as const)
			it(`add up: ${tiles} with ${opening} openings and the plate make the cell`, async () => {
				const screen = (name: string, share: number): Step => ({
					kind: 'screen',
					name,
					...part,
					outline: 'outline',
					tiles,
					opening,
					spacing: 150,
					share,
					margin: 40,
					thickness: 4
				});
				const kit = kitOf([outline, screen('open', 0.4), screen('shut', 0)]);
				for (const host of [
					rectangle(1500, 900),
					regular(5, 800),
					level([0, 0, 0], [1200, 0, 150], [1300, 1000, 0], [0, 1000, 120])
				]) {
					const made = await run(kit, host);
					const [open, shut] = [made.total('open', 'area'), made.total('shut', 'area')];
					const cell = meshArea(
						(
							await run(
								kitOf([
									outline,
									{
										kind: 'sheet',
										name: 's',
										...part,
										outline: 'outline',
										shape: host.points.length === 4 ? 'warped' : 'fan',
										thickness: 1
									}
								]),
								host
							)
						).meshes('s')[0]!
					);
					expect(shut / cell).closeTo(1, 0.01);
					expect(open / shut).within(0.6, 0.85);
					const mesh = made.meshes('open')[0]!;
					// Closed: every side of a triangle is that of one other, or of three where two openings meet in a corner.
					for (const name of ['open', 'shut'])
						expect(
							sidesOf([...weldedMesh(made.meshes(name)[0]!).triangles]).filter((s) => s.length % 2 === 1)
						).deep.equal([]);
					if (!host.points.every((p) => p[2] === 0)) continue;
					// Round openings are drawn in 16 pieces, and measured as circles.
					const drawn = opening === 'round' ? (16 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 16) : 1;
					expect((shut * 4 - meshVolume(mesh)) / ((shut - open) * 4)).closeTo(drawn, 1e-6);
				}
			});

	it('grade from below to above', async () => {
		const kit = kitOf([
			outline,
			{
				kind: 'screen',
				name: 'graded',
				...part,
				outline: 'outline',
				spacing: 100,
				share: 0.1,
				shareEnd: 0.7,
				margin: 0,
				thickness: 0
			}
		]);
		const made = await run(kit, rectangle(1000, 1000));
		// Squares of 100: row k of ten is open by 0.1 + 0.6 (k - 0.5) / 10 of itself.
		const open = Array.from({ length: 10 }, (_, k) => 10 * 1e4 * (0.1 + 0.6 * ((k + 0.5) / 10))).reduce(
			(a, b) => a + b,
			0
		);
		expect(made.total('graded', 'area')).closeTo(1e6 - open, 1e-3);
	});
});
