import { expect } from 'chai';
import fc from 'fast-check';
import type { Mesh } from '../../../src/core/kit/mesh.ts';
import { flatPattern as laid, type FlatPattern } from '../../../src/core/schedule/flatPattern.ts';

type P3 = readonly [number, number, number];

/** Four-cornered sides as a mesh in which none shares its points with another. */
function sides(...quads: readonly (readonly [P3, P3, P3, P3])[]): Mesh {
	return {
		positions: Float64Array.from(quads.flat(2)),
		triangles: Uint32Array.from(quads.flatMap((_, q) => [0, 1, 2, 0, 2, 3].map((k) => q * 4 + k)))
	};
}

/** Of a body with its thickness the area of one side is known. */
const flatPattern = (mesh: Mesh, oneSide = NaN) => laid(mesh, oneSide);

/** A surface and its copy moved straight down, with walls along its outline. */
function plate(front: readonly (readonly [P3, P3, P3, P3])[], outline: readonly P3[], thickness: number): Mesh {
	const back = ([x, y, z]: P3): P3 => [x, y, z - thickness];
	const walls = outline.map((a, k) => {
		const b = outline[(k + 1) % outline.length]!;
		return [back(a), back(b), b, a] as const;
	});
	return sides(...front, ...front.map(([a, b, c, d]) => [back(b), back(a), back(d), back(c)] as const), ...walls);
}

const around = (p: FlatPattern, line = 0) =>
	p.cuts[line]!.reduce((sum, [x, y], k) => {
		const [nx, ny] = p.cuts[line]![(k + 1) % p.cuts[line]!.length]!;
		return sum + Math.hypot(nx - x, ny - y);
	}, 0);

const RECTANGLE = [
	[0, 0, 0],
	[300, 0, 0],
	[300, 200, 0],
	[0, 200, 0]
] as const;

/** An open box 300 x 200 x 50, seen from above: its front, and four sides bent back. */
const tray = () => {
	const [a, b, c, d] = RECTANGLE;
	const down = ([x, y]: P3): P3 => [x, y, -50];
	return sides(
		[a, b, c, d],
		...([
			[a, b],
			[b, c],
			[c, d],
			[d, a]
		].map(([p, q]) => [down(p!), down(q!), q!, p!]) as [P3, P3, P3, P3][])
	);
};

describe('thin pieces laid flat', () => {
	it('are a cross of a tray: its sides by hand, four bends of 90° back', () => {
		const pattern = flatPattern(tray())!;
		expect(pattern.cuts.length).equal(1);
		expect(pattern.cuts[0]!.length).equal(12);
		expect([pattern.width, pattern.height].map((v) => Math.round(v * 1e6) / 1e6)).deep.equal([400, 300]);
		expect(pattern.area).closeTo(300 * 200 + 2 * 50 * (300 + 200), 1e-6);
		// 20 sides of five rectangles less the four that are joined, each of which had two.
		expect(around(pattern)).closeTo(2 * (300 + 200) + 4 * 50 * 2, 1e-6);
		expect(pattern.bends.map((b) => Math.round((b.angle * 180) / Math.PI))).deep.equal([90, 90, 90, 90]);
		const lengths = pattern.bends.map(({ from, to }) => Math.round(Math.hypot(to[0] - from[0], to[1] - from[1])));
		expect(lengths.sort()).deep.equal([200, 200, 300, 300]);
		// Bent to the front where it is seen from the other side.
		const { positions, triangles } = tray();
		const inside = flatPattern({ positions, triangles: triangles.slice().reverse() })!;
		expect(inside.bends.every((b) => Math.abs(b.angle + Math.PI / 2) < 1e-9)).equal(true);
	});

	it('are a rectangle of a tube that is cut open, whose long side is its way around', () => {
		const n = 24;
		const at = (k: number, z: number): P3 => {
			const angle = (2 * Math.PI * (k % n)) / n;
			return [500 * Math.cos(angle), 500 * Math.sin(angle), z];
		};
		const pattern = flatPattern(
			sides(...Array.from({ length: n }, (_, k) => [at(k, 0), at(k + 1, 0), at(k + 1, 700), at(k, 700)] as const))
		)!;
		// Chords of a regular n-gon: 2 R sin(pi / n).
		const chord = 2 * 500 * Math.sin(Math.PI / n);
		expect([pattern.width, pattern.height].sort((a, b) => b - a)[0]).closeTo(n * chord, 1e-6);
		expect(Math.min(pattern.width, pattern.height)).closeTo(700, 1e-6);
		expect(pattern.bends.length).equal(n - 1);
		expect(pattern.bends.every((b) => Math.abs(b.angle - (2 * Math.PI) / n) < 1e-9)).equal(true);
	});

	it('keep their holes, and are one side of a plate with a thickness', () => {
		const outer: P3[] = [
			[0, 0, 0],
			[600, 0, 0],
			[600, 400, 0],
			[0, 400, 0]
		];
		const hole: P3[] = [
			[200, 150, 0],
			[400, 150, 0],
			[400, 250, 0],
			[200, 250, 0]
		];
		const band = (from: readonly P3[], to: readonly P3[]) =>
			from.map((_, k) => [from[k]!, from[(k + 1) % 4]!, to[(k + 1) % 4]!, to[k]!] as const);
		const back = (p: P3): P3 => [p[0], p[1], -10];
		const front = band(outer, hole);
		const sheet = flatPattern(sides(...front))!;
		const plate = flatPattern(
			sides(
				...front,
				...front.map(([a, b, c, d]) => [back(b), back(a), back(d), back(c)] as const),
				...band(outer.map(back), outer),
				...band(hole, hole.map(back))
			),
			600 * 400 - 200 * 100
		)!;
		for (const pattern of [sheet, plate]) {
			expect(pattern.cuts.map((line) => line.length)).deep.equal([4, 4]);
			expect(pattern.area).closeTo(600 * 400 - 200 * 100, 1e-6);
			expect([pattern.width, pattern.height]).deep.equal([600, 400]);
			expect(around(pattern, 1)).closeTo(600, 1e-6);
			expect(pattern.bends).deep.equal([]);
		}
	});

	it('are the side that plates are cut out by, however thick they are', () => {
		// A round one, higher than broad: around it there is more of it than above.
		const corners = Array.from({ length: 24 }, (_, k): P3 => {
			const angle = (2 * Math.PI * k) / 24;
			return [70 * Math.cos(angle), 70 * Math.sin(angle), 0];
		});
		const middle: P3 = [0, 0, 0];
		const fan = corners.map((p, k) => [middle, p, corners[(k + 1) % 24]!, middle] as const);
		const area = 12 * 70 * 70 * Math.sin((2 * Math.PI) / 24);
		const round = flatPattern(plate(fan, corners, 160), area)!;
		expect(round.cuts.map((line) => line.length)).deep.equal([24]);
		expect(round.area).closeTo(area, 1e-6);
	});

	it('take no notice of triangles whose corners lie on one line, but for rounding', () => {
		// It looks to the side, since a corner lies a little above the other two.
		const between: P3 = [150, 1e-9, 1e-9];
		const pattern = flatPattern({
			positions: Float64Array.from([...RECTANGLE, between].flat()),
			triangles: Uint32Array.from([0, 1, 4, 0, 4, 3, 4, 1, 2, 4, 2, 3])
		})!;
		expect(pattern.bends).deep.equal([]);
		expect([pattern.width, pattern.height].map(Math.round)).deep.equal([300, 200]);
	});

	it('are all of a side that is folded sharply', () => {
		// Two halves of 200 x 300 that rise by 60° to their ridge: less steep to each other than to their walls.
		const [half, high] = [200 * Math.cos(Math.PI / 3), 200 * Math.sin(Math.PI / 3)];
		const at = (x: number, y: number): P3 => [x, y, high * (1 - Math.abs(x) / half)];
		const front = [-half, 0].map((x) => [at(x, 0), at(x + half, 0), at(x + half, 300), at(x, 300)] as const);
		const outline = [at(-half, 0), at(0, 0), at(half, 0), at(half, 300), at(0, 300), at(-half, 300)];
		const folded = flatPattern(plate(front, outline, 15), 400 * 300)!;
		expect([folded.width, folded.height].map(Math.round)).deep.equal([400, 300]);
		expect(folded.area).closeTo(400 * 300, 1e-6);
		expect(folded.bends.map((b) => Math.round((b.angle * 180) / Math.PI))).deep.equal([120]);
	});

	it('are none of a body without a level side, of what falls apart, and of stairs that wind over themselves', () => {
		const ball: (readonly [P3, P3, P3, P3])[] = [];
		const on = (i: number, j: number): P3 => {
			const [a, b] = [(2 * Math.PI * i) / 16, Math.PI * (j / 8)];
			return [Math.sin(b) * Math.cos(a), Math.sin(b) * Math.sin(a), Math.cos(b)].map((x) => x * 100) as unknown as P3;
		};
		for (let i = 0; i < 16; i++)
			for (let j = 0; j < 8; j++) ball.push([on(i, j), on(i, j + 1), on((i + 1) % 16, j + 1), on((i + 1) % 16, j)]);
		expect(flatPattern(sides(...ball), 2 * Math.PI * 100 * 100)).equal(undefined);
		const [one, other] = [tray(), tray()];
		expect(
			flatPattern({
				positions: Float64Array.from([...one.positions, ...other.positions.map((x) => x + 5000)]),
				triangles: Uint32Array.from([...one.triangles, ...other.triangles.map((t) => t + one.positions.length / 3)])
			})
		).equal(undefined);
		const stair = (k: number, r: number): P3 => [r * Math.cos(k / 4), r * Math.sin(k / 4), k * 4];
		const winding = Array.from(
			{ length: 40 },
			(_, k) => [stair(k, 200), stair(k, 600), stair(k + 1, 600), stair(k + 1, 200)] as const
		);
		expect(flatPattern(sides(...winding))).equal(undefined);
		expect(flatPattern({ positions: new Float64Array(), triangles: new Uint32Array() })).equal(undefined);
	});

	it('keep their area and the lengths of their sides, however they are bent and turned (property)', () => {
		const bend = fc.double({ min: -1.2, max: 1.2, noNaN: true });
		fc.assert(
			fc.property(
				fc.array(fc.record({ bend, width: fc.double({ min: 20, max: 400, noNaN: true }) }), {
					minLength: 1,
					maxLength: 5
				}),
				fc.double({ min: 50, max: 2000, noNaN: true }),
				(folds, length) => {
					let [x, z, angle] = [0, 0, 0];
					const line: [number, number][] = [[0, 0]];
					folds.forEach(({ bend, width }, k) => {
						if (k > 0) angle += bend;
						x += width * Math.cos(angle);
						z += width * Math.sin(angle);
						line.push([x, z]);
					});
					const strip = sides(
						...folds.map((_, k) => {
							const [[ax, az], [bx, bz]] = [line[k]!, line[k + 1]!];
							return [
								[ax, 0, az],
								[bx, 0, bz],
								[bx, length, bz],
								[ax, length, az]
							] as [P3, P3, P3, P3];
						})
					);
					const pattern = flatPattern(strip)!;
					const across = folds.reduce((sum, f) => sum + f.width, 0);
					expect(pattern.area).closeTo(across * length, 1e-6 * across * length);
					expect(around(pattern)).closeTo(2 * (across + length), 1e-6 * (across + length));
					// Within 3 degrees a sheet is warped, not bent.
					const bent = folds.slice(1).filter((f) => Math.abs(f.bend) > 0.06);
					const least = folds.slice(1).filter((f) => Math.abs(f.bend) > 0.05);
					expect(pattern.bends.length).within(bent.length, least.length);
				}
			),
			{ numRuns: 200 }
		);
	});
});
