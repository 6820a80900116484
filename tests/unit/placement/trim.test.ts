import { expect } from 'chai';
import fc from 'fast-check';
import polygonClipping from 'polygon-clipping';
import { FRESH_ARRAYS } from '../../../src/core/arrays.ts';
import type { Kit, KitInput } from '../../../src/core/kit/schema.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import type { HostFace } from '../../../src/core/placement/faceHosts.ts';
import { isClosed } from '../../../src/core/placement/trim/meshPieces.ts';
import type { PlacedPart } from '../../../src/core/placement/place.ts';
import type { Job } from '../../../src/core/placement/rules/jobs.ts';
import { placeJob } from '../../../src/core/project/placeJob.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { layOpening, type LaidOpening } from '../../../src/core/tiling/openings/layOpening.ts';
import { bordersSchema, openingSchema, type Borders, type Opening } from '../../../src/core/tiling/openings/schema.ts';
import { trimCells } from '../../../src/core/tiling/openings/trim.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { count } from '../divide.ts';
import { solids } from '../kit/make.ts';
import { frustum, hypar, rectangle } from '../surfaces.ts';

/** A wall of cells a metre wide and high, in so many columns and rows, with openings. */
function wall(
	openings: readonly Partial<Opening>[],
	across = 4,
	up = 3,
	borders: Partial<Borders> = {},
	surface?: Surface
) {
	const charted = chartFace(surface ?? rectangle(across * 1000, up * 1000));
	const { nodes } = setOut(charted, settingOutOf(count(across), count(up)));
	const laid = openings.map((o, k) =>
		layOpening(charted, openingSchema.parse({ id: `o${k}`, name: 'Hole', ...o }), [])
	);
	const whole = { nodes, cells: tileRectangular(nodes, FRESH_ARRAYS) };
	const cut = trimCells(charted, nodes, whole.cells, laid, bordersSchema.parse(borders));
	const readings = measureCells(cut.nodes, cut.cells);
	return { face: { surface: charted.surface, ...cut, readings, layer: 0 } as HostFace, laid };
}
const box = (x: number, y: number, width: number, height: number): Partial<Opening> => ({
	outline: { kind: 'rectangle', width, height },
	place: { kind: 'face', across: x, up: y }
});

const kitOf = (...steps: KitInput['steps']): Kit =>
	kitSchema.parse({
		id: 'made',
		name: 'Made',
		host: { kind: 'cell', leastCorners: 4, greatestCorners: 64 },
		parameters: [],
		steps
	});
const OUTLINE = { kind: 'outline', name: 'outline' } as const;
const PLATE = {
	kind: 'plate',
	name: 'plate',
	role: 'panel',
	material: 'steel',
	outline: 'rim',
	thickness: 20
} as const;
const RIM = { kind: 'inset', name: 'rim', of: 'outline', distance: 10 } as const;
const FRAME = {
	kind: 'bar',
	name: 'frame',
	role: 'frame',
	material: 'steel',
	line: 'outline',
	profile: 'rectangle',
	width: 50,
	depth: 100
} as const;

async function trimmed(kit: Kit, face: HostFace, least = 0, hosts = face.cells.count) {
	const job = {
		id: 'j',
		rule: 'r',
		byHand: false,
		kit: 'made',
		given: {},
		columns: {},
		trim: { least },
		hash: '',
		hosts: Uint32Array.from({ length: hosts }, (_, k) => k),
		clamped: new Map(),
		without: new Map()
	} satisfies Job;
	const world = {
		library: new Map([['made', kit]]),
		modules: new Map(),
		densities: { steel: 7850 },
		kit: () => undefined
	};
	const placed = placeJob(job, world, face, await solids(), FRESH_ARRAYS);
	expect(placed.error).equal(undefined);
	return placed;
}

/** What a part has on a cell, all placements together. */
async function partOn(kit: Kit, face: HostFace, column: number, row: number, least = 0) {
	const placed = await trimmed(kit, face, least);
	expect(placed.failures).deep.equal([]);
	const cells = [...face.cells.row.keys()].filter((c) => face.cells.row[c] === row && face.cells.column[c] === column);
	const found = placed.placements.flatMap((p) =>
		p.parts.flatMap((part) =>
			[...p.hosts.keys()].filter((r) => cells.includes(p.hosts[r]!)).map((r) => ({ part, row: r }))
		)
	);
	const sum = (name: 'area' | 'volume' | 'length' | 'pieces') =>
		found.reduce((n, { part, row: r }) => n + part[name][r]!, 0);
	return {
		found,
		area: sum('area'),
		volume: sum('volume'),
		length: sum('length'),
		pieces: sum('pieces'),
		leftOut: placed.leftOut
	};
}

const triangles = ({ geometry }: PlacedPart) => (geometry.kind === 'loose' ? geometry : undefined)!;

describe('kits trimmed by openings', () => {
	// The opening takes a quarter off column 2 of row 1 and half of column 2 of row 2, and so on: all by hand.
	const { face } = wall([box(2000, 750, 1000, 1500)]);

	it('cut plates along the opening: areas, outlines and volumes by hand', async () => {
		const lower = await partOn(kitOf(OUTLINE, RIM, PLATE), face, 1, 0);
		expect(lower.area).closeTo(980 * 980 - 490 * 240, 0.5);
		expect(lower.volume).closeTo((980 * 980 - 490 * 240) * 20, 10);
		expect(lower.length).closeTo(4 * 980, 0.01);
		expect(lower.pieces).equal(1);
		const beside = await partOn(kitOf(OUTLINE, RIM, PLATE), face, 1, 1);
		expect(beside.area).closeTo(490 * 980, 0.5);
		expect(beside.length).closeTo(2 * (490 + 980), 0.01);
		const untouched = await partOn(kitOf(OUTLINE, RIM, PLATE), face, 0, 0);
		expect(untouched.area).closeTo(980 * 980, 1e-6);
	});

	it('cut sheets alike, also those that stand square to the face', async () => {
		const sheet = kitOf(OUTLINE, RIM, { ...PLATE, kind: 'sheet', name: 'sheet', thickness: 6 });
		const lower = await partOn(sheet, face, 1, 0);
		expect(lower.area).closeTo(980 * 980 - 490 * 240, 1e-3);
		expect(lower.length).closeTo(4 * 980, 1e-3);
		expect(lower.volume).closeTo(6 * (980 * 980 - 490 * 240), 1e-2);
		const upright = kitOf(
			OUTLINE,
			RIM,
			{ kind: 'lift', name: 'front', of: 'rim', distance: 60, towards: 'outside' },
			{
				kind: 'ribbon',
				name: 'fin',
				role: 'panel',
				material: 'steel',
				from: 'rim',
				to: 'front',
				thickness: 3
			}
		);
		const fin = await partOn(upright, face, 1, 0);
		// Two of the four sides lose what the opening passes over.
		expect(fin.area).closeTo(60 * (4 * 980 - 490 - 240), 1e-2);
	});

	for (const [share, words] of [
		[0, 'without openings'],
		[0.4, 'with them']
	] as const)
		it(`cut screens as the plates that they are, ${words}`, async () => {
			const screen = {
				...PLATE,
				kind: 'screen',
				name: 'screen',
				spacing: 150,
				share,
				margin: 40,
				thickness: 5
			} as const;
			const { found, area, volume } = await partOn(kitOf(OUTLINE, RIM, screen), face, 1, 0);
			const mesh = triangles(found[0]!.part);
			const [from, to] = [mesh.triangleStart, mesh.positionStart].map((starts) => {
				const k = [...mesh.rows].indexOf(found[0]!.row);
				return [starts[k]!, starts[k + 1]!] as const;
			}) as [readonly [number, number], readonly [number, number]];
			const body = { positions: mesh.positions.slice(...to), triangles: mesh.triangles.slice(...from) };
			if (share === 0) expect(area).closeTo(980 * 980 - 490 * 240, 0.5);
			expect(volume / area).closeTo(5, 1e-6);
			expect(meshVolume(body) / volume).closeTo(1, 1e-6);
			expect(isClosed(body)).equal(true);
		});

	it('cut bars back square to themselves, and leave what is beyond a side that is left', async () => {
		const lower = await partOn(kitOf(OUTLINE, FRAME), face, 1, 0);
		expect(lower.length).closeTo(1000 + 750 + 500 + 1000, 0.01);
		// Mitred at its corners, a frame on the line is as long as the line in its middle.
		expect(lower.volume).closeTo((1000 + 750 + 500 + 1000) * 50 * 100, 50);
		expect(lower.pieces).equal(4);
		const beside = await partOn(kitOf(OUTLINE, FRAME), face, 1, 1);
		expect(beside.length).closeTo(500 + 500 + 1000, 0.01);
		expect(beside.pieces).equal(3);
		const { part, row } = beside.found[0]!;
		const { count: most, length } = part.each!;
		const sides = [...length.subarray(row * most, row * most + 3)].sort((a, b) => a - b);
		[500, 500, 1000].forEach((side, k) => expect(sides[k]).closeTo(side, 0.01));
	});

	it('parts a bar that an opening stands across into two', async () => {
		const { face: holed } = wall([box(1500, 400, 200, 200)]);
		const blades = kitOf(OUTLINE, {
			kind: 'blades',
			name: 'blades',
			role: 'louver',
			material: 'steel',
			outline: 'outline',
			by: 'number',
			amount: 5,
			profile: 'rectangle',
			width: 20,
			depth: 60
		});
		const { length, pieces } = await partOn(blades, holed, 1, 0);
		// Blades stand at 100, 300, ..., 900; only that at 500 meets the hole from 400 to 600.
		expect(length).closeTo(5 * 1000 - 200, 0.01);
		expect(pieces).equal(6);
	});

	it('leave out pieces that are smaller than the least, and count them', async () => {
		const { face: near } = wall([box(1500, 100, 880, 800)]);
		const frame = kitOf(OUTLINE, RIM, PLATE);
		// A ring of 60 and 90 mm around the hole is one piece, as wide as the cell: it stays.
		expect((await partOn(frame, near, 1, 0, 100)).pieces).equal(1);
		const { face: strips } = wall([box(1500, 0, 880, 1000)]);
		const with50 = await partOn(frame, strips, 1, 0, 40);
		expect([with50.pieces, with50.leftOut]).deep.equal([2, 0]);
		const with100 = await partOn(frame, strips, 1, 0, 100);
		expect([with100.pieces, with100.leftOut, with100.area]).deep.equal([0, 2, 0]);
	});

	it('stand aside where a cell has taken in a sliver: the kit fits itself there', async () => {
		const { face: merged } = wall([box(1500, 0, 940, 1000)], 4, 3, { leastWidth: 100, slivers: 'merge' });
		expect(merged.cells.trim!.merged).equal(2);
		expect(merged.cells.trim!.wholes.size).equal(0);
		const { area } = await partOn(kitOf(OUTLINE, { ...PLATE, outline: 'outline' }), merged, 0, 0);
		expect(area).closeTo(1030 * 1000, 1);
	});

	it('leave of a plate on a warped or bent face what the cell has left, whatever the opening (property)', async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.double({ min: 300, max: 3700, noNaN: true }),
				fc.double({ min: 300, max: 2700, noNaN: true }),
				fc.double({ min: 100, max: 1500, noNaN: true }),
				fc.boolean(),
				async (x, y, diameter, bent) => {
					const { face: any, laid } = wall(
						[{ outline: { kind: 'circle', diameter }, place: { kind: 'face', across: x, up: y } }],
						4,
						3,
						{},
						bent ? hypar(0.00002, 4000, 3000) : undefined
					);
					const kit = kitOf(OUTLINE, { ...PLATE, outline: 'outline' });
					const { placements, failures } = await trimmed(kit, any);
					expect(failures).deep.equal([]);
					const area = placements
						.flatMap((p) => p.parts)
						.reduce((sum, p) => sum + p.area.reduce((a, b) => a + b, 0), 0);
					const volume = placements
						.flatMap((p) => p.parts)
						.reduce((sum, p) => sum + p.volume.reduce((a, b) => a + b, 0), 0);
					expect(Number.isFinite(volume)).equal(true);
					if (!bent) expect(area).closeTo(left(laid), 5);
					else expect(area / left(laid)).closeTo(1, 2e-3);
				}
			),
			{ numRuns: 12 }
		);
	});

	it('stand on a tube over its seam', async () => {
		const charted = frustum(3000, 3000, 4000);
		const { face: tube } = wall(
			[{ outline: { kind: 'circle', diameter: 1500 }, place: { kind: 'face', across: 100, up: 2000 } }],
			18,
			4,
			{},
			charted
		);
		const placed = await trimmed(kitOf(OUTLINE, RIM, PLATE, FRAME), tube);
		expect(placed.failures).deep.equal([]);
		const cut = placed.placements.filter((p) =>
			p.parts.some((q) => q.geometry.kind === 'loose' && tube.cells.trim!.wholes.has(p.hosts[0]!))
		);
		expect(cut.flatMap((p) => [...p.hosts]).length).equal(tube.cells.trim!.wholes.size);
		for (const { parts } of cut)
			for (const part of parts) expect(triangles(part).positions.every(Number.isFinite)).equal(true);
	});
});

/** What openings leave of a wall of 4 by 3 m, mm2, by `polygon-clipping`. */
function left(laid: readonly LaidOpening[]): number {
	const rings = laid.flatMap((l) => l.framed).map((r) => [[...r, r[0]!].map(([x, y]): [number, number] => [x, y])]);
	const rest = polygonClipping.difference(
		[
			[
				[0, 0],
				[4000, 0],
				[4000, 3000],
				[0, 3000],
				[0, 0]
			]
		],
		...rings.map((r) => r)
	);
	const areaOf = (ring: readonly (readonly [number, number])[]) =>
		ring.reduce(
			(sum, [x, y], k) => sum + x * ring[(k + 1) % ring.length]![1] - ring[(k + 1) % ring.length]![0] * y,
			0
		) / 2;
	return rest.reduce((sum, polygon) => sum + polygon.reduce((s, ring) => s + areaOf(ring), 0), 0);
}
