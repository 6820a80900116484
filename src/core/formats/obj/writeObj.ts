import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { ByteWriter } from '../byteWriter.ts';
import { eachMesh } from '../eachMesh.ts';
import { MESH_UNITS, type MeshUnit } from '../mesh/meshUnits.ts';
import type { Sink } from '../sink.ts';

/** Names in this format end at a blank. */
const name = (text: string) => text.replace(/\s+/g, '_');

/** The model as Wavefront OBJ (text, z up): an object a piece by its mark, in a group a face, with its material's name. O(triangles). */
export function writeObj(project: Project, model: Model, unit: MeshUnit, sink: Sink): void {
	const out = new ByteWriter(sink);
	const { per, decimals } = MESH_UNITS[unit];
	out.text(`# Zygaster, lengths in ${unit}, z up\n`);
	let first = 1;
	let group = '';
	eachMesh(project, model, ({ mark, face, material }, { positions, triangles }) => {
		if (group !== face) out.text(`g ${name((group = face))}\n`);
		out.text(`o ${name(mark)}\nusemtl ${name(material)}\n`);
		for (let k = 0; k < positions.length; k += 3) {
			out.text('v');
			for (let c = 0; c < 3; c++) {
				out.ascii(BLANK);
				out.fixed(positions[k + c]! / per, decimals);
			}
			out.ascii(LINE_END);
		}
		for (let t = 0; t < triangles.length; t += 3) {
			out.text('f');
			for (let c = 0; c < 3; c++) {
				out.ascii(BLANK);
				out.whole(first + triangles[t + c]!);
			}
			out.ascii(LINE_END);
		}
		first += positions.length / 3;
	});
	out.finish();
}

const BLANK = 32;
const LINE_END = 10;
