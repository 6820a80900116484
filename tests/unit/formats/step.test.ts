import { expect } from 'chai';
import { NODE_READERS } from '../../../src/cli/readers.ts';
import { surfaceArea } from '../../../src/core/geometry/area.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import { emptyProject } from '../../../src/core/project/starter.ts';
import { ranDemo, run } from '../demo.ts';
import { fileOf } from '../schedules.ts';

/** Finer than for bringing files in: areas are compared. */
const FINE = {
	linearUnit: 'millimeter',
	linearDeflectionType: 'absolute_value',
	linearDeflection: 2,
	angularDeflection: 0.03
};

/** An independent reader: the package `occt-import-js`. Names of shells, and the areas of their triangles, mm2. */
async function readBack(bytes: Uint8Array): Promise<Map<string, { area: number; faces: number }>> {
	const { success, meshes } = (await NODE_READERS.solid()).ReadStepFile(bytes, FINE);
	expect(success).equal(true);
	return new Map(
		meshes.map(({ name, brep_faces, attributes, index }) => {
			const p = attributes.position.array;
			let area = 0;
			for (let k = 0; k < index.array.length; k += 3) {
				const [a, b, c] = [0, 1, 2].map((i) => index.array[k + i]! * 3) as [number, number, number];
				const [u, v] = [b, c].map((q) => [0, 1, 2].map((x) => p[q + x]! - p[a + x]!)) as [number[], number[]];
				area +=
					Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!) / 2;
			}
			return [name ?? '', { area, faces: brep_faces.length }];
		})
	);
}

describe('exact faces as STEP', () => {
	for (const shape of Object.keys(PRESETS) as (keyof typeof PRESETS)[])
		it(`of a ${shape} come back as faces of the same area (occt-import-js)`, async () => {
			const project = emptyProject(`A ${shape}, ‘Übung’`);
			project.masses = [newMass(structuredClone(PRESETS[shape]), project.levels, { id: 'm', name: shape, marks: [] })];
			const model = await run(project);
			expect(model.bodies.length).greaterThan(0);
			const bytes = await fileOf(project, model, 'step');
			const found = await readBack(bytes);
			const right = new Map(model.bodies.map((b) => [`${b.mark} ${b.name}`, surfaceArea(b.surface)]));
			expect([...found.keys()].sort()).deep.equal([...right.keys()].sort());
			for (const [name, { area, faces }] of found) {
				// Those that close on themselves are in two parts.
				expect([1, 2, 4], name).include(faces);
				expect(area / right.get(name)!, name).closeTo(1, 2e-4);
			}
		});

	it('of the demo are all of its faces, the same bytes each time', async () => {
		const { project, model } = await ranDemo();
		const bytes = await fileOf(project, model, 'step');
		expect(Buffer.compare(bytes, await fileOf(project, model, 'step'))).equal(0);
		expect((await readBack(bytes)).size).equal(model.bodies.length);
	});
});
