import {
	batchByMaterial,
	instancesOf,
	NO_NUMBER,
	type DrawnPart,
	type InstanceBatch,
	type MaterialBatch,
	type Point
} from '../placement/batches.ts';
import { HOST_TABLES, markOf, NO_ROW } from '../schedule/faceTable.ts';
import { placedParts } from '../schedule/parts.ts';
import { startsOf } from '../schedule/query.ts';
import type { DividedFace, FaceBody, FaceModel } from './faceResult.ts';
import type { Model } from './pipeline.ts';

/** The parts of a face as they are drawn: by material, with equal bodies once. */
export interface DrawnFace {
	readonly batches: readonly MaterialBatch[];
	readonly instances: readonly InstanceBatch[];
}

/** O(triangles). */
export function drawFace(face: FaceModel, origin: Point): DrawnFace {
	const parts = placedParts(face).map(({ part, placement }) => ({ part, rows: placement.hosts.length }));
	return { batches: batchByMaterial(parts, origin), instances: instancesOf(parts, origin) };
}

/** All parts of a model with the numbers of what they stand on: places in `marks`. */
export function numberedParts(model: Model): { readonly parts: DrawnPart[]; readonly marks: string[] } {
	const { schedule, faces } = model;
	const marks: string[] = [];
	/** By table and face: the number of its first row. */
	const first = HOST_TABLES.map((name) => {
		const before = marks.length;
		for (const face of schedule) for (let r = 0; r < face.tables[name].count; r++) marks.push(markOf(face, name, r));
		return startsOf(schedule.map((face) => face.tables[name])).map((start) => before + start);
	});
	const parts = faces.flatMap((face, f) =>
		placedParts(face).map(({ part, placement, table, hostRow }) => {
			const start = first[HOST_TABLES.indexOf(table)]![f]!;
			return {
				part,
				rows: placement.hosts.length,
				numbers: hostRow.map((row) => (row === NO_ROW ? NO_NUMBER : start + row))
			};
		})
	);
	return { parts, marks };
}

/** What tells where a model is. */
export interface WhereItStands {
	readonly bodies: readonly Pick<FaceBody, 'surface'>[];
	readonly faces: readonly Pick<DividedFace, 'nodes'>[];
}

/** Middle of all faces' nodes (or control points of those that are not divided), rounded to whole metres (mm), so that single precision is fine beside it. */
export function originOf(model: WhereItStands): Point {
	const least = [Infinity, Infinity, Infinity];
	const most = [-Infinity, -Infinity, -Infinity];
	const take = (position: Float64Array, stride: number) => {
		for (let o = 0; o < position.length; o += stride)
			for (let axis = 0; axis < 3; axis++) {
				const x = stride === 4 ? position[o + axis]! / position[o + 3]! : position[o + axis]!;
				if (x < least[axis]!) least[axis] = x;
				if (x > most[axis]!) most[axis] = x;
			}
	};
	for (const { nodes } of model.faces) take(nodes.position, 3);
	if (model.faces.length === 0) for (const { surface } of model.bodies) take(surface.control, 4);
	const middle = (k: number) => Math.round((least[k]! + most[k]!) / 2000) * 1000;
	return model.bodies.length ? [middle(0), middle(1), middle(2)] : [0, 0, 0];
}
