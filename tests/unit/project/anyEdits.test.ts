import { createHash } from 'node:crypto';
import { expect } from 'chai';
import fc from 'fast-check';
import { ArrayPool } from '../../../src/core/arrays.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { allPartsOf, partsOf, validateParts } from '../../../src/core/schedule/parts.ts';
import { validateNodes } from '../../../src/core/settingout/nodes.ts';
import { validateCells } from '../../../src/core/tiling/cells.ts';
import { validateOpening } from '../../../src/core/tiling/openings/layOpening.ts';
import { SAME_RATIO } from '../../../src/core/tolerances.ts';
import { hashesOfModel } from '../../browser/demoHashes.ts';
import { run, shippedDemo } from '../demo.ts';
import { fileOf } from '../schedules.ts';
import { afterEdit } from './anyEdit.ts';

/** The whole ferry terminal with all that stands on it, divided coarsely. */
function coarseDemo(): Project {
	const project = shippedDemo();
	for (const { settingOut } of project.masses.flatMap((m) => m.faces))
		for (const { spacing } of [settingOut.across, settingOut.up])
			if (spacing.kind === 'count') spacing.count = Math.max(4, Math.round(spacing.count / 4));
	return project;
}

const quickHash = ({ buffer, byteOffset, byteLength }: ArrayBufferView) =>
	createHash('sha1')
		.update(new Uint8Array(buffer, byteOffset, byteLength))
		.digest('hex');
const FILES = ['csv', 'edges', 'nodes', 'paths', 'bays', 'parts', 'quantities', 'ifc'] as const;

async function allOf(project: Project, model: Model): Promise<Record<string, string>> {
	const files: Record<string, string> = {};
	for (const format of FILES)
		files[format] = await fileOf(project, model, format).then(
			(bytes) => Buffer.from(bytes).toString('base64'),
			(cause: Error) => cause.message
		);
	return { ...hashesOfModel(model, quickHash), ...files, warnings: JSON.stringify(model.warnings) };
}

const sum = (values: Iterable<number> = []) => [...values].reduce((a, b) => a + b, 0);

/** What is broken in a model: nodes, cells, openings, parts, and weights that do not add up. */
const faultsOf = ({ faces }: Model): string[] =>
	faces.flatMap((face) => {
		const { key, nodes, cells, openings, schedule } = face;
		const used = new Set(cells.corners);
		const parts = partsOf(face);
		const [byPart, byHost] = [
			sum(parts.columns.weight),
			sum(Object.values(schedule.tables).map((t) => sum(t.columns.weight)))
		];
		return [
			...validateNodes(nodes, (n) => used.has(n)),
			...validateCells(cells, nodes.position.length / 3),
			...openings.flatMap(validateOpening),
			...validateParts(parts, schedule),
			...validateParts(allPartsOf(face), schedule),
			...(Math.abs(byPart - byHost) <= SAME_RATIO * Math.max(1, byPart)
				? []
				: [`pieces ${byPart} kg, hosts ${byHost} kg`])
		].map((fault) => `${key}: ${fault}`);
	});

describe('edits of anything that stands in a document', () => {
	/** On a slow machine fewer are tried: a single one, with all files, took 2 s and 25 s on the same machine. */
	const MOST_MS = 120_000;
	const edits = fc.array(fc.record({ part: fc.nat(), at: fc.nat(), way: fc.nat() }), { minLength: 3, maxLength: 3 });

	it('lead to a sound model, which a run of its own makes bit for bit, whatever was edited before (property)', async () => {
		await fc.assert(
			fc.asyncProperty(edits, async (list) => {
				const memo = new Memo(new ArrayPool());
				let project = coarseDemo();
				memo.recycle(await run(project, { memo }));
				for (const edit of list) {
					const next = afterEdit(project, edit);
					if (!next) continue;
					project = next;
					const warm = await run(project, { memo });
					memo.recycle(warm);
					const [found, expected] = [await allOf(project, warm), await allOf(project, await run(project))];
					expect(faultsOf(warm)).deep.equal([]);
					expect(Object.keys(found)).deep.equal(Object.keys(expected));
					expect(Object.keys(found).filter((k) => found[k] !== expected[k])).deep.equal([]);
					// Words for people have no figures that are none.
					expect(found.warnings).not.match(/NaN|Infinity|undefined/);
				}
			}),
			// What fails is told as it is: making it smaller would take longer than a test may.
			{ numRuns: 3, endOnFailure: true, interruptAfterTimeLimit: MOST_MS }
		);
	});
});
