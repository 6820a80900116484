import { ZygasterError } from '../../errors.ts';

export type ModelFormat = 'step' | 'iges' | 'brep' | 'ifc' | 'obj' | 'stl' | 'glb' | 'gltf' | 'ply';

/** Endings of file names, for the file dialog. */
export const MODEL_ENDINGS = [
	'.step',
	'.stp',
	'.iges',
	'.igs',
	'.brep',
	'.ifc',
	'.obj',
	'.stl',
	'.glb',
	'.gltf',
	'.ply'
];

/** Bytes of a file that are read at most. */
export const MOST_FILE_BYTES = 200 * 1024 * 1024;

const WORDS: Record<ModelFormat, string> = {
	step: 'STEP',
	iges: 'IGES',
	brep: 'BREP',
	ifc: 'IFC',
	obj: 'OBJ',
	stl: 'STL',
	glb: 'GLB',
	gltf: 'glTF',
	ply: 'PLY'
};

/**
 * What a file holds, told by its first bytes; its name only decides where those do not. Throws a
 * ZygasterError with code `model-file` for files that are empty, too large, packed, or of no known kind.
 */
export function detectFormat(name: string, bytes: Uint8Array): ModelFormat {
	const fault = (message: string) => new ZygasterError('model-file', `“${name}” ${message}`);
	if (bytes.length === 0) throw fault('is empty.');
	if (bytes.length > MOST_FILE_BYTES)
		throw fault(`has ${Math.round(bytes.length / 1_048_576)} MB; at most ${MOST_FILE_BYTES / 1_048_576} MB are read.`);
	const head = String.fromCharCode(...bytes.subarray(0, 4096));
	if (head.startsWith('PK') || head.startsWith('\u001f\u008b'))
		throw fault('is packed; unpack it and choose the model file within.');
	if (head.startsWith('ISO-10303-21')) return /FILE_SCHEMA\s*\(\s*\(\s*'IFC/i.test(head) ? 'ifc' : 'step';
	if (head.startsWith('glTF')) return 'glb';
	if (/^ply\s/.test(head)) return 'ply';
	if (/^(DBRep_DrawableShape|CASCADE Topology)/m.test(head)) return 'brep';
	if (/^.{72}S {0,6}0*1\s/.test(head)) return 'iges';
	if (/^\s*\{[\s\S]*"(asset|scenes|buffers)"/.test(head)) return 'gltf';
	if (/^\s*solid\b[\s\S]*\b(facet|endsolid)\b/.test(head) || isBinaryStl(bytes)) return 'stl';
	if (/^\s*v\s+[-+.\d]/m.test(head)) return 'obj';
	const ending = /\.([^.]*)$/.exec(name)?.[1]?.toLowerCase() ?? '';
	const expected = { stp: 'step', step: 'step', igs: 'iges', iges: 'iges' }[ending] ?? ending;
	if (expected in WORDS)
		throw fault(`is named like ${WORDS[expected as ModelFormat]} but does not hold it, or is cut off at the start.`);
	throw fault(`is no model file that can be read; right would be ${Object.values(WORDS).join(', ')}.`);
}

/** 80 bytes, a number of triangles, and 50 bytes for each. */
function isBinaryStl(bytes: Uint8Array): boolean {
	if (bytes.length < 84) return false;
	const count = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
	return count > 0 && bytes.length === 84 + 50 * count;
}
