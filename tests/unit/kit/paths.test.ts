import { expect } from 'chai';
import fc from 'fast-check';
import { kitSchema, type Kit, type KitInput } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { pathsOf } from '../../../src/core/placement/paths.ts';
import { placeKit, type Placed } from '../../../src/core/placement/place.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import type { CellTable } from '../../../src/core/tiling/cells.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { count } from '../divide.ts';
import { frustum, rectangle, sphereZone } from '../surfaces.ts';

const R = 10_000;
/** A chord of a circle of radius R over an angle; follows from the definition. */
const chord = (radius: number, angle: number) => 2 * radius * Math.sin(angle / 2);

function faceOf(surface: Surface, across: number, up: number, without: readonly number[] = []) {
	const { nodes } = setOut(chartFace(surface), settingOutOf(count(across), count(up)));
	const all = tileRectangular(nodes);
	const cells: CellTable = without.length === 0 ? all : { ...all, ...keep(all, without) };
	return { surface, nodes, cells, readings: measureCells(nodes, cells), layer: 0 };
}

/** Rectangular cells less some, as an opening would leave them. */
function keep(cells: CellTable, without: readonly number[]) {
	const left = Array.from({ length: cells.count }, (_, c) => c).filter((c) => !without.includes(c));
	const of = (list: Uint32Array) => Uint32Array.from(left, (c) => list[c]!);
	return {
		count: left.length,
		cornerStart: Uint32Array.from({ length: left.length + 1 }, (_, k) => k * 4),
		corners: Uint32Array.from(left.flatMap((c) => [...cells.corners.subarray(c * 4, c * 4 + 4)])),
		row: of(cells.row),
		column: of(cells.column)
	};
}

const chains = ({ cornerStart, corners }: ReturnType<typeof pathsOf>) =>
	Array.from({ length: cornerStart.length - 1 }, (_, p) => [...corners.subarray(cornerStart[p], cornerStart[p + 1])]);
const pathKit = (steps: KitInput['steps'], along: 'across' | 'up' = 'across'): Kit =>
	kitSchema.parse({ id: 'made', name: 'Made', host: { kind: 'path', along, every: 1 }, parameters: [], steps });
const total = (placed: Placed, part: string, column: 'length' | 'pieces') =>
	placed.placements
		.flatMap((p) => p.parts.filter((q) => q.name === part))
		.reduce((n, q) => n + q[column].reduce((a, b) => a + b, 0), 0);
const place = (kit: Kit, face: ReturnType<typeof faceOf>) =>
	placeKit(kit, {}, face, { densities: { steel: 7850, stainless: 7900 } });
const rod: KitInput['steps'] = [
	{ kind: 'outline', name: 'path' },
	{ kind: 'bar', name: 'rod', role: 'rod', material: 'steel', line: 'path', profile: 'round', width: 50 }
];

describe('paths on faces that close', () => {
	it('lay the seam’s line once: 16 divisions around a dome have 16 lines up it', () => {
		const dome = faceOf(sphereZone(R, 0, Math.PI / 2), 16, 6);
		const placed = place(pathKit(rod, 'up'), dome);
		expect(total(placed, 'rod', 'pieces')).equal(16 * 6);
		// Sixteen meridians of six chords over 15 degrees each.
		expect(total(placed, 'rod', 'length')).closeTo(16 * 6 * chord(R, Math.PI / 12), 0.01);
		expect(pathsOf(dome, 'up', 3).cornerStart).to.have.length(Math.ceil(16 / 3) + 1);
	});

	it('run all around as closed lines, whose pieces are as many as their points', () => {
		const tower = faceOf(frustum(R, R, 4000), 24, 2);
		const paths = pathsOf(tower, 'across', 1);
		expect(chains(paths).map((c) => c.length)).deep.equal([24, 24, 24]);
		expect([...paths.closed]).deep.equal([1, 1, 1]);
		expect([...paths.reading('length')!].every((l) => Math.abs(l - 24 * chord(R, Math.PI / 12)) < 0.01)).to.be.true;
		expect([...paths.reading('points')!]).deep.equal([24, 24, 24]);
		const placed = place(pathKit(rod), tower);
		expect(total(placed, 'rod', 'pieces')).equal(3 * 24);
		expect(total(placed, 'rod', 'length')).closeTo(3 * 24 * chord(R, Math.PI / 12), 0.01);
	});

	it('have as many points as pieces where they are divided again', () => {
		const tower = faceOf(frustum(R, R, 4000), 24, 2);
		const points = pathKit([
			{ kind: 'outline', name: 'path' },
			{ kind: 'repeat', name: 'spot', of: 'path', gives: 'points', by: 'count', amount: 74 },
			{ kind: 'corner', name: 'at', on: 'spot', corner: 0 },
			{ kind: 'ball', name: 'ballBody', on: 'spot', at: 'at', radius: 20 },
			{ kind: 'solid', name: 'stud', on: 'spot', role: 'connector', material: 'steel', body: 'ballBody' }
		]);
		const placed = place(points, tower);
		expect(total(placed, 'stud', 'pieces')).equal(3 * 74);
		const spots = placed.placements
			.flatMap((p) => p.parts)
			.flatMap(({ geometry }) =>
				geometry.kind === 'instances'
					? Array.from(geometry.rows, (_, k) =>
							[...geometry.transforms.subarray(k * 12 + 9, k * 12 + 12)].map((x) => x.toFixed(2)).join()
						)
					: []
			);
		expect(new Set(spots).size).equal(spots.length);
	});

	it('bend smoothly over the seam, as everywhere', () => {
		const tower = faceOf(frustum(R, R, 4000), 24, 1);
		const tube = { ...STARTER_KITS.find((k) => k.id === 'path-tube')! };
		const placed = place(tube, tower);
		expect(placed.failures).deep.equal([]);
		// Two rings, 200 mm off the face.
		expect(total(placed, 'tube', 'length')).closeTo(2 * 2 * Math.PI * (R + 200), 2 * 2 * Math.PI * (R + 200) * 0.0005);
	});

	it('go on over the seam where an opening parts them elsewhere', () => {
		// One row of cells: the sixth and the seventh are gone, so that both lines run from 7 around to 5.
		const ring = faceOf(frustum(R, R, 1000), 12, 1, [5, 6]);
		const paths = pathsOf(ring, 'across', 1);
		expect([...paths.closed]).deep.equal([0, 0]);
		expect(chains(paths)[0]).deep.equal([7, 8, 9, 10, 11, 0, 1, 2, 3, 4, 5]);
	});

	it('meet every edge of the grid once, open or closed (property)', () => {
		fc.assert(
			fc.property(
				fc.constantFrom(
					rectangle(4000, 3000),
					frustum(R, R, 4000),
					frustum(R, R / 2, 4000),
					sphereZone(R, -1, 1),
					sphereZone(R, 0, Math.PI / 2)
				),
				fc.integer({ min: 3, max: 14 }),
				fc.integer({ min: 2, max: 9 }),
				(surface, across, up) => {
					const face = faceOf(surface, across, up);
					const seen = new Map<string, number>();
					for (const along of ['across', 'up'] as const) {
						const paths = pathsOf(face, along, 1);
						chains(paths).forEach((chain, p) => {
							for (let k = paths.closed[p] ? 0 : 1; k < chain.length; k++) {
								const [a, b] = [chain.at(k - 1)!, chain[k]!];
								const name = a < b ? `${a}-${b}` : `${b}-${a}`;
								seen.set(name, (seen.get(name) ?? 0) + 1);
							}
						});
					}
					expect([...seen.values()].every((n) => n === 1)).to.be.true;
					expect(seen.size).equal(face.cells.edgeCount);
				}
			)
		);
	});
});
