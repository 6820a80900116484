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

/** Points of a mesh, stride 3, each place once, and its triangles without those that have no three corners then. O(points). */
export function welded({ positions, triangles }: Mesh): { readonly points: number[]; readonly triangles: number[] } {
	const known = new Map<string, number>();
	const kept: number[] = [];
	const place = new Uint32Array(positions.length / 3);
	for (let p = 0; p < place.length; p++) {
		const [x, y, z] = [positions[p * 3]!, positions[p * 3 + 1]!, positions[p * 3 + 2]!];
		const key = `${Math.round(x / COINCIDENT_MM)} ${Math.round(y / COINCIDENT_MM)} ${Math.round(z / COINCIDENT_MM)}`;
		let there = known.get(key);
		if (there === undefined) {
			known.set(key, (there = known.size));
			kept.push(x, y, z);
		}
		place[p] = there;
	}
	const corners: number[] = [];
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [place[triangles[t]!]!, place[triangles[t + 1]!]!, place[triangles[t + 2]!]!];
		if (a !== b && b !== c && c !== a) corners.push(a, b, c);
	}
	return { points: kept, triangles: corners };
}
