import { utf8ToBytes } from '@noble/hashes/utils.js';
import { closedOf } from '../../placement/trim/meshPieces.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { ByteWriter } from '../byteWriter.ts';
import { eachMesh } from '../eachMesh.ts';
import type { Sink } from '../sink.ts';
import { Archive } from '../zip/archive.ts';

const TYPES =
	'<?xml version="1.0" encoding="UTF-8"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">' +
	'<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>' +
	'<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>';
const RELATIONS =
	'<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">' +
	'<Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>';

const escaped = (text: string) =>
	text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** The model as 3MF (core specification 1.3): an object a piece, named by its mark, with its material’s colour; mm, z up. O(triangles). */
export function write3mf(project: Project, model: Model, sink: Sink): void {
	const archive = new Archive(sink, 3);
	const part = (name: string) => archive.file(name);
	part('[Content_Types].xml').push(utf8ToBytes(TYPES), true);
	part('_rels/.rels').push(utf8ToBytes(RELATIONS), true);
	const file = part('3D/3dmodel.model');
	const out = new ByteWriter((chunk) => file.push(chunk.slice()));
	out.text(
		'<?xml version="1.0" encoding="UTF-8"?>\n<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">\n' +
			`<metadata name="Title">${escaped(project.name)}</metadata>\n<resources>\n<basematerials id="1">\n`
	);
	const index = new Map(project.materials.map(({ name }, k) => [name, k]));
	for (const { name, colour, opacity } of project.materials) {
		const alpha = Math.round(opacity * 255)
			.toString(16)
			.padStart(2, '0');
		out.text(`<base name="${escaped(name)}" displaycolor="${(colour + alpha).toUpperCase()}"/>\n`);
	}
	out.text('</basematerials>\n');
	let last = 1;
	eachMesh(project, model, ({ mark, material }, mesh) => {
		// What is to be made as a body is closed, its sides over the same points; anything else is a surface.
		const body = closedOf(mesh);
		const { positions, triangles } = body ?? mesh;
		out.text(
			`<object id="${++last}" type="${body ? 'model' : 'surface'}" name="${escaped(mark)}" pid="1" pindex="${index.get(material) ?? 0}"><mesh><vertices>`
		);
		for (let k = 0; k < positions.length; k += 3) {
			out.text('<vertex x="');
			out.fixed(positions[k]!, DIGITS);
			out.text('" y="');
			out.fixed(positions[k + 1]!, DIGITS);
			out.text('" z="');
			out.fixed(positions[k + 2]!, DIGITS);
			out.text('"/>');
		}
		out.text('</vertices><triangles>');
		for (let t = 0; t < triangles.length; t += 3)
			out.text(`<triangle v1="${triangles[t]}" v2="${triangles[t + 1]}" v3="${triangles[t + 2]}"/>`);
		out.text('</triangles></mesh></object>\n');
	});
	out.text('</resources>\n<build>\n');
	for (let id = 2; id <= last; id++) out.text(`<item objectid="${id}"/>\n`);
	out.text('</build>\n</model>\n');
	out.finish();
	file.push(new Uint8Array(), true);
	archive.end();
}

/** Digits after the point, mm. */
const DIGITS = 3;
