import { expect } from 'chai';
import fc from 'fast-check';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import type { Kit, KitInput } from '../../../src/core/kit/schema.ts';
import { placeKit } from '../../../src/core/placement/place.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import { count } from '../divide.ts';
import { frustum, rectangle, sphereZone } from '../surfaces.ts';
import { kitOf } from './make.ts';

const box = { kind: 'box', leastCorners: 4, greatestCorners: 4 } as const;
const part = { role: 'panel', material: 'steel' } as const;
const layers: KitInput['steps'] = [
	{ kind: 'outline', name: 'lower' },
	{ kind: 'outline', name: 'upper', layer: 'upper' }
];
const lofted = (through: string[]) =>
	kitOf(
		[...layers, { kind: 'loft', name: 'body', through }, { kind: 'solid', name: 'part', ...part, body: 'body' }],
		[],
		box
	);
const moulded = (more: object) =>
	kitOf(
		[
			...layers,
			{ kind: 'mould', name: 'mould', width: 1000, height: 1000, depth: 500 },
			{ kind: 'outline', name: 'base', on: 'mould' },
			{ kind: 'prism', name: 'block', on: 'mould', outline: 'base', height: 500 },
			{ kind: 'module', name: 'part', ...part, mould: 'mould', body: 'block', lower: 'lower', upper: 'upper', ...more }
		],
		[],
		box
	);

/** Volume of every piece's own mesh, and what the schedule has for it. */
function volumes(kit: Kit, surface: Surface, across: number, up: number, layer: number) {
	const { nodes } = setOut(chartFace(surface), settingOutOf(count(across), count(up)));
	const cells = tileRectangular(nodes);
	const { placements, failures } = placeKit(
		kit,
		{},
		{ surface, nodes, cells, readings: measureCells(nodes, cells), layer },
		{ densities: { steel: 7850 } }
	);
	const parts = placements.flatMap((p) => p.parts);
	const meshes = parts.flatMap(({ geometry: g }) =>
		g.kind === 'fitted'
			? g.sets.flatMap(({ positions, triangles, rows }) =>
					Array.from(rows, (_, k) => ({
						positions: positions.slice(
							(k * positions.length) / rows.length,
							((k + 1) * positions.length) / rows.length
						),
						triangles
					}))
				)
			: g.kind === 'loose'
				? Array.from(g.rows, (_, k) => ({
						positions: g.positions.slice(g.positionStart[k], g.positionStart[k + 1]),
						triangles: g.triangles.slice(g.triangleStart[k], g.triangleStart[k + 1])
					}))
				: []
	);
	return { failures, drawn: meshes.map(meshVolume), told: parts.flatMap((p) => [...p.volume]) };
}

describe('kits between two layers', () => {
	const kits = [
		['loft from lower to upper', lofted(['lower', 'upper'])],
		['loft from upper to lower', lofted(['upper', 'lower'])],
		['module', moulded({})],
		['mirrored module', moulded({ mirror: true })],
		['flipped and turned module', moulded({ flip: true, turns: 1 })]
	] as const;
	for (const [name, kit] of kits)
		it(`are wound outwards whichever side the second layer lies on: ${name}`, () => {
			for (const layer of [250, -250]) {
				// Nine cells of a metre square, 250 deep.
				const { failures, drawn, told } = volumes(kit, rectangle(3000, 3000), 3, 3, layer);
				expect(failures).deep.equal([]);
				expect(drawn).to.have.length(9);
				for (const v of [...drawn, ...told]) expect(v).closeTo(0.25e9, 1);
			}
		});

	it('fill the shell between a face and its second layer (property: zone of a ball, frustum)', () =>
		fc.assert(
			fc.property(
				fc.constantFrom(sphereZone(9000, -0.5, 0.6), frustum(9000, 6000, 5000)),
				fc.integer({ min: 30, max: 900 }),
				fc.boolean(),
				fc.constantFrom(...kits.map(([, kit]) => kit)),
				(surface, distance, inwards, kit) => {
					const { failures, drawn, told } = volumes(kit, surface, 9, 3, inwards ? -distance : distance);
					expect(failures).deep.equal([]);
					expect(drawn.length).equal(27);
					drawn.forEach((v, k) => {
						expect(v).greaterThan(0);
						expect(told[k]! / v).closeTo(1, 1e-9);
					});
				}
			),
			{ numRuns: 20 }
		));
});
