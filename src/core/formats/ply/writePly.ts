import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { eachMesh } from '../eachMesh.ts';
import { MESH_UNITS, type MeshUnit } from '../mesh/meshUnits.ts';
import type { Sink } from '../sink.ts';

/** Bytes of a vertex: three doubles and a colour; and of a triangle. */
const [VERTEX, TRIANGLE] = [27, 13];

/** The model as binary PLY (little endian, z up): points with the colours of their materials, triangles. O(triangles). */
export function writePly(project: Project, model: Model, unit: MeshUnit, sink: Sink): void {
	let [points, faces] = [0, 0];
	eachMesh(project, model, (_, { positions, triangles }) => {
		points += positions.length / 3;
		faces += triangles.length / 3;
	});
	const head = [
		'ply',
		'format binary_little_endian 1.0',
		`comment Zygaster, ${unit}, z up`,
		`element vertex ${points}`,
		...['x', 'y', 'z'].map((axis) => `property double ${axis}`),
		...['red', 'green', 'blue'].map((colour) => `property uchar ${colour}`),
		`element face ${faces}`,
		'property list uchar int vertex_indices',
		'end_header\n'
	].join('\n');
	sink(Uint8Array.from(head, (c) => c.charCodeAt(0)));
	const { per } = MESH_UNITS[unit];
	const colours = new Map(
		project.materials.map(({ name, colour }) => [name, [1, 3, 5].map((k) => parseInt(colour.slice(k, k + 2), 16))])
	);
	eachMesh(project, model, ({ material }, { positions }) => {
		const chunk = new DataView(new ArrayBuffer((positions.length / 3) * VERTEX));
		const colour = colours.get(material) ?? [128, 128, 128];
		for (let p = 0, at = 0; p < positions.length; p += 3, at += VERTEX) {
			for (let c = 0; c < 3; c++) {
				chunk.setFloat64(at + c * 8, positions[p + c]! / per, true);
				chunk.setUint8(at + 24 + c, colour[c]!);
			}
		}
		sink(new Uint8Array(chunk.buffer));
	});
	let first = 0;
	eachMesh(project, model, (_, { positions, triangles }) => {
		const chunk = new DataView(new ArrayBuffer((triangles.length / 3) * TRIANGLE));
		for (let t = 0, at = 0; t < triangles.length; t += 3, at += TRIANGLE) {
			chunk.setUint8(at, 3);
			for (let c = 0; c < 3; c++) chunk.setInt32(at + 1 + c * 4, first + triangles[t + c]!, true);
		}
		first += positions.length / 3;
		sink(new Uint8Array(chunk.buffer));
	});
}
