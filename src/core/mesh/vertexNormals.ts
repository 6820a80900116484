import { hypot } from '../elementary/index.ts';
import type { TriangleMesh } from './triangleMesh.ts';

/** Unit normals at the vertices, exact on a ball. Source: Max, Journal of Graphics Tools 4(2), 1999. */
export function vertexNormals({ positions: p, triangles }: TriangleMesh): Float64Array {
	const normals = new Float64Array(p.length);
	for (let t = 0; t < triangles.length; t += 3)
		for (let k = 0; k < 3; k++) {
			const [a, b, c] = [triangles[t + k]! * 3, triangles[t + ((k + 1) % 3)]! * 3, triangles[t + ((k + 2) % 3)]! * 3];
			const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
			const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
			const scale = 1 / ((ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz));
			normals[a]! += (uy * vz - uz * vy) * scale;
			normals[a + 1]! += (uz * vx - ux * vz) * scale;
			normals[a + 2]! += (ux * vy - uy * vx) * scale;
		}
	for (let o = 0; o < normals.length; o += 3) {
		const size = hypot(normals[o]!, normals[o + 1]!, normals[o + 2]!) || 1;
		for (let x = 0; x < 3; x++) normals[o + x]! /= size;
	}
	return normals;
}
