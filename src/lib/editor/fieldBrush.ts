import { beforeDraft } from '../../core/project/drafts.ts';
import type { Painted } from '../../core/placement/fields/painted.ts';
import type { Project } from '../../core/project/schema.ts';
import type { FaceView } from '../../core/view/faceView.ts';

/** A soft brush: full in its middle, nothing at its edge. */
export interface FieldBrush {
	/** mm on the flat face. */
	readonly radius: number;
	/** How much of the way to 1 (or 0) a stroke goes in its middle, 0 to 1. */
	readonly strength: number;
}

/** Values are kept in steps of this. */
const STEP = 0.01;

type Run = Painted['parts'][number]['runs'][number];

/** Values of a painted field on a face, by row and column. */
export function paintedValues({ parts }: Painted, face: string): Map<string, number> {
	const values = new Map<string, number>();
	for (const [row, from, to, value] of parts.find((p) => p.face === face)?.runs ?? [])
		for (let column = from; column <= to; column++) values.set(`${row} ${column}`, value);
	return values;
}

/**
 * What a stroke over cells does to the values of a face: towards 1, or towards 0 where it wipes, the less the farther a
 * cell's middle is from the nearest cell of the stroke. `corners` are the flat places of the cells' corners, stride 2.
 * O(cells + cells about the stroke x stroke).
 */
export function brushed(
	face: Pick<FaceView, 'cellCount' | 'cornerStart' | 'row' | 'column'>,
	corners: ArrayLike<number>,
	before: ReadonlyMap<string, number>,
	stroke: readonly number[],
	{ radius, strength }: FieldBrush,
	wipe: boolean
): Map<string, number> {
	const middle = (cell: number) => {
		const [from, to] = [face.cornerStart[cell]!, face.cornerStart[cell + 1]!];
		let [x, y] = [0, 0];
		for (let k = from; k < to; k++) {
			x += corners[k * 2]! / (to - from);
			y += corners[k * 2 + 1]! / (to - from);
		}
		return [x, y] as const;
	};
	const own = [...new Set(stroke)].map(middle);
	const values = new Map(before);
	const [xs, ys] = [own.map((p) => p[0]), own.map((p) => p[1])];
	const box = [
		Math.min(...xs) - radius,
		Math.min(...ys) - radius,
		Math.max(...xs) + radius,
		Math.max(...ys) + radius
	] as const;
	for (let cell = 0; cell < face.cellCount; cell++) {
		const [x, y] = middle(cell);
		if (x < box[0] || y < box[1] || x > box[2] || y > box[3]) continue;
		const far = Math.min(...own.map(([a, b]) => Math.hypot(x - a, y - b)));
		const near = far === 0 ? 1 : radius > 0 ? Math.max(0, 1 - (far / radius) ** 2) ** 2 : 0;
		if (near === 0) continue;
		const place = `${face.row[cell]} ${face.column[cell]}`;
		const value = before.get(place) ?? 0;
		const next = value + strength * near * ((wipe ? 0 : 1) - value);
		values.set(place, Math.round(next / STEP) * STEP);
	}
	return values;
}

/** Puts values into a painted field, in place of those that it had on a face. */
export function putPainted(draft: Project, id: string, face: string, values: ReadonlyMap<string, number>): void {
	const field = draft.fields.find((f) => f.id === id)!;
	if (field.source.kind !== 'painted') return;
	const cells = [...values]
		.map(([place, value]) => [...place.split(' ').map(Number), Number(value.toFixed(2))] as [number, number, number])
		.filter(([, , value]) => value > 0)
		.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
	const runs: Run[] = [];
	for (const [row, column, value] of cells) {
		const last = runs.at(-1);
		if (last?.[0] === row && last[2] === column - 1 && last[3] === value) last[2] = column;
		else runs.push([row, column, column, value]);
	}
	const others = beforeDraft(field.source.parts).filter((p) => p.face !== face);
	// Frozen, so that nobody looks for drafts within.
	field.source.parts = Object.freeze(
		runs.length ? [...others, { face, runs: Object.freeze(runs) as Run[] }] : others
	) as Painted['parts'];
}
