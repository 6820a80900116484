import type { Point } from '../../core/geometry/curve.ts';
import { NodeKeys } from '../../core/placement/drawn/nodeKeys.ts';
import type { NodeKey } from '../../core/placement/drawn/schema.ts';
import { flattener } from '../../core/placement/fields/flatten.ts';
import type { FaceModel } from '../../core/project/faceResult.ts';
import type { Model } from '../../core/project/pipeline.ts';
import { CellPicker, type Hit } from './pick.ts';

export interface PickedCell {
	readonly face: number;
	readonly cell: number;
}

/** A place of a face under the pointer. */
export interface PickedPlace {
	/** Address of the face. */
	readonly key: string;
	/** mm, in space and on the face laid flat. */
	readonly point: Point;
	readonly flat: readonly [number, number];
	/** What the nearest node of the cell is known by. */
	readonly node: NodeKey | undefined;
}

/** Finds what lies under the pointer, by trees of boxes that are made once for each division. */
export class Picking {
	/** By the cells of a face. */
	private readonly pickers = new WeakMap<object, CellPicker>();
	private readonly keys = new WeakMap<object, NodeKeys>();
	/** By the charted face. */
	private readonly flat = new WeakMap<object, ReturnType<typeof flattener>>();

	/** The cell that a ray meets first; nothing where it meets none. */
	cell(model: Model | undefined, hidden: ReadonlySet<string>, origin: Point, direction: Point): PickedCell | undefined {
		const found = this.first(model, hidden, origin, direction);
		return found && { face: found.face, cell: found.hit.cell };
	}

	/** The place that a ray meets first, with the node nearest to it. */
	place(
		model: Model | undefined,
		hidden: ReadonlySet<string>,
		origin: Point,
		direction: Point
	): PickedPlace | undefined {
		const found = this.first(model, hidden, origin, direction);
		if (!found) return undefined;
		const face = model!.faces[found.face]!;
		const size = Math.hypot(...direction);
		const point = origin.map((x, c) => x + (direction[c]! / size) * found.hit.distance) as unknown as Point;
		const flatten = this.flat.get(face.charted) ?? flattener(face.charted);
		this.flat.set(face.charted, flatten);
		const keys = this.keys.get(face.cells) ?? new NodeKeys(face);
		this.keys.set(face.cells, keys);
		const [x, y] = flatten([point])[0]!;
		return { key: face.key, point, flat: [x, y], node: keys.keyOf(nearestCorner(face, found.hit.cell, point)) };
	}

	private first(
		model: Model | undefined,
		hidden: ReadonlySet<string>,
		origin: Point,
		direction: Point
	): { readonly face: number; readonly hit: Hit } | undefined {
		let found: { readonly face: number; readonly hit: Hit } | undefined;
		model?.faces.forEach((face, f) => {
			if (hidden.has(face.key)) return;
			const picker = this.pickers.get(face.cells) ?? new CellPicker(face);
			this.pickers.set(face.cells, picker);
			const hit = picker.pick(origin, direction);
			if (hit && hit.distance < (found?.hit.distance ?? Infinity)) found = { face: f, hit };
		});
		return found;
	}
}

/** Points along curves are no corners. */
function nearestCorner({ cells, nodes }: FaceModel, cell: number, [x, y, z]: Point): number {
	let [best, least] = [-1, Infinity];
	for (let k = cells.cornerStart[cell]!; k < cells.cornerStart[cell + 1]!; k++) {
		if (cells.round?.[k] === 1) continue;
		const n = cells.corners[k]!;
		const far = Math.hypot(nodes.position[n * 3]! - x, nodes.position[n * 3 + 1]! - y, nodes.position[n * 3 + 2]! - z);
		if (far < least) [best, least] = [n, far];
	}
	return best;
}
