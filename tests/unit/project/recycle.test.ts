import { expect } from 'chai';
import { ArrayPool } from '../../../src/core/arrays.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import { writeCsv } from '../../../src/core/formats/csv/writeCsv.ts';
import { tilingSchema } from '../../../src/core/tiling/schema.ts';
import { ALL_TILINGS } from '../tile.ts';
import type { PlacedPart } from '../../../src/core/placement/place.ts';
import { fullDemo, run } from '../demo.ts';

/** Every coordinate of a part. */
const numbersOf = ({ geometry }: PlacedPart) => (geometry.kind === 'pattern' ? geometry.points : geometry.kind === 'loose' ? geometry.positions : []).join();

describe('arrays that are used again', () => {
	it('never belong to anything still in use, whichever tiling follows on which', async () => {
		const memo = new Memo(new ArrayPool());
		for (const { kind } of [...ALL_TILINGS, ...ALL_TILINGS].reverse()) {
			const project = fullDemo();
			project.masses[2]!.faces[0]!.tiling = tilingSchema.parse({ kind });
			project.masses[2]!.faces[0]!.settingOut.across.multiple = 4;
			const model = await run(project, { memo });
			memo.recycle();
			const fresh = await run(project);
			model.faces.forEach((face, f) => {
				const other = fresh.faces[f]!;
				expect(Buffer.from(face.nodes.position.slice().buffer).equals(Buffer.from(other.nodes.position.slice().buffer)), `${kind}: nodes of ${face.key}`).equal(true);
				expect([...face.cells.corners], `${kind}: cells of ${face.key}`).deep.equal([...other.cells.corners]);
				face.placements.forEach((p, k) => expect(p.parts.map(numbersOf).join() === other.placements[k]!.parts.map(numbersOf).join(), `${kind}: parts on ${face.key}`).equal(true));
			});
			expect(Buffer.from(writeCsv(model.schedule)).equals(Buffer.from(writeCsv(fresh.schedule))), `${kind}: schedule`).equal(true);
		}
	}).timeout(120_000);
});
