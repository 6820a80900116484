import { batchByMaterial, type MaterialBatch, type Point } from '../placement/batches.ts';
import type { Model } from './pipeline.ts';

/** All parts of a model by material; panels are numbered by their row in the schedule. */
export function modelBatches(model: Model, origin: Point): MaterialBatch[] {
	const placements = model.faces.flatMap((f) => f.placements);
	const rows = model.faces.flatMap((f, k) => f.placements.map(() => model.schedule.rowOfCell[k]!));
	return batchByMaterial(placements, origin, rows);
}

/** Middle of all nodes, rounded to whole metres (mm), so that single precision is fine beside it. */
export function originOf(model: Model): Point {
	const least = [Infinity, Infinity, Infinity];
	const most = [-Infinity, -Infinity, -Infinity];
	for (const { nodes } of model.faces)
		for (let o = 0; o < nodes.position.length; o++) {
			const x = nodes.position[o]!;
			const axis = o % 3;
			if (x < least[axis]!) least[axis] = x;
			if (x > most[axis]!) most[axis] = x;
		}
	const middle = (k: number) => Math.round((least[k]! + most[k]!) / 2000) * 1000;
	return model.faces.length ? [middle(0), middle(1), middle(2)] : [0, 0, 0];
}
