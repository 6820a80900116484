import { ZygasterError } from '../../errors.ts';
import type { FileContent } from '../../mesh/importMesh.ts';

/** What is used of the package `occt-import-js`. */
export interface SolidPort {
	ReadStepFile(content: Uint8Array, params: object): SolidResult;
	ReadIgesFile(content: Uint8Array, params: object): SolidResult;
	ReadBrepFile(content: Uint8Array, params: object): SolidResult;
}

interface SolidResult {
	readonly success: boolean;
	readonly meshes: readonly {
		readonly name?: string;
		readonly brep_faces: readonly { readonly first: number; readonly last: number }[];
		readonly attributes: { readonly position: { readonly array: readonly number[] } };
		readonly index: { readonly array: readonly number[] };
	}[];
}

/** Chords stay this near to the surface, as a share of the body's size; their turns below 10 degrees. */
const ACCURACY = {
	linearUnit: 'millimeter',
	linearDeflectionType: 'bounding_box_ratio',
	linearDeflection: 0.0002,
	angularDeflection: 0.17
};

/** Bodies of a STEP, IGES or BREP file as fine triangles that know their face; mm (a BREP file tells no unit). */
export function readSolid(solid: SolidPort, format: 'step' | 'iges' | 'brep', bytes: Uint8Array): FileContent {
	const read = { step: solid.ReadStepFile, iges: solid.ReadIgesFile, brep: solid.ReadBrepFile }[format];
	const result = read.call(solid, bytes, ACCURACY);
	if (!result.success)
		throw new ZygasterError(
			'model-file',
			`This ${format.toUpperCase()} file cannot be read; it may be cut off or damaged.`
		);
	return {
		mm: format === 'brep' ? undefined : 1,
		pieces: result.meshes.map((mesh, k) => {
			const triangles = Uint32Array.from(mesh.index.array);
			const faceOf = new Uint32Array(triangles.length / 3);
			mesh.brep_faces.forEach(({ first, last }, face) => faceOf.fill(face, first, last + 1));
			return {
				name: mesh.name || `Body ${k + 1}`,
				mesh: { positions: Float64Array.from(mesh.attributes.position.array), triangles, faceOf }
			};
		})
	};
}

/** Other files that a STEP file names and does not hold itself, each once. Source: ISO 10303-21 text of `document_file`. */
export function filesNamed(bytes: Uint8Array): string[] {
	const names: string[] = [];
	for (const [, name] of latin1(bytes).matchAll(/\bDOCUMENT_FILE\s*\(\s*'((?:[^']|'')+)'/gi))
		if (!names.includes(name!)) names.push(name!);
	return names;
}

/** Bytes as text, a character each: all that is looked for is ASCII. */
function latin1(bytes: Uint8Array): string {
	let text = '';
	for (let k = 0; k < bytes.length; k += 8192) text += String.fromCharCode(...bytes.subarray(k, k + 8192));
	return text;
}
