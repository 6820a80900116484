import { transformed } from '../kit/unitBodies.ts';
import type { InstanceGeometry } from '../kit/result.ts';
import type { PlacedPart, Placement } from './place.ts';

/** All parts of one material, as one indexed mesh. */
export interface MaterialBatch {
	readonly material: string;
	/** mm less the origin, stride 3. */
	readonly positions: Float32Array;
	/** Three vertices a triangle, anticlockwise from outside. */
	readonly indices: Uint32Array;
	/** Number of the panel that a vertex belongs to. */
	readonly panels: Float32Array;
}

/** Equal bodies of one material. */
export interface InstanceBatch {
	readonly material: string;
	/** mm, stride 3, of one body. */
	readonly positions: Float32Array;
	readonly indices: Uint32Array;
	/** 16 a piece, column by column, mm less the origin. */
	readonly matrices: Float32Array;
	/** Number of the panel that a piece belongs to. */
	readonly panels: Float32Array;
}

export type Point = readonly [number, number, number];

/** A placement with the number of the panel on each element. */
export interface NumberedPlacement {
	readonly placement: Placement;
	/** By element; none has a number when left out. */
	readonly numbers?: Int32Array;
}

/** Where a part belongs to no panel. */
export const NO_PANEL = -1;

/**
 * Merges the parts of many placements by material; each batch holds only the points that it uses. Equal bodies are
 * left to `instancesOf`, unless they are to be `spread` out. O(triangles).
 */
export function batchByMaterial(
	placements: readonly NumberedPlacement[],
	origin: Point,
	spread = false
): MaterialBatch[] {
	const materials = [...new Set(placements.flatMap(({ placement }) => placement.parts.map((part) => part.material)))];
	return materials.flatMap((material) => {
		const slices = placements.flatMap((numbered) => {
			const parts = numbered.placement.parts.filter((p) => p.material === material);
			return [...patternSlices(parts, numbered), ...parts.flatMap((part) => freeSlices(part, numbered, spread))];
		});
		const vertices = sum(slices.map((s) => s.vertices));
		if (vertices === 0) return [];
		const batch = {
			material,
			positions: new Float32Array(vertices * 3),
			indices: new Uint32Array(sum(slices.map((s) => s.corners))),
			panels: new Float32Array(vertices)
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

/** Patterns of one placement share points, so that they are written together. */
function patternSlices(parts: readonly PlacedPart[], { placement, numbers }: NumberedPlacement): Slice[] {
	const patterns = parts.flatMap(({ geometry }) => (geometry.kind === 'pattern' ? [geometry] : []));
	const always = patterns.filter((p) => !p.present);
	return [...(always.length ? [always] : []), ...patterns.filter((p) => p.present).map((p) => [p])].map((together) => {
		const { points, pointsPerHost, present } = together[0]!;
		const all = together.flatMap((p) => [...p.triangles]);
		const used = Uint16Array.from([...new Set(all)].sort((a, b) => a - b));
		const place = new Map([...used].map((point, k) => [point, k]));
		const triangles = Uint16Array.from(all, (point) => place.get(point)!);
		const stride = pointsPerHost * 3;
		const hosts = present ? present.reduce((n, p) => n + p, 0) : placement.hosts.length;
		return {
			vertices: used.length * hosts,
			corners: triangles.length * hosts,
			write({ positions, indices, panels }, vertex, corner, origin) {
				for (let h = 0; h < placement.hosts.length; h++) {
					if (present && present[h] === 0) continue;
					for (let t = 0; t < triangles.length; t++) indices[corner++] = vertex + triangles[t]!;
					const panel = numbers ? numbers[placement.hosts[h]!]! : NO_PANEL;
					for (let k = 0; k < used.length; k++, vertex++) {
						const from = h * stride + used[k]! * 3;
						positions[vertex * 3] = points[from]! - origin[0];
						positions[vertex * 3 + 1] = points[from + 1]! - origin[1];
						positions[vertex * 3 + 2] = points[from + 2]! - origin[2];
						panels[vertex] = panel;
					}
				}
			}
		};
	});
}

/** Meshes of their own, fitted meshes, and equal bodies where they are spread out. */
function freeSlices({ geometry }: PlacedPart, { placement, numbers }: NumberedPlacement, spread: boolean): Slice[] {
	const panelOf = (row: number) => (numbers ? numbers[placement.hosts[row]!]! : NO_PANEL);
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
				batch.panels.fill(panelOf(row), vertex + from / 3, vertex + to / 3);
				for (let t = triangleFrom; t < triangleTo; t++) batch.indices[corner++] = vertex + from / 3 + triangles[t]!;
			}
		}
	});
	switch (geometry.kind) {
		case 'pattern':
			return [];
		case 'instances':
			if (!spread) return [];
			return [...geometry.rows].map((row, k) => {
				const { positions, triangles } = transformed(geometry.mesh, geometry.transforms, k * 12);
				return slice(positions, triangles, [
					{ from: 0, to: positions.length, row, triangleFrom: 0, triangleTo: triangles.length }
				]);
			});
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
export function instancesOf(placements: readonly NumberedPlacement[], origin: Point): InstanceBatch[] {
	return placements.flatMap(({ placement, numbers }) =>
		placement.parts.flatMap(({ material, geometry }) =>
			geometry.kind === 'instances' && geometry.rows.length
				? [instanceBatch(material, geometry, placement, numbers, origin)]
				: []
		)
	);
}

function instanceBatch(
	material: string,
	{ mesh, transforms, rows }: InstanceGeometry,
	placement: Placement,
	numbers: Int32Array | undefined,
	origin: Point
): InstanceBatch {
	const matrices = new Float32Array(rows.length * 16);
	for (let k = 0; k < rows.length; k++)
		for (let column = 0; column < 4; column++) {
			for (let c = 0; c < 3; c++)
				matrices[k * 16 + column * 4 + c] = transforms[k * 12 + column * 3 + c]! - (column === 3 ? origin[c]! : 0);
			matrices[k * 16 + column * 4 + 3] = column === 3 ? 1 : 0;
		}
	return {
		material,
		positions: Float32Array.from(mesh.positions),
		indices: mesh.triangles.slice(),
		matrices,
		panels: Float32Array.from(rows, (row) => (numbers ? numbers[placement.hosts[row]!]! : NO_PANEL))
	};
}

const sum = (numbers: readonly number[]) => numbers.reduce((a, b) => a + b, 0);
