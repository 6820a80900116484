import { createRequire } from 'node:module';
import { NodeIO } from '@gltf-transform/core';
import { expect } from 'chai';
import {
	Box3,
	InstancedMesh,
	Matrix4,
	Mesh,
	Triangle,
	Vector3,
	type BufferAttribute,
	type BufferGeometry
} from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { addRule, demoProject, demoWith, run, shippedDemo } from '../demo.ts';
import { fileOf, tableRows } from '../schedules.ts';

interface Report {
	issues: { numErrors: number; numWarnings: number; messages: { message: string; severity: number }[] };
}
const validator = createRequire(import.meta.url)('gltf-validator') as {
	validateBytes(bytes: Uint8Array): Promise<Report>;
};

describe('the model as GLB', () => {
	it('passes the Khronos validator without errors or warnings', async () => {
		const project = demoProject();
		const { issues } = await validator.validateBytes(await fileOf(project, await run(project), 'glb'));
		expect(issues.messages.map((m) => m.message)).deep.equal([]);
		expect(issues.numErrors + issues.numWarnings).equal(0);
	});

	it('has one mesh a material, in metres with y up, whose triangles have the areas of the summary', async () => {
		const project = demoWith(12, 20);
		const model = await run(project);
		const document = await new NodeIO().readBinary(await fileOf(project, model, 'glb'));
		const meshes = document.getRoot().listMeshes();
		expect(meshes.map((m) => m.getName()).sort()).deep.equal(['Aluminium', 'Glass']);
		const { parts } = summarise(project, model);
		for (const mesh of meshes) {
			const material = project.materials.find((m) => m.name === mesh.getName())!.id;
			const expected = parts.filter((p) => p.material === material).reduce((s, p) => s + p.areaM2, 0);
			const primitive = mesh.listPrimitives()[0]!;
			const position = primitive.getAttribute('POSITION')!;
			const index = primitive.getIndices()!;
			const at = (k: number) => position.getElement(index.getScalar(k), []);
			let area = 0;
			for (let k = 0; k < index.getCount(); k += 3) area += triangle(at(k), at(k + 1), at(k + 2));
			expect(area / expected).closeTo(1, 1e-5);
		}
	});

	it('carries the mark of every panel, at the place where the panel is', async () => {
		const project = demoWith(6, 8);
		const model = await run(project);
		const document = await new NodeIO().readBinary(await fileOf(project, model, 'glb'));
		const node = document
			.getRoot()
			.listNodes()
			.find((n) => n.getName() === 'Glass')!;
		const { marks } = node.getMesh()!.getExtras() as { marks: string[] };
		expect(marks.length).equal(48);
		expect(marks).deep.equal(tableRows(model).marks);
		const primitive = node.getMesh()!.listPrimitives()[0]!;
		const panel = primitive.getAttribute('_PANEL')!;
		const position = primitive.getAttribute('POSITION')!;
		const [tx, ty, tz] = node.getTranslation();
		const pane = model.faces[0]!.placements[0]!;
		const { geometry } = pane.parts.find((p) => p.name === 'pane')!;
		if (geometry.kind !== 'pattern') throw new Error('a pane is a pattern');
		const first = geometry.triangles[0]!;
		for (let r = 0; r < 48; r++) {
			const k = [...Array(panel.getCount()).keys()].find((v) => panel.getScalar(v) === r)!;
			const [x, y, z] = position.getElement(k, [0, 0, 0]);
			const o = (r * geometry.pointsPerHost + first) * 3;
			expect((x + tx) * 1000).closeTo(geometry.points[o]!, 0.01);
			expect(-(z + tz) * 1000).closeTo(geometry.points[o + 1]!, 0.01);
			expect((y + ty) * 1000).closeTo(geometry.points[o + 2]!, 0.01);
		}
	});

	describe('with equal bodies once, and positions in 16 bits', () => {
		const ways = [
			{ instances: true, quantised: false },
			{ instances: false, quantised: true },
			{ instances: true, quantised: true }
		];
		for (const options of ways)
			it(`passes the Khronos validator and has the points of the plain file: ${JSON.stringify(options)}`, async () => {
				const project = demoWith(12, 20);
				project.kits.push(...['mullion', 'node-disc'].map((id) => STARTER_KITS.find((k) => k.id === id)!));
				project.materials = shippedDemo().materials;
				for (const kit of ['mullion', 'node-disc']) addRule(project, { id: kit, face: 'canopy/skin', kit, values: {} });
				const model = await run(project);
				const plainFile = await fileOf(project, model, 'glb');
				const file = await fileOf(project, model, 'glb', options);
				const { issues } = await validator.validateBytes(file);
				// The validator does not know this way of putting bodies up, and takes their places for unused (no fault by its own word).
				const faults = issues.messages.filter((m) => m.severity < 2 && !m.message.includes('EXT_mesh_gpu_instancing'));
				expect(faults).deep.equal([]);
				expect(file.length).below(plainFile.length);
				const [before, after] = [await trianglesIn(plainFile), await trianglesIn(file)];
				expect(after.count).equal(before.count);
				expect(after.bodies).equal(options.instances);
				// 16 bits: half a step of the model's 200 m, and a little more where areas are added up.
				expect(Math.abs(after.area / before.area - 1)).below(options.quantised ? 2e-3 : 1e-5);
				for (let c = 0; c < 6; c++)
					expect(Math.abs(after.bounds[c]! - before.bounds[c]!)).below(options.quantised ? 0.005 : 0.0005);
			});
	});

	it('has the same bytes each time', async () => {
		const [a, b] = [demoWith(5, 7), demoWith(5, 7)];
		expect(await fileOf(a, await run(a), 'glb')).deep.equal(await fileOf(b, await run(b), 'glb'));
	});

	it('says so when there is nothing to export', async () => {
		const project = demoWith(3, 3);
		project.rules = [];
		const words = await fileOf(project, await run(project), 'glb').catch((e: Error) => e.message);
		expect(words).contains('place a kit on a face first');
	});
});

function triangle(a: number[], b: number[], c: number[]): number {
	const u = b.map((x, k) => x - a[k]!);
	const v = c.map((x, k) => x - a[k]!);
	return Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!) / 2;
}

/** What three's own loader makes of a file: triangles, their area in m2, and how far they reach, m; and whether it puts bodies up. */
async function trianglesIn(file: Uint8Array) {
	const { scene } = await new GLTFLoader().parseAsync(file.slice().buffer as ArrayBuffer, '');
	scene.updateMatrixWorld(true);
	let [count, area] = [0, 0];
	let bodies = false;
	const box = new Box3();
	scene.traverse((object) => {
		if (!(object instanceof Mesh)) return;
		const own: Matrix4[] = [];
		if (object instanceof InstancedMesh) {
			bodies = true;
			for (let k = 0; k < object.count; k++) {
				const matrix = new Matrix4();
				object.getMatrixAt(k, matrix);
				own.push(new Matrix4().multiplyMatrices(object.matrixWorld, matrix));
			}
		} else own.push(object.matrixWorld);
		const { index, attributes } = object.geometry as BufferGeometry;
		const position = attributes.position as BufferAttribute;
		for (const matrix of own)
			for (let k = 0; k < index!.count; k += 3) {
				const corners = [0, 1, 2].map((c) =>
					new Vector3().fromBufferAttribute(position, index!.getX(k + c)).applyMatrix4(matrix)
				) as [Vector3, Vector3, Vector3];
				for (const corner of corners) box.expandByPoint(corner);
				area += new Triangle(...corners).getArea();
				count++;
			}
	});
	return { count, area, bodies, bounds: [...box.min.toArray(), ...box.max.toArray()] };
}
