import type { BufferGeometry } from 'three';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import type { FileContent, Piece } from '../../mesh/importMesh.ts';
import { meshOfGeometry } from '../modelFiles/geometry.ts';

/** Objects of an OBJ file; it tells no unit. Its up is taken as z. */
export function readObj(text: string): FileContent {
	const pieces: Piece[] = [];
	new OBJLoader().parse(text).traverse((object) => {
		const { geometry, isMesh } = object as unknown as { geometry: BufferGeometry; isMesh?: boolean };
		if (isMesh) pieces.push({ name: object.name, mesh: meshOfGeometry(geometry) });
	});
	return { mm: undefined, pieces };
}
