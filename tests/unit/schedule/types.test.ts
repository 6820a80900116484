import { expect } from 'chai';
import fc from 'fast-check';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { placeKit } from '../../../src/core/placement/place.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { cluster } from '../../../src/core/schedule/types/cluster.ts';
import { pieceSizes } from '../../../src/core/schedule/types/pieceSizes.ts';
import { typesOf } from '../../../src/core/schedule/types/pieceTypes.ts';
import { USUAL_TYPES } from '../../../src/core/schedule/types/schema.ts';
import { mediumTolerance } from '../../../src/core/schedule/types/tolerance.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { ranDemo } from '../demo.ts';
import { count } from '../divide.ts';
import { PAIRS, QUAD } from './quads.ts';
import { frustum, rectangle, sphereZone } from '../surfaces.ts';

const starter = (id: string) => kitSchema.parse(STARTER_KITS.find((k) => k.id === id));

/** Types of one part of a starter on a face: by cell or edge the number of its type. */
function typesOn(surface: Surface, across: number, up: number, kit: string, part: string, tolerance = mediumTolerance) {
	const { nodes } = setOut(chartFace(surface), settingOutOf(count(across), count(up)));
	const cells = tileRectangular(nodes);
	const face = { surface, nodes, cells, readings: measureCells(nodes, cells), layer: 0 };
	const { placements } = placeKit(starter(kit), {}, face, { densities: {} });
	const found = placements.flatMap((p) =>
		p.parts
			.filter((q) => q.name === part)
			.flatMap((q) => pieceSizes(q).map((sizes) => ({ hosts: p.hosts, sizes, ...cluster({ ...sizes, tolerance }) })))
	);
	return { found, cells };
}

const quads = (corners: readonly (readonly (readonly [number, number])[])[], tolerance = mediumTolerance) =>
	cluster({
		values: Float64Array.from(
			corners.flatMap((c) => PAIRS.map(([a, b]) => Math.hypot(c[a]![0] - c[b]![0], c[a]![1] - c[b]![1])))
		),
		dims: 6,
		turns: QUAD,
		tolerance
	});
const box = (w: number, h: number): [number, number][] => [
	[0, 0],
	[w, 0],
	[w, h],
	[0, h]
];

describe('types of pieces', () => {
	it('are one on a plane, and one a row on a surface of revolution: its parallels and meridians leave alike cells', () => {
		const plane = typesOn(rectangle(12_000, 8000), 12, 8, 'flat-pane', 'pane');
		expect(plane.found).lengthOf(1);
		expect([...plane.found[0]!.counts]).deep.equal([96]);
		const dome = typesOn(sphereZone(10_000, 0, 1.2), 24, 7, 'flat-pane', 'pane');
		expect([...dome.found[0]!.counts]).deep.equal(Array(7).fill(24));
		dome.found[0]!.sizes.rows.forEach((h, k) => {
			const { hosts, typeOf, models, sizes } = dome.found[0]!;
			const model = hosts[sizes.rows[models[typeOf[k]!]!]!]!;
			expect(dome.cells.row[hosts[h]!]).equal(dome.cells.row[model]);
		});
		const cone = typesOn(frustum(6000, 3000, 9000), 20, 5, 'framed-pane', 'frame');
		for (const { counts } of cone.found) expect([...counts]).deep.equal(Array(5).fill(20));
	});

	it('of bars go by length and ends: on a cylinder one across and one up', () => {
		const tower = typesOn(frustum(8000, 8000, 12_000), 24, 6, 'mullion', 'mullion');
		const counts = tower.found.flatMap((f) => [...f.counts]).sort((a, b) => a - b);
		expect(counts).deep.equal([24 * 6, 24 * 7]);
	});

	it('know the permissible deviations of ISO 2768-1, class m (memory)', () => {
		expect([5, 20, 100, 300, 700, 1500, 3000].map(mediumTolerance)).deep.equal([0.1, 0.2, 0.3, 0.5, 0.8, 1.2, 2]);
	});

	it('gather what is turned, and part what is mirrored', () => {
		const skew: [number, number][] = [
			[0, 0],
			[1000, 0],
			[1100, 800],
			[0, 700]
		];
		const turned = [1, 2, 3].map((by) => skew.map((_, k) => skew[(k + by) % 4]!));
		const mirrored = skew.map(([x, y]): [number, number] => [-x, y]).reverse();
		const found = quads([skew, ...turned, mirrored]);
		expect([...found.typeOf]).deep.equal([0, 0, 0, 0, 1]);
	});

	it('do not hang on where rounding ends: noise of known size leaves one type, and says how much it is', () => {
		let seed = 7;
		const noise = () => ((seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647 - 0.5) * 2;
		const around = (size: number, w: number, n: number) =>
			Array.from({ length: n }, () =>
				box(w, 1500).map(([x, y]): [number, number] => [x + size * noise(), y + size * noise()])
			);
		// Corners off by 0.2 at most change no distance by more than 2 * 0.2 * sqrt(2).
		const found = quads(around(0.2, 1000.5, 400));
		expect([...found.counts]).deep.equal([400]);
		// The one that it is measured by is off as well.
		expect(found.deviation[0]).within(0.2, 0.8 * Math.SQRT2);
		// Two sizes 6 mm apart stay two, of whatever noise.
		expect([...quads([...around(0.2, 1000, 300), ...around(0.2, 1006, 200)]).counts]).deep.equal([300, 200]);
	});

	it('never part two that are 0.1 mm apart, and keep within twice the tolerance (property)', () => {
		const width = fc.double({ min: 990, max: 1010, noNaN: true });
		fc.assert(
			fc.property(fc.array(width, { minLength: 2, maxLength: 60 }), (widths) => {
				const corners = widths.map((w) => box(w, 1500));
				const { typeOf, deviation, counts } = quads(corners);
				const limit = 2 * 1.2 + 0.1;
				expect(Math.max(...deviation)).lessThan(limit);
				expect(counts.reduce((a, b) => a + b, 0)).equal(widths.length);
				const order = [...widths.keys()].sort((a, b) => widths[a]! - widths[b]!);
				let run = 0;
				for (let k = 1; k < order.length; k++) {
					const gap = widths[order[k]!]! - widths[order[k - 1]!]!;
					run = gap < 0.1 ? run + gap : 0;
					// A chain that runs on beyond the tolerance has to be parted somewhere.
					if (gap < 0.0999 && run < 0.8) expect(typeOf[order[k]!]).equal(typeOf[order[k - 1]!]);
				}
				// The order of the pieces is nothing to their types.
				const back = quads([...corners].reverse());
				expect([...back.typeOf].reverse().map((t) => counts[t])).deep.equal([...typeOf].map((t) => counts[t]));
			}),
			{ numRuns: 200 }
		);
	});

	it('count every piece of the demo once, the most frequent first, with like sizes', async () => {
		const { model } = await ranDemo();
		const { types, typeOf } = typesOf(model.faces, USUAL_TYPES);
		const tables = model.faces.map(partsOf);
		const counts = new Uint32Array(types.length);
		typeOf.forEach((list, f) => {
			expect(list.length).equal(tables[f]!.count);
			list.forEach((t, r) => {
				const { role, material } = tables[f]!.words as Record<string, { words: string[]; index: Uint16Array }>;
				if (t < 0) return expect(tables[f]!.parts[tables[f]!.part[r]!]!.part.kind).equal('joined');
				counts[t]!++;
				expect(types[t]).include({
					role: role!.words[role!.index[r]!],
					material: material!.words[material!.index[r]!]
				});
			});
		});
		expect([...counts]).deep.equal(types.map((t) => t.count));
		expect(new Set(types.map((t) => t.mark)).size).equal(types.length);
		// Pieces of a type weigh alike: sizes within 2 mm are within a per cent or so of any that is not tiny.
		const weights = types.map((): number[] => []);
		typeOf.forEach((list, f) => list.forEach((t, r) => t >= 0 && weights[t]!.push(tables[f]!.columns.weight![r]!)));
		weights.forEach((list, t) => {
			const [least, most] = [Math.min(...list), Math.max(...list)];
			expect(most - least, types[t]!.mark).lessThan(0.03 * most + 0.05);
		});
	});
});
