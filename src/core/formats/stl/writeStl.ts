import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { eachMesh } from '../eachMesh.ts';
import { MESH_UNITS, type MeshUnit } from '../mesh/meshUnits.ts';
import type { Sink } from '../sink.ts';

/** Bytes of the head, the count and one triangle. */
const [HEAD, COUNT, TRIANGLE] = [80, 4, 50];
/** Triangles that are gathered before they go to the sink. */
const GATHERED = 4096;

/** The model as binary STL (z up): all triangles with their normals. Two passes, since their number stands in front. O(triangles). */
export function writeStl(project: Project, model: Model, unit: MeshUnit, sink: Sink): void {
	let count = 0;
	eachMesh(project, model, (_, { triangles }) => (count += triangles.length / 3));
	const head = new Uint8Array(HEAD + COUNT);
	head.set(Uint8Array.from(`Zygaster, ${unit}, z up`, (c) => c.charCodeAt(0)));
	new DataView(head.buffer).setUint32(HEAD, count, true);
	sink(head);
	const { per } = MESH_UNITS[unit];
	let chunk = new DataView(new ArrayBuffer(GATHERED * TRIANGLE));
	let at = 0;
	const flush = () => {
		sink(new Uint8Array(chunk.buffer, 0, at));
		chunk = new DataView(new ArrayBuffer(GATHERED * TRIANGLE));
		at = 0;
	};
	eachMesh(project, model, (_, { positions, triangles }) => {
		for (let t = 0; t < triangles.length; t += 3) {
			const [a, b, c] = [0, 1, 2].map((k) => triangles[t + k]! * 3) as [number, number, number];
			const u = [0, 1, 2].map((k) => positions[b + k]! - positions[a + k]!);
			const v = [0, 1, 2].map((k) => positions[c + k]! - positions[a + k]!);
			const n = [0, 1, 2].map((k) => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!);
			const size = Math.sqrt(n[0]! * n[0]! + n[1]! * n[1]! + n[2]! * n[2]!);
			for (const x of n) {
				chunk.setFloat32(at, size > 0 ? x / size : 0, true);
				at += 4;
			}
			for (const corner of [a, b, c])
				for (let k = 0; k < 3; k++) {
					chunk.setFloat32(at, positions[corner + k]! / per, true);
					at += 4;
				}
			at += 2;
			if (at === chunk.byteLength) flush();
		}
	});
	if (at > 0) flush();
}
