import { expect } from 'chai';
import fc from 'fast-check';
import { createSurface, type Surface } from '../../../src/core/geometry/surface.ts';
import { evaluatePoints } from '../../../src/core/geometry/evaluate.ts';
import { isTensor } from '../../../src/core/settingout/places.ts';
import { unitOf } from '../../../src/core/tiling/units/unitOf.ts';
import { COINCIDENT_MM } from '../../../src/core/tolerances.ts';
import { divide } from '../divide.ts';
import { frustum, revolve, sphereZone } from '../surfaces.ts';
import { ALL_TILINGS, tile } from '../tile.ts';

const R = 10_000;
const chord = (n: number) => 2 * R * Math.sin(Math.PI / n);
const bulged = revolve(
	[
		[6000, 0],
		[9000, 4000],
		[4000, 9000]
	],
	2,
	[0, 0, 0, 1, 1, 1]
);

describe('places between the lines of a grid', () => {
	it('are at true length: a running bond around a cylinder has equal chords', () => {
		const { nodes, cells, all } = tile(frustum(R, R, 12_000), 8, 4, { kind: 'running-bond', offset: 0.5 });
		for (const width of all.column('cell.width')) expect(width).closeTo(chord(8), 1e-6);
		let level = 0;
		for (let e = 0; e < cells.edgeCount; e++) {
			const [a, b] = [cells.edgeNodes[e * 2]! * 3, cells.edgeNodes[e * 2 + 1]! * 3];
			const p = nodes.position;
			if (Math.abs(p[a + 2]! - p[b + 2]!) > 1) continue;
			// From joint to joint half a module, but for the lower and the upper border, where no other row meets it.
			const border = p[a + 2]! < 1 || p[a + 2]! > 11_999;
			expect(Math.hypot(p[a]! - p[b]!, p[a + 1]! - p[b + 1]!)).closeTo(chord(border ? 8 : 16), 1e-6);
			level++;
		}
		expect(level).equal(2 * 8 + 3 * 16);
	});

	for (const tiling of ALL_TILINGS.filter(({ kind }) => !['random', 'voronoi', 'icosahedral'].includes(kind)))
		it(`give cells that are alike by symmetry like figures, around faces of revolution: ${tiling.kind}`, () => {
			const unit = unitOf(tiling) ?? { width: 1, height: 1 };
			const around = unit.width * 8;
			for (const surface of [frustum(R, R, 9000), frustum(R, 4000, 9000), sphereZone(8000, -0.7, 1), bulged]) {
				const { all } = tile(surface, around, Math.max(6, unit.height * 2), tiling);
				const figures = ['cell.area', 'cell.z', 'cell.width', 'cell.warp'] as const;
				const columns = figures.map((name) => all.column(name));
				const rows = Array.from({ length: columns[0]!.length }, (_, c) => columns.map((column) => column[c]!));
				// Turned by an eighth each cell falls on another, so that every set of figures occurs eight times, or a multiple of it.
				const groups: number[][][] = [];
				for (const row of rows.sort((a, b) => a[1]! - b[1]! || a[0]! - b[0]!)) {
					const group = groups.find((g) => g[0]!.every((x, k) => Math.abs(x - row[k]!) <= (k === 0 ? 1e-6 * x : 1e-5)));
					if (group) group.push(row);
					else groups.push([row]);
				}
				for (const group of groups) expect(group.length % 8, `${group.length} of ${group[0]!.join()}`).equal(0);
			}
		});

	it('keep to levels where lines lie on levels', () => {
		// Tested with the spacings: here only that nodes of a tensor grid and of a free one agree on the same cylinder.
		const [a, b] = [divide(frustum(R, R, 9000), 16, 6), divide(frustum(R, R, 9000), 32, 12)];
		expect(isTensor(a)).to.be.true;
		for (let j = 0; j <= 6; j++)
			for (let i = 0; i <= 16; i++)
				for (let c = 0; c < 3; c++)
					expect(a.position[(j * 17 + i) * 3 + c]).closeTo(b.position[(j * 2 * 33 + i * 2) * 3 + c]!, 1e-7);
	});
});

/** A face with a crease across it: straight or bent pieces that meet in a corner at the share `at` of its parameter. */
function creased(degree: number, at: number, corners: readonly (readonly [number, number, number])[]): Surface {
	const points = [0, 1].map((v) =>
		Array.from({ length: 2 * degree + 1 }, (_, k): [number, number, number] => {
			const [x, y, z] = corners[(v * (2 * degree + 1) + k) % corners.length]!;
			return [k * 3000 + x, v * 9000 + y, z];
		})
	);
	const knots = [
		...Array<number>(degree + 1).fill(0),
		...Array<number>(degree).fill(at),
		...Array<number>(degree + 1).fill(1)
	];
	return createSurface({ degreeU: degree, degreeV: 1, knotsU: knots, knotsV: [0, 0, 1, 1], points });
}

/** Length of the row (or column) through a point up to it, and in all, by adding up 8000 chords between the knots. */
function lengthsThrough(surface: Surface, u: number, v: number, along: 'u' | 'v', crease: number): [number, number] {
	const n = 4000;
	const stops = along === 'u' ? [0, Math.min(u, crease), u, Math.max(u, crease), 1] : [0, v, 1];
	let [run, total] = [0, 0];
	stops.slice(1).forEach((to, s) => {
		const from = stops[s]!;
		const ts = Float64Array.from({ length: n + 1 }, (_, k) => from + ((to - from) * k) / n);
		const { position: p } =
			along === 'u'
				? evaluatePoints(
						surface,
						ts,
						ts.map(() => v)
					)
				: evaluatePoints(
						surface,
						ts.map(() => u),
						ts
					);
		let length = 0;
		for (let k = 1; k <= n; k++)
			length += Math.hypot(p[k * 3]! - p[k * 3 - 3]!, p[k * 3 + 1]! - p[k * 3 - 2]!, p[k * 3 + 2]! - p[k * 3 - 1]!);
		total += length;
		if (to <= (along === 'u' ? u : v)) run += length;
	});
	return [run, total];
}

describe('true length beside a crease', () => {
	it('is right on both sides of it, by adding up chords (brute force)', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 3 }),
				fc.double({ min: 0.3, max: 0.7, noNaN: true }),
				fc.array(
					fc.tuple(
						fc.integer({ min: -900, max: 900 }),
						fc.integer({ min: -900, max: 900 }),
						fc.integer({ min: -2500, max: 2500 })
					),
					{ minLength: 14, maxLength: 14 }
				),
				(degree, at, corners) => {
					const surface = creased(degree, at, corners);
					const nodes = divide(surface, 7, 5);
					for (const [i, j] of [
						[1, 1],
						[3, 2],
						[4, 3],
						[6, 4]
					] as const) {
						const k = j * nodes.columns + i;
						const [u, v] = isTensor(nodes) ? [nodes.us[i]!, nodes.vs[j]!] : [nodes.us[k]!, nodes.vs[k]!];
						const [acrossRun, across] = lengthsThrough(surface, u, v, 'u', at);
						const [upRun, up] = lengthsThrough(surface, u, v, 'v', at);
						expect(acrossRun, `across at ${i}, ${j}`).closeTo((across * i) / 7, COINCIDENT_MM);
						expect(upRun, `up at ${i}, ${j}`).closeTo((up * j) / 5, COINCIDENT_MM);
					}
				}
			),
			{ numRuns: 30, seed: 7 }
		);
	});
});
