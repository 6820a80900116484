import { expect } from 'chai';
import { validateNodes } from '../../../src/core/settingout/nodes.ts';
import { validateOpening } from '../../../src/core/tiling/openings/layOpening.ts';
import { partsOf, validateParts } from '../../../src/core/schedule/parts.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import { ranDemo } from '../demo.ts';

describe('validators', () => {
	let model: Model;
	before(async () => {
		({ model } = await ranDemo());
	});

	it('find nothing amiss on the demo', () => {
		for (const { name, nodes, cells, openings, ...face } of model.faces) {
			const used = new Set(cells.corners);
			expect(
				validateNodes(nodes, (n) => used.has(n)),
				name
			).deep.equal([]);
			expect(openings.flatMap(validateOpening), name).deep.equal([]);
			expect(validateParts(partsOf({ nodes, cells, ...face }), face.schedule), name).deep.equal([]);
		}
	});

	it('find nodes that are nowhere, normals that are too long, and places that do not match', () => {
		const { nodes } = model.faces[0]!;
		const position = nodes.position.slice();
		position[5] = NaN;
		expect(validateNodes({ ...nodes, position })).include('node 1 is nowhere');
		const normal = nodes.normal.map((x) => x * 2);
		expect(validateNodes({ ...nodes, normal })[0]).match(/the normal of node 0 is 2(\.0+\d*)? long|is 1\.9+/);
		expect(validateNodes({ ...nodes, columns: 1 })[0]).match(/the grid has 1 x/);
		expect(validateNodes({ ...nodes, us: nodes.us.subarray(1) }).join()).match(/parameters of|names node|nowhere/);
	});

	it('find openings that run the wrong way, cross themselves, or lack a line', () => {
		const [opening] = model.faces[0]!.openings;
		const flipped = { ...opening!, rings: opening!.rings.map((r) => [...r].reverse()) };
		expect(validateOpening(flipped)[0]).match(/does not run anticlockwise/);
		const bow = [
			[
				[0, 0],
				[9, 6],
				[9, 0],
				[0, 8]
			]
		] as const;
		expect(validateOpening({ ...opening!, places: [[0, 0]], rings: bow, framed: bow }).join()).match(/crosses itself/);
		expect(validateOpening({ ...opening!, rings: [] }).join()).match(/places, 0 lines/);
		const grown = {
			...opening!,
			role: 'border' as const,
			framed: opening!.rings.map((r) => r.map(([x, y]) => [x * 2, y * 2] as const))
		};
		expect(validateOpening(grown).join()).match(/wrong side/);
	});

	it('find parts that name what is not there, or do not add up', () => {
		const [face] = model.faces;
		const table = partsOf(face!);
		const broken = (change: Partial<typeof table>) => validateParts({ ...table, ...change }, face!.schedule).join();
		expect(broken({ part: table.part.map(() => 999) })).match(/names part 999/);
		expect(broken({ placed: table.placed.map(() => 1e6) })).match(/of its placement/);
		expect(broken({ host: table.host.map(() => 1e6) })).match(/names host 1000000/);
		expect(broken({ element: table.element.map(() => 1e6) })).match(/names piece 1000000/);
		expect(broken({ columns: { ...table.columns, volume: table.columns.volume!.map((v) => v * 2) } })).match(
			/volume of .* come to/
		);
		expect(broken({ count: table.count - 1 })).match(/pieces of .* come to/);
	});
});
