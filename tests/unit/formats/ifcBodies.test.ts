import { expect } from 'chai';
import fc from 'fast-check';
import Manifold from 'manifold-3d';
import { eachMesh } from '../../../src/core/formats/eachMesh.ts';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import { solidsLoader } from '../../../src/core/kit/solids.ts';
import { meshArea } from '../../../src/core/mesh/triangleMesh.ts';
import { run } from '../demo.ts';
import { CLOSED, seed, unusual } from '../project/unusual.ts';
import { fileOf } from '../schedules.ts';
import { IfcSchema } from './ifcSchema.ts';
import { opened } from './openIfc.ts';

const solids = solidsLoader(async () => ({ default: Manifold }));

describe('building models of unusual documents', () => {
	const schema = new IfcSchema();

	it('are IFC4 to the letter, and have the bodies that they have here, beside openings and cut ends, too (web-ifc, property)', () =>
		fc.assert(
			fc.asyncProperty(unusual(CLOSED), async (project) => {
				const model = await run(project, { solids });
				const own = new Map<string, { area: number; volume: number }>();
				eachMesh(project, model, ({ mark }, mesh) =>
					own.set(mark, { area: meshArea(mesh) / 1e6, volume: meshVolume(mesh) / 1e9 })
				);
				fc.pre(own.size > 0);
				const bytes = await fileOf(project, model, 'ifc', { grid: true });
				expect(schema.faultsIn(new TextDecoder().decode(bytes))).deep.equal([]);
				const { types, lines, measure } = await opened(bytes);
				const products = [types.IFCPLATE, types.IFCMEMBER, types.IFCDISCRETEACCESSORY].flatMap(lines);
				for (const product of products) {
					const right = own.get(product.Name.value);
					const found = measure(product.expressID);
					if (!right) expect(found.area, product.Name.value).equal(0);
					else {
						expect(found.area / right.area, product.Name.value).closeTo(1, 1e-3);
						expect(found.volume / right.volume, product.Name.value).closeTo(1, 1e-3);
						own.delete(product.Name.value);
					}
				}
				expect([...own.keys()]).deep.equal([]);
			}),
			{ numRuns: 5, seed }
		));
});
