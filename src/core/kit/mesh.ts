import { signedVolume, type TriangleMesh } from '../mesh/triangleMesh.ts';
import { COINCIDENT_MM } from '../tolerances.ts';

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
export function weldedMesh({ positions, triangles }: Mesh): Mesh {
	const known = new Map<string, number>();
	const kept: number[] = [];
	const place = Uint32Array.from({ length: positions.length / 3 }, (_, p) => {
		const at = [positions[p * 3]!, positions[p * 3 + 1]!, positions[p * 3 + 2]!];
		const key = at.map((x) => Math.round(x / COINCIDENT_MM)).join();
		const there = known.get(key);
		if (there !== undefined) return there;
		known.set(key, known.size);
		kept.push(...at);
		return known.size - 1;
	});
	const corners: number[] = [];
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [place[triangles[t]!]!, place[triangles[t + 1]!]!, place[triangles[t + 2]!]!];
		if (a !== b && b !== c && c !== a) corners.push(a, b, c);
	}
	return { positions: Float64Array.from(kept), triangles: Uint32Array.from(corners) };
}
