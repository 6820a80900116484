import type { Mesh } from '../kit/mesh.ts';
import { plateMesh, plateSize } from '../kit/plates.ts';
import { transformed } from '../kit/unitBodies.ts';
import type { InstanceGeometry } from '../kit/result.ts';
import { fineLevel, joinedMesh, shownLevel } from './joined/joinedMesh.ts';
import type { PlacedPart } from './place.ts';

/** All parts of one material, as one indexed mesh. */
export interface MaterialBatch {
	readonly material: string;
	/** mm less the origin, stride 3. */
	readonly positions: Float32Array;
	/** Three vertices a triangle, anticlockwise from outside. */
	readonly indices: Uint32Array;
	/** By vertex: the number of what it stands on, where the parts have numbers. */
	readonly numbers?: Float32Array;
}

/** Equal bodies of one material. */
export interface InstanceBatch {
	readonly material: string;
	/** mm, stride 3, of one body. */
	readonly positions: Float32Array;
	readonly indices: Uint32Array;
	/** 16 a piece, column by column, mm less the origin. */
	readonly matrices: Float32Array;
}

export type Point = readonly [number, number, number];

/** A part to be drawn, on all rows of its placement. */
export interface DrawnPart {
	readonly part: Pick<PlacedPart, 'material' | 'geometry'>;
	readonly rows: number;
	/** By row: the number of what it stands on. */
	readonly numbers?: Int32Array;
}

/** Where a part stands on nothing that has a number. */
export const NO_NUMBER = -1;

/**
 * Merges parts by material; each batch holds only the points that it uses. Equal bodies are
 * left to `instancesOf`, unless they are to be `spread` out. O(triangles).
 */
export function batchByMaterial(parts: readonly DrawnPart[], origin: Point, spread = false): MaterialBatch[] {
	const numbered = parts.some((p) => p.numbers);
	const byMaterial = new Map<string, DrawnPart[]>();
	for (const drawn of parts) {
		const alike = byMaterial.get(drawn.part.material);
		if (alike) alike.push(drawn);
		else byMaterial.set(drawn.part.material, [drawn]);
	}
	return [...byMaterial].flatMap(([material, list]) => {
		const slices = [...patternSlices(list), ...list.flatMap((drawn) => freeSlices(drawn, spread))];
		const vertices = sum(slices.map((s) => s.vertices));
		if (vertices === 0) return [];
		const batch: MaterialBatch = {
			material,
			positions: new Float32Array(vertices * 3),
			indices: new Uint32Array(sum(slices.map((s) => s.corners))),
			...(numbered ? { numbers: new Float32Array(vertices).fill(NO_NUMBER) } : {})
		};
		let vertex = 0;
		let corner = 0;
		for (const slice of slices) {
			slice.write(batch, vertex, corner, origin);
			vertex += slice.vertices;
			corner += slice.corners;
		}
		return [batch];
	});
}

interface Slice {
	readonly vertices: number;
	readonly corners: number;
	readonly write: (batch: MaterialBatch, vertex: number, corner: number, origin: Point) => void;
}

/** Patterns over the same points share them, so that they are written together. */
function patternSlices(list: readonly DrawnPart[]): Slice[] {
	const together = new Map<unknown, DrawnPart[]>();
	for (const drawn of list) {
		const { geometry } = drawn.part;
		if (geometry.kind !== 'pattern') continue;
		// One that is not on every host is by itself.
		const key = geometry.present ?? geometry.points;
		const alike = together.get(key);
		if (alike) alike.push(drawn);
		else together.set(key, [drawn]);
	}
	return [...together.values()].map((alike) => {
		const [{ rows, numbers }] = alike as [DrawnPart];
		const patterns = alike.flatMap(({ part: { geometry } }) => (geometry.kind === 'pattern' ? [geometry] : []));
		const { points, pointsPerHost, present } = patterns[0]!;
		const { used, triangles } = compact(patterns.map((p) => p.triangles));
		const stride = pointsPerHost * 3;
		const hosts = present ? present.reduce((n, p) => n + p, 0) : rows;
		return {
			vertices: used.length * hosts,
			corners: triangles.length * hosts,
			write(batch, vertex, corner, origin) {
				const { positions, indices } = batch;
				for (let h = 0; h < rows; h++) {
					if (present && present[h] === 0) continue;
					for (let t = 0; t < triangles.length; t++) indices[corner++] = vertex + triangles[t]!;
					if (numbers) batch.numbers!.fill(numbers[h]!, vertex, vertex + used.length);
					for (let k = 0; k < used.length; k++, vertex++) {
						const from = h * stride + used[k]! * 3;
						positions[vertex * 3] = points[from]! - origin[0];
						positions[vertex * 3 + 1] = points[from + 1]! - origin[1];
						positions[vertex * 3 + 2] = points[from + 2]! - origin[2];
					}
				}
			}
		};
	});
}

/** The points that triangles use, rising, and all triangles over these. O(triangles + points). */
function compact(patterns: readonly Uint16Array[]): { readonly used: Uint16Array; readonly triangles: Uint16Array } {
	const triangles = new Uint16Array(sum(patterns.map((p) => p.length)));
	let length = 0;
	for (const pattern of patterns) {
		triangles.set(pattern, length);
		length += pattern.length;
	}
	let most = -1;
	for (let t = 0; t < length; t++) if (triangles[t]! > most) most = triangles[t]!;
	const isUsed = new Uint8Array(most + 1);
	for (let t = 0; t < length; t++) isUsed[triangles[t]!] = 1;
	const place = new Uint16Array(most + 1);
	const used = new Uint16Array(most + 1);
	let count = 0;
	for (let point = 0; point <= most; point++)
		if (isUsed[point] === 1) {
			place[point] = count;
			used[count++] = point;
		}
	for (let t = 0; t < length; t++) triangles[t] = place[triangles[t]!]!;
	return { used: used.subarray(0, count), triangles };
}

/** Meshes of their own, fitted meshes, and equal bodies where they are spread out. */
function freeSlices({ part: { geometry }, numbers }: DrawnPart, spread: boolean): Slice[] {
	const slice = (
		positions: Float64Array,
		triangles: Uint32Array,
		pieces: readonly {
			readonly from: number;
			readonly to: number;
			readonly row: number;
			readonly triangleFrom: number;
			readonly triangleTo: number;
		}[],
		shared = false
	): Slice => ({
		vertices: positions.length / 3,
		corners: shared ? triangles.length * pieces.length : triangles.length,
		write(batch, vertex, corner, origin) {
			for (let k = 0; k < positions.length; k++) batch.positions[vertex * 3 + k] = positions[k]! - origin[k % 3]!;
			for (const { from, to, row, triangleFrom, triangleTo } of pieces) {
				if (numbers) batch.numbers!.fill(numbers[row]!, vertex + from / 3, vertex + to / 3);
				for (let t = triangleFrom; t < triangleTo; t++) batch.indices[corner++] = vertex + from / 3 + triangles[t]!;
			}
		}
	});
	const alone = ({ positions, triangles }: Mesh, row: number) =>
		slice(positions, triangles, [
			{ from: 0, to: positions.length, row, triangleFrom: 0, triangleTo: triangles.length }
		]);
	switch (geometry.kind) {
		case 'pattern':
			return [];
		case 'instances':
			if (!spread) return [];
			return [...geometry.rows].map((row, k) => alone(transformed(geometry.mesh, geometry.transforms, k * 12), row));
		case 'fitted':
			return geometry.sets.map(({ positions, triangles, rows }) => {
				const size = positions.length / rows.length;
				return slice(
					positions,
					triangles,
					[...rows].map((row, k) => ({
						from: k * size,
						to: (k + 1) * size,
						row,
						triangleFrom: 0,
						triangleTo: triangles.length
					})),
					true
				);
			});
		case 'joined': {
			const { positions, triangles, barOf } = joinedMesh(geometry, spread ? fineLevel(geometry) : shownLevel(geometry));
			return [
				{
					vertices: positions.length / 3,
					corners: triangles.length,
					write(batch, vertex, corner, origin) {
						for (let k = 0; k < positions.length; k++) batch.positions[vertex * 3 + k] = positions[k]! - origin[k % 3]!;
						for (const t of triangles) batch.indices[corner++] = vertex + t;
						if (numbers) barOf.forEach((bar, k) => (batch.numbers![vertex + k] = numbers[geometry.rows[bar]!]!));
					}
				}
			];
		}
		case 'plates':
			return [...geometry.rows].map((row, k): Slice => {
				const { points, corners } = plateSize(geometry, k);
				return {
					vertices: points,
					corners,
					write: (...at) => alone(plateMesh(geometry, k), row).write(...at)
				};
			});
		case 'loose': {
			const { positionStart, triangleStart } = geometry;
			return [
				slice(
					geometry.positions,
					geometry.triangles,
					[...geometry.rows].map((row, k) => ({
						from: positionStart[k]!,
						to: positionStart[k + 1]!,
						row,
						triangleFrom: triangleStart[k]!,
						triangleTo: triangleStart[k + 1]!
					}))
				)
			];
		}
	}
}

/** Equal bodies, each kind once with all its places. O(pieces). */
export function instancesOf(parts: readonly DrawnPart[], origin: Point): InstanceBatch[] {
	return parts.flatMap(({ part: { material, geometry } }) =>
		geometry.kind === 'instances' && geometry.rows.length ? [instanceBatch(material, geometry, origin)] : []
	);
}

function instanceBatch(material: string, { mesh, transforms, rows }: InstanceGeometry, origin: Point): InstanceBatch {
	const matrices = new Float32Array(rows.length * 16);
	for (let k = 0; k < rows.length; k++)
		for (let column = 0; column < 4; column++) {
			for (let c = 0; c < 3; c++)
				matrices[k * 16 + column * 4 + c] = transforms[k * 12 + column * 3 + c]! - (column === 3 ? origin[c]! : 0);
			matrices[k * 16 + column * 4 + 3] = column === 3 ? 1 : 0;
		}
	return { material, positions: Float32Array.from(mesh.positions), indices: mesh.triangles.slice(), matrices };
}

const sum = (numbers: readonly number[]) => numbers.reduce((a, b) => a + b, 0);
