import { signedVolume, type TriangleMesh } from '../mesh/triangleMesh.ts';

/** Triangles of one body, anticlockwise seen from outside. */
export type Mesh = TriangleMesh;

/** Volume of a closed mesh, mm3; below 0 when it is inside out. */
export const meshVolume = (mesh: Mesh): number => signedVolume(mesh) / 6;

/** The same triangles, seen from the other side. */
export function turnedMesh({ positions, triangles }: Mesh): Mesh {
	const turned = triangles.slice();
	for (let t = 0; t < turned.length; t += 3) [turned[t + 1], turned[t + 2]] = [triangles[t + 2]!, triangles[t + 1]!];
	return { positions, triangles: turned };
}
