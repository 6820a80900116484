import { expect } from 'chai';
import { READING_NAMES, READINGS } from '../../../src/core/readings/faceReadings.ts';
import { pointOn } from '../../../src/core/geometry/pointOn.ts';
import { curvaturesAt } from '../../../src/core/geometry/curvatures.ts';
import { curveSegments } from '../../../src/core/readings/edgeCurves.ts';
import { ALL_TILINGS, sum, tile, type TilingInput } from '../tile.ts';
import { measureSolid } from '../solids.ts';
import { frustum, hypar, rectangle, revolve, sphereZone, wavy } from '../surfaces.ts';

const degrees = (radians: number) => (radians * 180) / Math.PI;
const spread = (values: Float64Array) => [Math.min(...values), Math.max(...values)] as const;

describe('readings of edges and nodes', () => {
	// Angles between neighbouring faces: Coxeter, Regular Polytopes, table I.
	for (const [name, dihedral, valence] of [
		['tetrahedron', 70.5288, 3],
		['cube', 90, 3],
		['octahedron', 109.4712, 4],
		['dodecahedron', 116.5651, 3],
		['icosahedron', 138.1897, 5]
	] as const)
		it(`${name}: ${dihedral} degrees between its faces, ${valence} edges at a node, defects that add up to 4 pi (Descartes)`, () => {
			const { edges, nodes } = measureSolid(name);
			for (const angle of edges.dihedral) expect(degrees(angle)).closeTo(dihedral, 1e-4);
			expect(new Set(nodes.valence)).deep.equal(new Set([valence]));
			expect(sum(nodes.defect)).closeTo(4 * Math.PI, 1e-9);
			expect(new Set(edges.length.map((l) => Math.round(l * 1e9))).size).equal(1);
		});

	it('defects add up to 4 pi on a closed ball, whatever its tiling with flat cells (Gauss and Bonnet)', () => {
		for (const tiling of ALL_TILINGS) {
			// Angles of warped cells add up to less than those of flat ones.
			const flat = ['triangles', 'fans', 'staggered', 'icosahedral'].includes(tiling.kind);
			if (!flat) continue;
			const { all } = tile(sphereZone(4000, -Math.PI / 2, Math.PI / 2), 20, 12, tiling);
			expect(sum(all.column('node.defect').filter((d) => !Number.isNaN(d))), tiling.kind).closeTo(4 * Math.PI, 1e-6);
		}
	});

	it('a ridge is less than half a turn, a valley more, a flat face exactly half', () => {
		const inside = (surface: Parameters<typeof tile>[0], kind: 'rectangular' | 'diamonds' = 'rectangular') =>
			tile(surface, 8, 6, { kind })
				.all.column('edge.dihedral')
				.filter((x) => !Number.isNaN(x));
		for (const angle of inside(rectangle(8000, 6000))) expect(angle).closeTo(Math.PI, 1e-9);
		expect(spread(inside(frustum(4000, 4000, 6000)))[1]).most(Math.PI + 1e-9);
		const [least, greatest] = spread(inside(hypar(1e-5, 8000, 8000), 'diamonds'));
		expect(least).below(Math.PI - 1e-3);
		expect(greatest).above(Math.PI + 1e-3);
		// Along its rulings a saddle is only twisted from cell to cell, and no cell lies above its neighbour's plane.
		for (const angle of inside(hypar(1e-5, 8000, 8000))) expect(angle).within(Math.PI - 0.05, Math.PI - 1e-3);
	});

	it('edges of a dome dive from both ends by half the angle that they span at its centre, and do not twist (Kenner, from memory)', () => {
		const radius = 4000;
		const h = Math.SQRT1_2;
		const corners = [
			[0, -1],
			[1, -1],
			[1, 0],
			[1, 1],
			[0, 1]
		] as const;
		const ball = revolve(
			corners.map(([x, z]) => [x * radius, z * radius] as const),
			2,
			[0, 0, 0, 1, 1, 2, 2, 2],
			[1, h, 1, h, 1]
		);
		const { all } = tile(ball, 20, 12, {
			kind: 'icosahedral',
			frequency: 2,
			border: 'cut'
		});
		const [length, start, end, twist] = (['length', 'startAngle', 'endAngle', 'twist'] as const).map((n) =>
			all.column(`edge.${n}`)
		);
		// Two kinds of struts, 0.54653 R and 0.61803 R: axial angles of 74.1 and 72.0 degrees.
		const lengths = [...new Set(Array.from(length!, (l) => (l / radius).toFixed(5)))].sort();
		expect(lengths).deep.equal(['0.54653', '0.61803']);
		length!.forEach((l, e) => {
			expect(start![e]).closeTo(-Math.asin(l / 2 / radius), 1e-5);
			expect(end![e]).closeTo(start![e]!, 1e-5);
			expect(twist![e]).closeTo(0, 1e-5);
		});
	});

	it('edges of a saddle z = kxy twist by the angles of its normals, as a right-hand screw or a left-hand one', () => {
		const k = 2e-5;
		const { all, cells, nodes } = tile(hypar(k, 8000, 6000), 4, 3, { kind: 'rectangular' });
		const twist = all.column('edge.twist');
		for (let e = 0; e < cells.edgeCount; e++) {
			const [a, b] = [cells.edgeNodes[e * 2]!, cells.edgeNodes[e * 2 + 1]!].sort((p, q) => p - q) as [number, number];
			const at = (n: number, c: number) => nodes.position[n * 3 + c]!;
			// Along x, at y: the edge is straight, and normals (-ky, -kx, 1) turn about it by atan(kx / sqrt(1 + k²y²)).
			const across = at(a, 1) === at(b, 1);
			const other = across ? at(a, 1) : at(a, 0);
			const angle = (n: number) => Math.atan((k * at(n, across ? 0 : 1)) / Math.sqrt(1 + k * k * other * other));
			expect(Math.abs(twist[e]!)).closeTo(Math.abs(angle(b) - angle(a)), 1e-6);
			expect(Math.sign(twist[e]!)).equal(across ? 1 : -1);
		}
	});

	it('tells edges across, up, slanting and on the border apart', () => {
		const { all, cells } = tile(rectangle(8000, 6000), 4, 3, { kind: 'triangles' });
		const kinds = all.column('edge.kind');
		const count = (name: string) => kinds.filter((k) => READINGS['edge.kind'].kinds![k] === name).length;
		expect([count('across'), count('up'), count('diagonal'), count('border')]).deep.equal([4 * 2, 3 * 3, 12, 14]);
		expect(cells.edgeCount).equal(8 + 9 + 12 + 14);
		expect(sum(all.column('edge.length'))).closeTo(4 * 8000 + 5 * 6000 + 12 * Math.hypot(2000, 2000), 1e-6);
		for (const slope of all.column('edge.slope')) expect(slope).equal(0);
	});

	it('angles of a flat cell add up to (n - 2) half turns, and diagonals are those of its corners', () => {
		const { all } = tile(rectangle(8000, 6000), 4, 3, { kind: 'rectangular' });
		for (const k of [1, 2, 3, 4] as const)
			for (const angle of all.column(`cell.angle${k}`)) expect(degrees(angle)).closeTo(90, 1e-9);
		for (const d of [1, 2] as const)
			for (const length of all.column(`cell.diagonal${d}`)) expect(length).closeTo(Math.hypot(2000, 2000), 1e-9);
		expect([...all.column('cell.neighbours')]).deep.equal([2, 3, 3, 2, 3, 4, 4, 3, 2, 3, 3, 2]);
		expect([...all.column('cell.border')]).deep.equal([1, 1, 1, 1, 1, 0, 0, 1, 1, 1, 1, 1]);
	});
});

describe('edges that follow the face', () => {
	it('are arcs on a tube, and chords where the face is straight', () => {
		const { all } = tile(frustum(4000, 4000, 6000), 12, 3, { kind: 'rectangular' });
		const [kind, onFace, rise] = [all.column('edge.kind'), all.column('edge.onFace'), all.column('edge.rise')];
		const arc = (2 * Math.PI * 4000) / 12;
		kind.forEach((k, e) => {
			if (k === 1) expect([onFace[e]!, rise[e]!].map((x) => Math.round(x * 1e3) / 1e3)).deep.equal([2000, 0]);
			// Arc length, and sagitta r (1 - cos of half the angle). Twelve edges a level, over the seam too.
			if (k === 0) {
				expect(onFace[e]! / arc).closeTo(1, 1e-6);
				expect(rise[e]).closeTo(4000 * (1 - Math.cos(Math.PI / 12)), 0.05);
			}
		});
		expect(kind.filter((k) => k === 0).length).equal(24);
	});

	it('are never shorter than their chords, with any tiling', () => {
		for (const tiling of ALL_TILINGS) {
			if (tiling.kind === 'icosahedral') continue;
			const { all } = tile(frustum(4000, 2000, 6000), 20, 12, tiling);
			const length = all.column('edge.length');
			all.column('edge.onFace').forEach((on, e) => expect(on / length[e]!, tiling.kind).within(1 - 1e-9, 1.2));
		}
	});
});

describe('edges as they are drawn', () => {
	const drawnWith = (surface: Parameters<typeof tile>[0], across: number, up: number, tiling: TilingInput) => {
		const { nodes, cells, all } = tile(surface, across, up, tiling);
		return { cells, all, lines: curveSegments({ surface, nodes, cells }, [0, 0, 0]) };
	};

	it('are single lines where they are straight, and as many as an arc needs to look like one', () => {
		const flat = drawnWith(rectangle(4000, 6000), 4, 6, { kind: 'rectangular' });
		expect(flat.lines.length).equal(flat.cells.edgeCount * 6);
		// Of an arc of so many degrees, n chords rise by tan(arc / 4n) / 2n of its chord, nearly; 1/500 is asked.
		for (const [across, parts] of [
			[12, 8],
			[48, 4],
			[120, 2],
			[400, 1]
		] as const) {
			const { lines } = drawnWith(frustum(4000, 4000, 6000), across, 3, { kind: 'rectangular' });
			// Four rings, and three rows of posts.
			expect(lines.length / 6, String(across)).equal(across * (4 * parts + 3));
		}
	});

	it('go from end to end of each edge without a gap, with any tiling', () => {
		for (const tiling of ALL_TILINGS) {
			if (tiling.kind === 'icosahedral') continue;
			const { all, lines } = drawnWith(frustum(4000, 2000, 6000), 20, 12, tiling);
			const far = (a: number, b: number) => Math.hypot(...[0, 1, 2].map((c) => lines[a + c]! - lines[b + c]!));
			let breaks = 1;
			let length = 0;
			for (let k = 0; k < lines.length; k += 6) {
				length += far(k, k + 3);
				if (k > 0 && far(k - 3, k) > 0) breaks++;
			}
			const edges = all.column('edge.onFace');
			expect(breaks, tiling.kind).within(1, edges.length);
			// An arc that rises by s over a chord of 1 is longer by 8/3 of the square of s; of eight chords of an edge s is 8/500.
			expect(length / sum(edges), tiling.kind).within(1 - (8 / 3) * (8 / 500) ** 2, 1 + 1e-6);
		}
	});
});

describe('curvature', () => {
	it('of a ball is one over its radius in every direction; of a tube half of that, and it unrolls', () => {
		const { all } = tile(sphereZone(4000, -0.6, 1), 12, 6, { kind: 'rectangular' });
		for (const k of all.column('cell.gaussian')) expect(k).closeTo(1 / 4000 ** 2, 1e-14);
		for (const k of all.column('cell.mean')) expect(k).closeTo(1 / 4000, 1e-10);
		const tube = tile(frustum(4000, 4000, 6000), 12, 6, { kind: 'diamonds' }).all;
		for (const k of tube.column('cell.gaussian')) expect(k).closeTo(0, 1e-16);
		for (const k of tube.column('cell.mean')) expect(k).closeTo(1 / 8000, 1e-10);
	});

	it('of z = kxy at its middle is minus k squared (do Carmo, 3-3)', () => {
		const surface = hypar(1e-5, 8000, 8000);
		const { gaussian, mean } = curvaturesAt(surface, Float64Array.of(0.5), Float64Array.of(0.5));
		expect(gaussian[0]).closeTo(-1e-10, 1e-16);
		expect(mean[0]).closeTo(0, 1e-12);
	});

	it('is that of a sphere through points of the face close by', () => {
		// The mean over directions of the height over the tangent plane, twice over the distance squared, is the mean curvature.
		const surface = wavy(3, true);
		const [u, v] = [0.37, 0.61];
		const at = pointOn(surface, u, v);
		const { mean } = curvaturesAt(surface, Float64Array.of(u), Float64Array.of(v));
		const found: number[] = [];
		const { du, dv } = tangents(surface, u, v);
		const n = at.normal;
		const reach = 2;
		// Two directions at right angles in the tangent plane, found by walking the parameters.
		for (let k = 0; k < 2; k++) {
			const e1 = scaled(du, 1 / Math.hypot(...du));
			const e = k === 0 ? e1 : crossed(n, e1);
			const [a, b] = solve(du, dv, e);
			for (const sign of [-1, 1]) {
				const p = pointOn(surface, u + sign * a * reach, v + sign * b * reach).position;
				const way = p.map((x, c) => x - at.position[c]!) as [number, number, number];
				const height = -dotted(way, n);
				found.push((2 * height) / (dotted(way, way) - height * height));
			}
		}
		expect(mean[0]! / (sum(found) / 4)).closeTo(1, 2e-3);
	});
});

describe('the registry of readings', () => {
	it('has a label, a meaning and a column for every name on every tiling', () => {
		expect(new Set(READING_NAMES.map((n) => `${READINGS[n].host} ${READINGS[n].label}`)).size).equal(
			READING_NAMES.length
		);
		for (const tiling of ALL_TILINGS) {
			if (tiling.kind === 'icosahedral') continue;
			const { all, cells, nodes } = tile(wavy(3, false), 20, 12, tiling);
			const size = { cell: cells.count, edge: cells.edgeCount, node: nodes.position.length / 3 };
			for (const name of READING_NAMES) {
				expect(READINGS[name].meaning).not.empty;
				expect(all.column(name).length, `${tiling.kind} ${name}`).equal(size[READINGS[name].host]);
			}
		}
	});

	it('measures a group once', () => {
		const { all } = tile(rectangle(8000, 6000), 4, 3, { kind: 'hexagons' });
		expect(all.column('node.valence')).equal(all.column('node.valence'));
	});
});

type V = [number, number, number];
const dotted = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
const scaled = (a: readonly number[], f: number) => a.map((x) => x * f) as V;
const crossed = (a: readonly number[], b: readonly number[]): V => [
	a[1]! * b[2]! - a[2]! * b[1]!,
	a[2]! * b[0]! - a[0]! * b[2]!,
	a[0]! * b[1]! - a[1]! * b[0]!
];

function tangents(surface: Parameters<typeof pointOn>[0], u: number, v: number): { du: V; dv: V } {
	const h = 1e-5;
	const way = (a: readonly number[], b: readonly number[]) => a.map((x, c) => (x - b[c]!) / (2 * h)) as V;
	return {
		du: way(pointOn(surface, u + h, v).position, pointOn(surface, u - h, v).position),
		dv: way(pointOn(surface, u, v + h).position, pointOn(surface, u, v - h).position)
	};
}

/** Parameters a and b with a du + b dv = e, by least squares. */
function solve(du: V, dv: V, e: readonly number[]): [number, number] {
	const [uu, uv, vv, ue, ve] = [dotted(du, du), dotted(du, dv), dotted(dv, dv), dotted(du, e), dotted(dv, e)];
	const d = uu * vv - uv * uv;
	return [(ue * vv - ve * uv) / d, (ve * uu - ue * uv) / d];
}
