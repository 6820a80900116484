import { atan2, hypot } from '../elementary/index.ts';
import type { ReadingDefinition } from '../readings/definition.ts';
import { measureCells } from '../readings/measureCells.ts';

/** Every reading of a path. */
export const PATH_READINGS = {
	length: { label: 'Length', quantity: 'length', meaning: 'Along all of its points' },
	elevation: { label: 'Lowest point', quantity: 'length', meaning: 'Height of the lowest point above the ground' },
	row: { label: 'Number', quantity: 'count', meaning: 'Counted from 1 at the starting border' },
	points: { label: 'Points', quantity: 'count', meaning: 'How many points it has' }
} as const satisfies Record<string, ReadingDefinition>;

/** Readings of an edge that hang on what else is placed there. */
export const ROOM_READINGS = {
	startRoom: {
		label: 'Room at the start',
		quantity: 'length',
		meaning:
			'How far from its first node the thickest bars and node pieces there reach along it: a bar cut back by so much is clear of them'
	},
	endRoom: { label: 'Room at the end', quantity: 'length', meaning: 'The same at its other node' }
} as const satisfies Record<string, ReadingDefinition>;

/** Readings of an edge that hang on another divided face whose border it lies along. */
export const BESIDE_READINGS = {
	faceAngle: {
		label: 'Angle to the face beside it',
		quantity: 'angle',
		meaning:
			'Where it lies along the border of another divided face: between both faces, measured inside: less than 180° is a ridge, more a valley; 180° where there is none'
	},
	faceTurn: {
		label: 'Turn to the face beside it',
		quantity: 'angle',
		meaning:
			'The turn about it from its own outside to that of the other face; a bar turned by half of it looks halfway between both; 0° where there is none'
	}
} as const satisfies Record<string, ReadingDefinition>;

/**
 * Readings of hosts that are no part of a face, such as pieces and trial hosts: those that follow from their
 * points alone. `points` has `corners` points a host, stride 3; the lines of a `ring` run back to their first point.
 */
export function readingsOfPoints(
	closed: boolean,
	corners: number,
	points: Float64Array,
	ring = false
): (name: string) => Float64Array | undefined {
	const count = points.length / (corners * 3);
	if (!closed) return (name) => lineReading(name, corners, count, points, ring);
	let known: Readonly<Record<string, Float64Array>> | undefined;
	return (name) => {
		known ??= measureCells(
			{ position: points },
			{
				count,
				cornerStart: Uint32Array.from({ length: count + 1 }, (_, c) => c * corners),
				corners: Uint32Array.from({ length: count * corners }, (_, k) => k),
				row: new Uint32Array(count),
				column: new Uint32Array(count),
				edgeCount: 0,
				edgeNodes: new Uint32Array(),
				edgeCells: new Int32Array()
			}
		).columns;
		return name === 'corners' ? new Float64Array(count).fill(corners) : known[name];
	};
}

function lineReading(
	name: string,
	corners: number,
	count: number,
	points: Float64Array,
	ring: boolean
): Float64Array | undefined {
	const at = (h: number, k: number) => (h * corners + k) * 3;
	const each = (of: (h: number) => number) => Float64Array.from({ length: count }, (_, h) => of(h));
	switch (name) {
		case 'length':
			return each((h) => {
				let sum = 0;
				for (let k = 0; k < (ring ? corners : corners - 1); k++) {
					const [a, b] = [at(h, k), at(h, (k + 1) % corners)];
					sum += hypot(points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!);
				}
				return sum;
			});
		case 'elevation':
			return each((h) => {
				let least = Infinity;
				for (let k = 0; k < corners; k++) least = Math.min(least, points[at(h, k) + 2]!);
				return least;
			});
		case 'slope':
			return each((h) => {
				const [a, b] = [at(h, 0), at(h, corners - 1)];
				return atan2(
					Math.abs(points[b + 2]! - points[a + 2]!),
					hypot(points[b]! - points[a]!, points[b + 1]! - points[a + 1]!)
				);
			});
		case 'points':
			return each(() => corners);
		case 'startRoom':
		case 'endRoom':
		case 'faceTurn':
			return each(() => 0);
		case 'faceAngle':
			return each(() => Math.PI);
		default:
			return undefined;
	}
}
