import { expect } from 'chai';
import fc from 'fast-check';
import Manifold from 'manifold-3d';
import { solidsLoader } from '../../../src/core/kit/solids.ts';
import type { FaceModel } from '../../../src/core/project/faceResult.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { run } from '../demo.ts';
import { CLOSED, seed, unusual } from './unusual.ts';

const solids = solidsLoader(async () => ({ default: Manifold }));
/** Of the greatest figure of a column: what positions of some hundred metres leave of it. */
const SLACK = 1e-6;

/** All figures of a face by name, but for those that tell how it stands. */
function figuresOf(face: FaceModel): [string, ArrayLike<number>][] {
	const { bearing: _, ...cells } = face.readings.columns;
	const tables: Readonly<Record<string, { readonly columns: object }>> = face.schedule.tables;
	const named = { cells: { columns: cells }, ...tables, parts: partsOf(face) };
	return Object.entries(named).flatMap(([table, { columns }]) =>
		Object.entries(columns as Record<string, ArrayLike<unknown>>)
			.filter(([, column]) => typeof column[0] === 'number')
			.map(([name, column]): [string, ArrayLike<number>] => [`${table}: ${name}`, column as ArrayLike<number>])
	);
}

const framed = (project: Project, frame: Partial<Project['masses'][number]['frame']>): Project => {
	const next = structuredClone(project);
	Object.assign(next.masses[0]!.frame, frame);
	// Counted by bearings, cells get other marks where the building is turned.
	for (const face of next.masses[0]!.faces) Object.assign(face.order, { rows: 'tiling', columns: 'tiling' });
	return next;
};

describe('a building', () => {
	it('has the same figures wherever it stands, however its cells are divided, cut and filled (property)', () =>
		fc.assert(
			fc.asyncProperty(unusual(CLOSED), async (project) => {
				const here = await run(framed(project, {}), { solids });
				const there = await run(framed(project, { x: 123_456.789, y: -98_765.432, turn: 0.6543 }), { solids });
				expect(there.warnings.map((w) => w.message)).deep.equal(here.warnings.map((w) => w.message));
				here.faces.forEach((face, f) => {
					const moved = new Map(figuresOf(there.faces[f]!));
					for (const [name, column] of figuresOf(face)) {
						const other = moved.get(name)!;
						expect(other.length, `${face.key} ${name}`).equal(column.length);
						const known = Array.from(column).filter((x) => !Number.isNaN(x));
						const slack = SLACK * known.reduce((most, x) => Math.max(most, Math.abs(x)), 1);
						for (let k = 0; k < column.length; k++)
							if (
								!(Math.abs(column[k]! - other[k]!) <= slack) &&
								!(Number.isNaN(column[k]!) && Number.isNaN(other[k]!))
							)
								expect.fail(`${face.key} ${name} ${k}: ${column[k]} here, ${other[k]} there`);
					}
				});
			}),
			{ numRuns: 50, seed }
		));
});
