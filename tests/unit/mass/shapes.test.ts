import { expect } from 'chai';
import fc from 'fast-check';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import { evaluateGridPoints } from '../../../src/core/geometry/evaluate.ts';
import { domainOf, type Surface } from '../../../src/core/geometry/surface.ts';
import { STANDING_FRAME, placeSurface, toWorld } from '../../../src/core/mass/frame.ts';
import { settleHeights } from '../../../src/core/mass/levels.ts';
import type { Profile } from '../../../src/core/mass/profile.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { kindOf, type Shape } from '../../../src/core/mass/shapes.ts';
import { divide } from '../divide.ts';
import { validateCells, type CellTable } from '../../../src/core/tiling/cells.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { signedVolume } from '../../../src/core/mesh/triangleMesh.ts';
import { gridMesh } from '../mesh/meshes.ts';
import { verbSurface } from '../oracle.ts';

const settled = (shape: Shape) => settleHeights(shape, new Map());
const surfacesOf = (shape: Shape): Surface[] => kindOf(shape).surfaces(settled(shape));
const areaOf = (shape: Shape) => surfacesOf(shape).reduce((sum, s) => sum + surfaceArea(s), 0);
const facesOf = (shape: Shape) =>
	kindOf(shape)
		.faces(settled(shape))
		.map((f) => f.id);
const drawn = (points: number[][], closed = false) => ({
	kind: 'drawn' as const,
	closed,
	rounding: 0,
	points: points.map(([x, y, arc = 0]) => ({ x: x!, y: y!, smooth: false, arc }))
});
const turned = (profile: Profile, more = {}): Shape => ({
	...PRESETS.revolution,
	profile,
	...more
});

/** Tiles a surface and counts V - E + F. */
function euler(surface: Surface, across: number, up: number): { cells: CellTable; number: number } {
	const nodes = divide(surface, across, up);
	const cells = tileRectangular(nodes);
	const used = new Set(cells.corners);
	expect(validateCells(cells, nodes.position.length / 3)).deep.equal([]);
	return { cells, number: used.size - cells.edgeCount + cells.count };
}

describe('shapes', () => {
	const names = Object.keys(PRESETS) as (keyof typeof PRESETS)[];

	for (const name of names)
		it(`makes a ${name} whose points and normals verb-nurbs finds too, with sound cells on every face`, () => {
			for (const surface of surfacesOf(PRESETS[name])) {
				const oracle = verbSurface(surface);
				const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
				const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
				const us = Float64Array.from([0.03, 0.37, 0.61, 0.97], (t) => u0 + t * (u1 - u0));
				const vs = Float64Array.from([0.05, 0.29, 0.71, 0.93], (t) => v0 + t * (v1 - v0));
				const { position, normal } = evaluateGridPoints(surface, us, vs);
				vs.forEach((v, j) =>
					us.forEach((u, i) => {
						const k = (j * 4 + i) * 3;
						oracle.point(u, v).forEach((x, c) => expect(position[k + c]).closeTo(x, 1e-6));
						const n = oracle.normal(u, v);
						const size = Math.hypot(...n);
						n.forEach((x, c) => expect(normal[k + c]).closeTo(x / size, 1e-8));
					})
				);
				euler(surface, 7, 5);
			}
		});

	it('has the areas of the handbook: cone frustum, torus, sphere zone, prism (from memory)', () => {
		expect(
			areaOf(
				turned(
					drawn([
						[5000, 0],
						[3000, 4000]
					])
				)
			)
		).closeTo(Math.PI * 8000 * Math.hypot(2000, 4000), 1);
		// Torus: 4 pi^2 R r.
		expect(areaOf(turned({ kind: 'circle', radius: 2000 }, { offset: 9000 }))).closeTo(
			4 * Math.PI ** 2 * 9000 * 2000,
			10
		);
		// Zone: 2 pi R h.
		const zone = { ...PRESETS.dome, radiusX: 6000, radiusY: 6000, radiusZ: 6000, bottom: -1000, ring: 4500 };
		expect(areaOf(zone)).closeTo(2 * Math.PI * 6000 * 5500, 10);
		expect(areaOf({ ...zone, bottom: -6000, ring: null })).closeTo(4 * Math.PI * 6000 ** 2, 100);
		const prism: Shape = {
			...PRESETS.extrusion,
			profile: { kind: 'polygon', sides: 6, radius: 4000, rounding: 0 },
			leanY: 0,
			top: 9000
		};
		expect(areaOf(prism)).closeTo(6 * 4000 * 9000, 1);
	});

	it('encloses the volumes of the handbook: torus 2 pi2 R r2, ball, ellipsoid 4/3 pi abc (from memory)', () => {
		const volumeOf = (shape: Shape) => {
			const [surface] = surfacesOf(shape);
			const [nu, nv] = [240, 120];
			const [u0, u1] = domainOf(surface!.knotsU, surface!.degreeU);
			const [v0, v1] = domainOf(surface!.knotsV, surface!.degreeV);
			const even = (n: number, a: number, b: number) =>
				Float64Array.from({ length: n + 1 }, (_, k) => a + ((b - a) * k) / n);
			const { position } = evaluateGridPoints(surface!, even(nu, u0, u1), even(nv, v0, v1));
			const mesh = gridMesh(
				nu,
				nv,
				(i, j) => [0, 1, 2].map((c) => position[(j * (nu + 1) + i) * 3 + c]!) as [number, number, number]
			);
			return signedVolume(mesh) / 6;
		};
		const ball = { ...PRESETS.dome, ring: null };
		expect(
			volumeOf(turned({ kind: 'circle', radius: 2000 }, { offset: 9000 })) / (2 * Math.PI ** 2 * 9000 * 2000 ** 2)
		).closeTo(1, 1e-3);
		expect(
			volumeOf({ ...ball, radiusX: 5000, radiusY: 5000, radiusZ: 5000, bottom: -5000 }) /
				((4 / 3) * Math.PI * 5000 ** 3)
		).closeTo(1, 1e-3);
		expect(
			volumeOf({ ...ball, radiusX: 7000, radiusY: 4000, radiusZ: 3000, bottom: -3000 }) /
				((4 / 3) * Math.PI * 7000 * 4000 * 3000)
		).closeTo(1, 1e-3);
	});

	it('follows Pappus: area = length of the profile times the way of its centroid (from memory)', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 2000, max: 9000 }),
				fc.integer({ min: 2000, max: 9000 }),
				fc.double({ min: 0.2, max: 6.28, noNaN: true }),
				(r1, r2, sweep) => {
					const length = Math.hypot(r2 - r1, 3000);
					const shape = turned(
						drawn([
							[r1, 0],
							[r2, 3000]
						]),
						{ sweep }
					);
					expect(areaOf(shape)).closeTo(length * ((r1 + r2) / 2) * sweep, 1);
				}
			),
			{ numRuns: 30 }
		);
	});

	it('gives an arc of a drawn line its exact radius', () => {
		// Two half circles: tangent of a quarter of 180 degrees is 1.
		const round: Shape = {
			...PRESETS.extrusion,
			profile: drawn(
				[
					[3000, 0, 1],
					[-3000, 0, 1]
				],
				true
			),
			leanY: 0,
			top: 1000
		};
		expect(facesOf(round)).deep.equal(['skin']);
		expect(areaOf(round)).closeTo(2 * Math.PI * 3000 * 1000, 1);
		// A rounded square is its sides less eight radii, and one circle.
		const rounded: Shape = {
			...PRESETS.extrusion,
			profile: { kind: 'rectangle', width: 8000, depth: 8000, rounding: 1000 },
			leanY: 0,
			top: 1000
		};
		expect(areaOf(rounded)).closeTo((4 * 6000 + 2 * Math.PI * 1000) * 1000, 1);
	});

	it('has V - E + F = 1 open, 0 as a tube, 2 as a ball (Euler; from memory)', () => {
		expect(euler(surfacesOf(PRESETS.vault)[0]!, 5, 4).number).equal(1);
		const tube = euler(surfacesOf(PRESETS.revolution)[0]!, 24, 10);
		expect([tube.number, tube.cells.count, tube.cells.edgeCount]).deep.equal([0, 240, 24 * 11 + 240]);
		const ball = euler(surfacesOf({ ...PRESETS.dome, radiusZ: 10_000, bottom: -10_000, ring: null })[0]!, 12, 8);
		expect(ball.number).equal(2);
		const triangles = [...ball.cells.cornerStart].filter((from, c, all) => all[c + 1]! - from === 3).length;
		expect(triangles).equal(24);
		const ring = euler(surfacesOf(turned({ kind: 'circle', radius: 2000 }, { offset: 9000 }))[0]!, 12, 6);
		expect([ring.number, ring.cells.edgeCount]).deep.equal([0, 144]);
	});

	it('says how many divisions a closed face needs', () => {
		const surface = surfacesOf(PRESETS.revolution)[0]!;
		expect(() => euler(surface, 2, 4)).throw('closes on itself across: it needs at least 3 divisions across, not 2');
	});

	it('faces outwards: away from the axis, upwards on roofs', () => {
		const outward = (shape: Shape, toward: (p: number[], n: number[]) => number) => {
			for (const surface of surfacesOf(shape)) {
				const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
				const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
				const { position, normal } = evaluateGridPoints(
					surface,
					Float64Array.of((u0 + u1) / 2),
					Float64Array.of((v0 + v1) / 2)
				);
				expect(toward([...position], [...normal])).greaterThan(0);
			}
		};
		const fromAxis = (p: number[], n: number[]) => p[0]! * n[0]! + p[1]! * n[1]!;
		for (const name of ['loft', 'tower', 'revolution', 'dome'] as const) outward(PRESETS[name], fromAxis);
		for (const name of ['vault', 'translation', 'hypar', 'control-net'] as const)
			outward(PRESETS[name], (_, n) => n[2]!);
		const falling = turned(
			drawn([
				[5000, 9000],
				[6000, 0]
			])
		);
		outward(falling, fromAxis);
	});

	it('parts walls at corners and keeps rounded ones whole', () => {
		expect(facesOf(PRESETS.block)).deep.equal(['wall-1', 'wall-2', 'wall-3', 'wall-4', 'roof']);
		const rounded: Shape = {
			...PRESETS.block,
			footprint: { ...PRESETS.block.footprint, rounding: 2000 } as never,
			roof: { kind: 'open' }
		};
		expect(facesOf(rounded)).deep.equal(['wall-1']);
		expect(facesOf(PRESETS.tower)).deep.equal(['side-1', 'side-2', 'side-3', 'side-4']);
		expect(areaOf(PRESETS.block)).closeTo(2 * (24_000 + 14_000) * 3 * 3600 + 24_000 * 14_000, 1);
	});

	it('pitches a roof evenly: its plan is the footprint, its slope everywhere the same', () => {
		const shape: Shape = { ...PRESETS.block, roof: { kind: 'pitched', height: 3500 } };
		expect(facesOf(shape).slice(4)).deep.equal(['roof-1', 'roof-2', 'roof-3', 'roof-4']);
		const roof = surfacesOf(shape)
			.slice(4)
			.reduce((sum, s) => sum + surfaceArea(s), 0);
		// The ridge stands 7 m from the long walls: a slope of 3.5 in 7.
		expect(roof * Math.cos(Math.atan2(3500, 7000))).closeTo(24_000 * 14_000, 1);
	});

	it('turns a tower without changing its sections, tapers it straight', () => {
		const [side] = surfacesOf({
			...PRESETS.tower,
			footprint: { kind: 'circle', radius: 9000 },
			stations: [
				{ at: 0, scale: 1, turn: 0 },
				{ at: 1, scale: 1, turn: 3 }
			]
		});
		const { position } = evaluateGridPoints(
			side!,
			Float64Array.of(0.1, 0.4, 0.9),
			Float64Array.from([0, 0.13, 0.5, 0.77, 1])
		);
		for (let o = 0; o < position.length; o += 3) expect(Math.hypot(position[o]!, position[o + 1]!)).closeTo(9000, 0.1);
		const cone = areaOf({
			...PRESETS.tower,
			footprint: { kind: 'circle', radius: 9000 },
			along: 'straight',
			stations: [
				{ at: 0, scale: 1, turn: 0 },
				{ at: 1, scale: 0.5, turn: 0 }
			]
		});
		expect(cone).closeTo(Math.PI * 13_500 * Math.hypot(60_000, 4500), 10);
		const stacked = areaOf({
			...PRESETS.tower,
			footprint: { kind: 'circle', radius: 9000 },
			along: 'straight',
			stations: [
				{ at: 0, scale: 1, turn: 0 },
				{ at: 0.5, scale: 1, turn: 0 },
				{ at: 1, scale: 0.5, turn: 0 }
			]
		});
		expect(stacked).closeTo(Math.PI * 18_000 * 30_000 + Math.PI * 13_500 * Math.hypot(30_000, 4500), 10);
	});

	it('lofts equal circles to an exact cylinder, and a changed middle section smoothly or straight', () => {
		const at = (height: number, radius: number) => ({
			...PRESETS.loft.sections[0]!,
			height,
			profile: { kind: 'circle' as const, radius }
		});
		const loft = (middle: number, along: 'smooth' | 'straight'): Shape => ({
			kind: 'loft',
			along,
			roof: 'open',
			sections: [at(0, 5000), at(4000, middle), at(8000, 5000)]
		});
		expect(areaOf(loft(5000, 'smooth'))).closeTo(2 * Math.PI * 5000 * 8000, 1);
		expect(areaOf(loft(3000, 'straight'))).closeTo(2 * Math.PI * 8000 * Math.hypot(2000, 4000), 10);
		expect(areaOf(loft(3000, 'smooth'))).lessThan(areaOf(loft(3000, 'straight')) - 1e6);
	});

	it('moves, turns and mirrors without changing areas, the outside staying outside', () => {
		const [surface] = surfacesOf(PRESETS.revolution);
		const frame = { x: 1000, y: -2000, z: 300, turn: 0.7, mirrored: true };
		const placed = placeSurface(surface!, frame);
		expect(surfaceArea(placed)).closeTo(surfaceArea(surface!), 1);
		const { position, normal } = evaluateGridPoints(placed, Float64Array.of(0.2), Float64Array.of(0.5));
		const [ax, ay] = toWorld(frame, [0, 0, 0]);
		expect((position[0]! - ax) * normal[0]! + (position[1]! - ay) * normal[1]!).greaterThan(0);
		expect(placeSurface(surface!, STANDING_FRAME)).equal(surface);
	});
});

describe('levels', () => {
	it('settle every height that hangs on one, less the mass’s own', () => {
		const levels = new Map([['eaves', 9000]]);
		const hung: Shape = { ...PRESETS.extrusion, top: { level: 'eaves', above: 250 } };
		expect(settleHeights(hung, levels)).deep.include({ base: 0, top: 9250 });
		expect(settleHeights(hung, levels, 1000)).deep.include({ top: 8250 });
		expect(() => settleHeights(hung, new Map([['ridge', 1]]))).throw('there is no level “eaves”; known: ridge');
	});
});
