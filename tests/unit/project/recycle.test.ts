import { createHash } from 'node:crypto';
import { expect } from 'chai';
import fc from 'fast-check';
import { ArrayPool } from '../../../src/core/arrays.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import { tilingSchema } from '../../../src/core/tiling/schema.ts';
import type { TilingKind } from '../../../src/core/tiling/schema.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import { ALL_TILINGS } from '../tile.ts';
import type { PlacedPart } from '../../../src/core/placement/place.ts';
import { fullDemo, keepRules, run } from '../demo.ts';
import { fileOf } from '../schedules.ts';

/** Every coordinate of a part. */
const numbersOf = ({ geometry }: PlacedPart) =>
	(geometry.kind === 'pattern'
		? geometry.points
		: geometry.kind === 'loose'
			? geometry.positions
			: geometry.kind === 'plates'
				? geometry.places
				: []
	).join();

describe('arrays that are used again', () => {
	it('never belong to anything still in use, whichever tiling follows on which', async () => {
		const memo = new Memo(new ArrayPool());
		for (const { kind } of [...ALL_TILINGS, ...ALL_TILINGS].reverse()) {
			const project = fullDemo();
			project.masses = project.masses.slice(1, 3);
			keepRules(project, (face) => /^(quay-front|lantern)\//.test(face));
			const [lantern] = project.masses[1]!.faces;
			lantern!.tiling = tilingSchema.parse({ kind });
			lantern!.settingOut.across.multiple = 4;
			const model = await run(project, { memo });
			memo.recycle(model);
			const fresh = await run(project);
			model.faces.forEach((face, f) => {
				const other = fresh.faces[f]!;
				expect(
					Buffer.from(face.nodes.position.slice().buffer).equals(Buffer.from(other.nodes.position.slice().buffer)),
					`${kind}: nodes of ${face.key}`
				).equal(true);
				expect([...face.cells.corners], `${kind}: cells of ${face.key}`).deep.equal([...other.cells.corners]);
				face.placements.forEach((p, k) =>
					expect(
						p.parts.map(numbersOf).join() === other.placements[k]!.parts.map(numbersOf).join(),
						`${kind}: parts on ${face.key}`
					).equal(true)
				);
			});
			expect(
				Buffer.from(await fileOf(project, model, 'csv')).equals(Buffer.from(await fileOf(project, fresh, 'csv'))),
				`${kind}: schedule`
			).equal(true);
		}
	});

	/** An edit of the demo: a face's tiling, or its count across, which may not fit. */
	interface Edit {
		readonly mass: number;
		readonly tiling: TilingKind;
		readonly count: number;
	}
	const edits = fc.array(
		fc.record({
			mass: fc.constantFrom(0, 2),
			tiling: fc.constantFrom<TilingKind[]>('rectangular', 'part', 'basket-weave', 'mixed-squares', 'triangles'),
			count: fc.constantFrom(23, 24, 47, 48)
		}),
		{ minLength: 3, maxLength: 6 }
	);
	const edited = (list: readonly Edit[]) => {
		const project = fullDemo();
		project.masses = [project.masses[0]!, project.masses[1]!, project.masses[2]!];
		// Kits on the lantern alone, so that many runs take little time.
		keepRules(project, (face) => face.startsWith('lantern/'));
		project.masses[1]!.faces[0]!.facade = false;
		for (const { mass, tiling, count } of list) {
			const face = project.masses[mass]!.faces[0]!;
			face.openings = [];
			face.tiling = tilingSchema.parse(
				tiling === 'triangles' ? { kind: tiling, diagonal: 'alternating' } : { kind: tiling }
			);
			face.settingOut.across.spacing = { kind: 'count', count };
		}
		return project;
	};
	const bytesOf = (model: Model) =>
		model.faces.map((face) => [
			face.key,
			...[
				face.nodes.position,
				face.nodes.normal,
				face.cells.corners,
				face.readings.columns.area,
				...face.placements.flatMap((p) =>
					p.parts.flatMap((q) => (q.geometry.kind === 'pattern' ? [q.geometry.points, q.volume] : [q.volume]))
				)
			].map((a) =>
				createHash('sha1')
					.update(new Uint8Array(a.buffer, a.byteOffset, a.byteLength))
					.digest('hex')
			)
		]);

	it('leave every shown face as it was made, however edits follow on each other, those that are refused among them (property)', async () => {
		await fc.assert(
			fc.asyncProperty(edits, async (list) => {
				const memo = new Memo(new ArrayPool());
				let shown: Model | undefined;
				/** What each face was when it was last made soundly, by a run of its own without a pool. */
				const expected = new Map<string, unknown>();
				for (let k = 1; k <= list.length; k++) {
					const project = edited(list.slice(0, k));
					shown = await run(project, { memo, lastGood: new Map(shown?.faces.map((f) => [f.key, f]) ?? []) });
					memo.recycle(shown);
					for (const [key, ...rest] of bytesOf(await run(project))) expected.set(key as string, rest);
					for (const [key, ...rest] of bytesOf(shown))
						expect(rest, `${String(key)} after ${JSON.stringify(list.slice(0, k))}`).deep.equal(
							expected.get(key as string)
						);
				}
			}),
			{ numRuns: 8 }
		);
	});
});
