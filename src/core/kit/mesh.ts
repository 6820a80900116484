import { weld } from '../mesh/repair.ts';
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

/** The same with points at one place made one, and without triangles that have no three corners then. O(points). */
export function weldedMesh(mesh: Mesh): Mesh {
	const { positions, target } = weld(mesh.positions);
	const corners: number[] = [];
	for (let t = 0; t < mesh.triangles.length; t += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => target[mesh.triangles[t + k]!]!) as [number, number, number];
		if (a !== b && b !== c && c !== a) corners.push(a, b, c);
	}
	return { positions, triangles: Uint32Array.from(corners) };
}
