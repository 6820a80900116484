import type { BufferGeometry } from 'three';
import type { TriangleMesh } from '../../mesh/triangleMesh.ts';

/** The triangles of a loader's geometry; a cloud of points has none. */
export function meshOfGeometry(geometry: BufferGeometry): TriangleMesh {
	const position = geometry.getAttribute('position');
	const positions = Float64Array.from(position?.array ?? []);
	const index = geometry.getIndex();
	const triangles = index
		? Uint32Array.from(index.array)
		: Uint32Array.from({ length: positions.length / 3 }, (_, k) => k);
	return { positions, triangles: triangles.slice(0, triangles.length - (triangles.length % 3)) };
}
