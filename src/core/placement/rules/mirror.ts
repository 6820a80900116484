import { mapSurface } from '../../geometry/surface.ts';
import { measureCells } from '../../readings/measureCells.ts';
import type { CellTable } from '../../tiling/cells.ts';
import type { Mesh } from '../../kit/mesh.ts';
import type { PartGeometry } from '../../kit/result.ts';
import type { HostFace } from '../faceHosts.ts';
import type { Placement } from '../place.ts';

/*
 * A kit is placed mirrored by placing it as it is on the face seen in a mirror, east and west changed over, and by seeing
 * what comes of it in the same mirror again. In the mirror a cell's corners run the other way around, so that its first
 * side is still the first and its ends have changed places.
 */

/** The face in a mirror; readings that do not hang on a cell's corners stay those of the face. O(corners). */
export function mirrorFace(face: HostFace): HostFace {
	const { nodes, cells, surface } = face;
	const mirrored = { ...nodes, position: reflected(nodes.position), normal: reflected(nodes.normal) };
	const turned = mirrorCells(cells);
	return {
		...face,
		surface: mapSurface(surface, ([x, y, z]) => [-x, y, z]),
		nodes: mirrored,
		cells: turned,
		readings: measureCells(mirrored, turned),
		unturned: face.unturned ?? face
	};
}

function mirrorCells(cells: CellTable): CellTable {
	const { count, cornerStart, corners, trim } = cells;
	const from = new Uint32Array(corners.length);
	for (let c = 0; c < count; c++) {
		const [start, n] = [cornerStart[c]!, cornerStart[c + 1]! - cornerStart[c]!];
		for (let k = 0; k < n; k++) from[start + k] = start + ((n + 1 - k) % n);
	}
	const moved = <T extends Uint32Array | Uint8Array>(list: T) => list.map((_, k) => list[from[k] ?? k]!) as T;
	return {
		...cells,
		corners: moved(corners),
		...(cells.places ? { places: moved(cells.places) } : {}),
		...(cells.straight ? { straight: moved(cells.straight) } : {}),
		...(cells.round ? { round: moved(cells.round) } : {}),
		...(trim
			? {
					trim: { ...trim, holes: new Map([...trim.holes].map(([c, loops]) => [c, loops.map((l) => l.toReversed())])) }
				}
			: {})
	};
}

/** What was placed on a face in the mirror, as it stands on the face. What parts share, they go on sharing. O(points). */
export function mirrorPlacements<P extends Placement>(placements: readonly P[]): P[] {
	const known = new Map<object, unknown>();
	const once = <K extends object>(key: K, make: (key: K) => K): K => {
		if (!known.has(key)) known.set(key, make(key));
		return known.get(key) as K;
	};
	return placements.map((placement) => ({
		...placement,
		parts: placement.parts.map((part) => ({ ...part, geometry: mirrorGeometry(part.geometry, once) }))
	}));
}

type Once = <K extends object>(key: K, make: (key: K) => K) => K;

function mirrorGeometry(geometry: PartGeometry, once: Once): PartGeometry {
	switch (geometry.kind) {
		case 'pattern':
			return { ...geometry, points: once(geometry.points, reflected), triangles: once(geometry.triangles, flipped) };
		case 'instances':
			return { ...geometry, mesh: once(geometry.mesh, mirrorMesh), transforms: once(geometry.transforms, conjugated) };
		case 'loose':
			return {
				...geometry,
				positions: once(geometry.positions, reflected),
				triangles: once(geometry.triangles, flipped)
			};
		case 'plates':
			return { ...geometry, mirrored: !geometry.mirrored };
		case 'joined':
			return { ...geometry, ends: once(geometry.ends, reflected) };
		case 'fitted':
			return {
				...geometry,
				sets: geometry.sets.map((set) => ({
					...set,
					positions: once(set.positions, reflected),
					triangles: once(set.triangles, flipped)
				}))
			};
	}
}

const mirrorMesh = (mesh: Mesh): Mesh => ({
	...mesh,
	positions: reflected(mesh.positions),
	triangles: flipped(mesh.triangles)
});

/** Points, or ways, with their first component the other way. */
const reflected = (points: Float64Array): Float64Array => points.map((x, k) => (k % 3 === 0 ? -x : x));

/** Triangles run the other way around, so that their outside stays outside. */
const flipped = <T extends Uint16Array | Uint32Array>(triangles: T): T =>
	triangles.map((_, k) => triangles[k % 3 === 0 ? k : k % 3 === 1 ? k + 1 : k - 1]!) as T;

/** 3 x 4 matrices for bodies that are mirrored themselves: mirror, motion, mirror. */
const conjugated = (transforms: Float64Array): Float64Array =>
	transforms.map((x, k) => {
		const [column, row] = [Math.floor((k % 12) / 3), k % 3];
		return (row === 0) === (column === 0) ? x : column === 3 && row !== 0 ? x : -x;
	});
