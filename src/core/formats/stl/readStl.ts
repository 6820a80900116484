import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import type { FileContent } from '../../mesh/importMesh.ts';
import { meshOfGeometry } from '../modelFiles/geometry.ts';

/** Triangles of an STL file, binary or text; it tells no unit. */
export function readStl(bytes: Uint8Array): FileContent {
	const geometry = new STLLoader().parse(Uint8Array.from(bytes).buffer);
	return { mm: undefined, pieces: [{ name: 'Body', mesh: meshOfGeometry(geometry) }] };
}
