import { baysOf } from '../placement/bays.ts';
import { edgeLines } from '../placement/edgeLines.ts';
import { drawnPathsOf, pathsOf, type FaceWithPaths } from '../placement/paths.ts';
import type { CellReadings } from '../readings/measureCells.ts';
import { bayAt, type FaceSchedule, type HostTableName } from './faceTable.ts';

/** A face whose hosts have corners. */
export interface FaceWithCorners extends FaceWithPaths {
	readonly readings: CellReadings;
	readonly layer: number | Float64Array;
	readonly schedule: FaceSchedule;
}

/** The corners of a host in order, none twice: numbers of points, and where those are. */
export interface Corners {
	readonly position: Float64Array;
	of(row: number): Uint32Array | number[];
}

/** Corners by the rows of a table. O(elements). */
export function cornersOn(face: FaceWithCorners, table: HostTableName): Corners {
	const { nodes, cells } = face;
	const { position } = nodes;
	const { host, at } = face.schedule.tables[table];
	switch (table) {
		case 'panels':
			return {
				position,
				of: (r) => cells.corners.subarray(cells.cornerStart[host[r]!], cells.cornerStart[host[r]! + 1])
			};
		case 'edges': {
			const { cornerStart, corners } = edgeLines(face, 'face');
			return { position, of: (r) => corners.subarray(cornerStart[host[r]!], cornerStart[host[r]! + 1]) };
		}
		case 'nodes':
			return { position, of: (r) => [host[r]!] };
		case 'bays':
			return {
				position,
				of: (r) => {
					const { cornerStart, corners } = baysOf(face, bayAt(at[r]!));
					return corners.subarray(cornerStart[host[r]!], cornerStart[host[r]! + 1]);
				}
			};
		case 'paths': {
			// Rows of paths are told by their line and piece, whichever kit takes them.
			const rows = face.schedule.tables.paths;
			const drawn = drawnPathsOf(face);
			const lines = [pathsOf(face, 'across', 1), pathsOf(face, 'up', 1)];
			const place = new Map(
				[...lines, drawn].flatMap((paths) =>
					[...paths.line.keys()].map(
						(p) => [`${paths.way[p]} ${paths.line[p]} ${paths.piece[p]}`, { paths, p }] as const
					)
				)
			);
			return {
				// Lines have the nodes, and drawn paths their points behind those.
				position: drawn.line.length ? drawn.position : position,
				of: (r) => {
					const found = place.get(`${rows.role[r]} ${rows.columns.row![r]} ${rows.piece[r]}`);
					return found
						? found.paths.corners.subarray(found.paths.cornerStart[found.p], found.paths.cornerStart[found.p + 1])
						: [];
				}
			};
		}
	}
}
