import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import type { FileContent } from '../../mesh/importMesh.ts';
import { meshOfGeometry } from '../modelFiles/geometry.ts';

/** Triangles of a PLY file; it tells no unit. */
export function readPly(bytes: Uint8Array): FileContent {
	const geometry = new PLYLoader().parse(Uint8Array.from(bytes).buffer);
	return { mm: undefined, pieces: [{ name: 'Body', mesh: meshOfGeometry(geometry) }] };
}
