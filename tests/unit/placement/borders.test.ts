import { expect } from 'chai';
import type { Surface } from '../../../src/core/geometry/surface.ts';
import { bordersOf } from '../../../src/core/placement/rules/borders.ts';
import { RuleHosts } from '../../../src/core/placement/rules/ruleHosts.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { NO_CELL } from '../../../src/core/tiling/cells.ts';
import { layOpening } from '../../../src/core/tiling/openings/layOpening.ts';
import { bordersSchema, openingSchema, type Opening } from '../../../src/core/tiling/openings/schema.ts';
import { trimCells } from '../../../src/core/tiling/openings/trim.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { count } from '../divide.ts';
import { frustum, sphereZone } from '../surfaces.ts';

/** How many edges with one cell only lie along an opening, and how many of those along the face's border are taken for such. */
function alongOpening(surface: Surface, place: Opening['place'], outline: Opening['outline'], frame = 0) {
	const charted = chartFace(surface);
	const { nodes } = setOut(charted, settingOutOf(count(24), count(8)));
	const openings = [layOpening(charted, openingSchema.parse({ id: 'o', name: 'Hole', outline, place, frame }), [])];
	const face = trimCells(charted, nodes, tileRectangular(nodes), openings, bordersSchema.parse({}));
	const readings = measureCells(face.nodes, face.cells);
	const hosts = new RuleHosts('edge', { ...face, surface, charted, readings });
	const found = bordersOf(hosts, openings, 'opening', 0);
	const heights = [0, Math.max(...face.nodes.position.filter((_, k) => k % 3 === 2))];
	const [missed, wrong] = [[] as number[], [] as number[]];
	for (let e = 0; e < face.cells.edgeCount; e++) {
		if (face.cells.edgeCells[e * 2 + 1] !== NO_CELL) continue;
		const zs = [0, 1].map((end) => face.nodes.position[face.cells.edgeNodes[e * 2 + end]! * 3 + 2]!);
		const onRim = heights.some((h) => zs.every((z) => Math.abs(z - h) < 1));
		if (onRim && found[e]) wrong.push(e);
		if (!onRim && !found[e]) missed.push(e);
	}
	return { missed: missed.length, wrong: wrong.length, found: found.reduce((a, b) => a + b, 0) };
}

describe('edges along openings', () => {
	it('are known on both sides of a seam, on faces that unroll and others', () => {
		const outline = { kind: 'circle' as const, diameter: 2500 };
		for (const surface of [frustum(4000, 4000, 6000), frustum(4000, 2500, 6000), sphereZone(6000, 0, 1.2)])
			for (const across of [-400, 0, 300, 9000])
				for (const frame of [0, 90]) {
					const { missed, wrong, found } = alongOpening(surface, { kind: 'face', across, up: 2300 }, outline, frame);
					expect([missed, wrong], `${across} ${frame}`).deep.equal([0, 0]);
					expect(found).least(6);
				}
	});

	it('are known around the point of a dome', () => {
		const dome = sphereZone(6000, 0, Math.PI / 2);
		const { missed, wrong, found } = alongOpening(
			dome,
			{ kind: 'plan', x: 200, y: 100 },
			{ kind: 'circle', diameter: 2500 },
			60
		);
		expect([missed, wrong]).deep.equal([0, 0]);
		expect(found).least(24);
	});

	it('are known where cells are not cut, since the opening takes less than a millimetre of them', () => {
		const outline = { kind: 'rectangle' as const, width: 3000, height: 1500 };
		const { missed, wrong, found } = alongOpening(
			frustum(12_000 / Math.PI, 12_000 / Math.PI, 6000),
			{ kind: 'face', across: 4500.9, up: 1499.1 },
			outline
		);
		expect([missed, wrong, found]).deep.equal([0, 0, 10]);
	});
});
