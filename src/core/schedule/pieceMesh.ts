import type { Mesh } from '../kit/mesh.ts';
import { plateMesh } from '../kit/plates.ts';
import { transformed } from '../kit/unitBodies.ts';
import { fineLevel, joinedMesh } from '../placement/joined/joinedMesh.ts';
import type { PlacedPart } from '../placement/place.ts';
import { connected } from './types/pieceSizes.ts';

/** What a piece looks like: the mesh of its body, mm, three points a triangle, anticlockwise from outside. */
export type MeshOf = (placed: number, element: number) => Mesh | undefined;

/** Small arrays are cut out of larger ones, of so many numbers: to ask for each of them takes longer than to fill it. */
const SLAB = 1 << 13;

function slabs(): (length: number) => Float64Array {
	let slab = new Float64Array(0);
	let used = 0;
	return (length) => {
		if (used + length > slab.length) {
			slab = new Float64Array(Math.max(SLAB, length));
			used = 0;
		}
		used += length;
		return slab.subarray(used - length, used);
	};
}

/**
 * How the pieces of a part look, by the row of its placement and the number of the piece (see `PartTable`). Where a host counts
 * as another number of pieces than its triangles hang together in, and for bars that are one joined body, the first piece has
 * all of it, and the others have nothing. O(triangles of the part), once.
 */
export function pieceMeshes({ geometry, pieces }: Pick<PlacedPart, 'geometry' | 'pieces'>): MeshOf {
	switch (geometry.kind) {
		case 'pattern': {
			const { points, pointsPerHost, present, triangles } = geometry;
			const bodies = connected(triangles);
			const told = pieces.every((n, h) => n === 0 || present?.[h] === 0 || n === bodies.length);
			const lists = (told ? bodies : [[...new Set(triangles)].sort((a, b) => a - b)]).map((list) => {
				const place = new Map(list.map((point, k) => [point, k]));
				const own: number[] = [];
				for (let t = 0; t < triangles.length; t += 3)
					if (place.has(triangles[t]!)) own.push(...[0, 1, 2].map((k) => place.get(triangles[t + k]!)!));
				return { list, triangles: Uint32Array.from(own) };
			});
			const cut = slabs();
			return (h, element) => {
				const body = lists[element];
				if (!body || present?.[h] === 0) return undefined;
				const { list } = body;
				const positions = cut(list.length * 3);
				for (let k = 0; k < list.length; k++) {
					const from = (h * pointsPerHost + list[k]!) * 3;
					for (let c = 0; c < 3; c++) positions[k * 3 + c] = points[from + c]!;
				}
				return { positions, triangles: body.triangles };
			};
		}
		case 'instances':
			return (_, element) => transformed(geometry.mesh, geometry.transforms, element * 12);
		case 'loose': {
			const { positions, triangles, positionStart, triangleStart } = geometry;
			return (_, k) => ({
				positions: positions.slice(positionStart[k], positionStart[k + 1]),
				triangles: triangles.slice(triangleStart[k], triangleStart[k + 1])
			});
		}
		case 'plates':
			return (_, k) => plateMesh(geometry, k);
		case 'fitted':
			return (_, element) => {
				let from = 0;
				for (const { positions, triangles, rows } of geometry.sets) {
					const k = element - from;
					if (k < rows.length) {
						const size = positions.length / rows.length;
						return { positions: positions.slice(k * size, (k + 1) * size), triangles };
					}
					from += rows.length;
				}
				return undefined;
			};
		case 'joined':
			return (_, element) => {
				if (element !== 0) return undefined;
				const { positions, triangles } = joinedMesh(geometry, fineLevel(geometry));
				return { positions, triangles };
			};
	}
}
