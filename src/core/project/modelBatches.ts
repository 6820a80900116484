import {
	batchByMaterial,
	instancesOf,
	type InstanceBatch,
	type MaterialBatch,
	type NumberedPlacement,
	type Point
} from '../placement/batches.ts';
import { standsOnCells } from '../placement/place.ts';
import type { Model } from './pipeline.ts';

/**
 * All parts of a model by material, without those on faces left out; panels are numbered by their row in the
 * schedule.
 */
export function modelBatches(
	model: Model,
	origin: Point,
	without: ReadonlySet<string> = new Set(),
	spread = false
): MaterialBatch[] {
	return batchByMaterial(numbered(model, without), origin, spread);
}

/** The equal bodies of a model, which `modelBatches` leaves out unless they are spread. */
export function modelInstances(model: Model, origin: Point, without: ReadonlySet<string> = new Set()): InstanceBatch[] {
	return instancesOf(numbered(model, without), origin);
}

function numbered(model: Model, without: ReadonlySet<string>): NumberedPlacement[] {
	return model.faces.flatMap(({ key, placements }, k) =>
		without.has(key)
			? []
			: placements.map((placement) =>
					standsOnCells(placement) ? { placement, numbers: model.schedule.rowOfCell[k]! } : { placement }
				)
	);
}

/** Middle of all faces' nodes (or control points of those that are not divided), rounded to whole metres (mm), so that single precision is fine beside it. */
export function originOf(model: Model): Point {
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
