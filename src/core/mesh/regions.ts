import { cos, norm } from '../elementary/index.ts';
import { areaVector, neighboursOf, NO_TRIANGLE, PairMap, type TriangleMesh } from './triangleMesh.ts';

/** How a body is parted into faces. */
export type Split = { readonly kind: 'file' } | { readonly kind: 'crease'; readonly angle: number };

/**
 * Faces of a mesh: triangles that hang together without a crease between them sharper than the angle
 * (radians), or that the file counts to one face. Answers the face of each triangle and their number,
 * the largest faces first. O(triangles).
 */
export function splitFaces(mesh: TriangleMesh, split: Split): { region: Uint32Array; count: number } {
	const { triangles } = mesh;
	const total = triangles.length / 3;
	const { neighbours } = neighboursOf(triangles);
	const normals = new Float64Array(total * 3);
	const areas = new Float64Array(total);
	for (let t = 0; t < total; t++) {
		const vector = areaVector(mesh, t);
		areas[t] = norm(vector);
		for (let c = 0; c < 3; c++) normals[t * 3 + c] = vector[c]! / areas[t]!;
	}
	const { faceOf } = mesh;
	const byFile = split.kind === 'file' && faceOf;
	const leastCosine = cos(split.kind === 'crease' ? split.angle : Math.PI / 6);
	const joined = (a: number, b: number) =>
		byFile
			? faceOf[a] === faceOf[b]
			: normals[a * 3]! * normals[b * 3]! +
					normals[a * 3 + 1]! * normals[b * 3 + 1]! +
					normals[a * 3 + 2]! * normals[b * 3 + 2]! >=
				leastCosine;
	const region = new Int32Array(total).fill(-1);
	const sizes: number[] = [];
	const queue = new Uint32Array(total);
	for (let seed = 0; seed < total; seed++) {
		if (region[seed] !== -1) continue;
		const id = sizes.push(0) - 1;
		let [head, tail] = [0, 0];
		queue[tail++] = seed;
		region[seed] = id;
		while (head < tail) {
			const t = queue[head++]!;
			sizes[id]! += areas[t]!;
			for (let s = t * 3; s < t * 3 + 3; s++) {
				const u = neighbours[s]!;
				if (u === NO_TRIANGLE || region[u] !== -1 || !joined(t, u)) continue;
				region[u] = id;
				queue[tail++] = u;
			}
		}
	}
	const order = sizes.map((_, k) => k).sort((a, b) => sizes[b]! - sizes[a]!);
	const place = new Uint32Array(sizes.length);
	order.forEach((id, k) => (place[id] = k));
	return { region: Uint32Array.from(region, (id) => place[id]!), count: sizes.length };
}

/** The triangles of each face as a mesh of its own. O(triangles). */
export function extractFaces(mesh: TriangleMesh, region: Uint32Array, count: number): TriangleMesh[] {
	const parts = Array.from({ length: count }, () => ({ positions: [] as number[], triangles: [] as number[] }));
	const local = new PairMap(mesh.triangles.length);
	region.forEach((id, t) => {
		const part = parts[id]!;
		for (let k = 0; k < 3; k++) {
			const v = mesh.triangles[t * 3 + k]!;
			let at = local.get(id, v);
			if (at === -1) {
				at = part.positions.length / 3;
				local.set(id, v, at);
				part.positions.push(mesh.positions[v * 3]!, mesh.positions[v * 3 + 1]!, mesh.positions[v * 3 + 2]!);
			}
			part.triangles.push(at);
		}
	});
	return parts.map((p) => ({ positions: Float64Array.from(p.positions), triangles: Uint32Array.from(p.triangles) }));
}
