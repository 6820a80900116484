import { norm } from '../elementary/index.ts';
import { cross, minus, pointAt } from '../geometry/vectors.ts';
import { weldedMesh, type Mesh } from './mesh.ts';

/** Corners with many sides come near enough to being moved off all of them. */
const ROUNDS = 3;

/** A closed body with all of its sides moved outwards by a little, mm; inwards where that is below 0. Its corners move as far as their sides ask. */
export function movedSkin(mesh: Mesh, by: number): Mesh {
	const { positions, triangles } = weldedMesh(mesh);
	const moves = new Float64Array(positions.length);
	for (let round = 0; round < ROUNDS; round++)
		for (let t = 0; t < triangles.length; t += 3) {
			const corners = [0, 1, 2].map((k) => triangles[t + k]! * 3) as [number, number, number];
			const [a, b, c] = corners.map((o) => pointAt(positions, o)) as [Corner, Corner, Corner];
			const normal = cross(minus(b, a), minus(c, a));
			const size = norm(normal);
			if (!(size > 0)) continue;
			for (const o of corners) {
				const moved = (normal[0] * moves[o]! + normal[1] * moves[o + 1]! + normal[2] * moves[o + 2]!) / size;
				const more = by - moved;
				if (more * by > 0) for (let k = 0; k < 3; k++) moves[o + k]! += (normal[k]! / size) * more;
			}
		}
	return { positions: positions.map((x, k) => x + moves[k]!), triangles };
}

type Corner = ReturnType<typeof pointAt>;
