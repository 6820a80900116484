import { PatchCursor } from '../geometry/patches.ts';
import { developmentOf, type ChartedFace } from './development.ts';

/** A closed line laid flat, mm; the last point is not the first. */
export type FlatRing = readonly (readonly [number, number])[];

/** Chords between two panel borders. */
const CHORDS = 4;

/** The border of a face as it lies flat, in chords, anticlockwise from its lower start corner. */
export function flatBorder(face: ChartedFace): FlatRing {
	const { patches } = developmentOf(face);
	const cursor = new PatchCursor(patches);
	const finer = (borders: Float64Array) =>
		[...borders].flatMap((b, k) =>
			k + 1 < borders.length ? Array.from({ length: CHORDS }, (_, q) => b + ((borders[k + 1]! - b) * q) / CHORDS) : []
		);
	const [us, vs] = [finer(patches.us), finer(patches.vs)];
	const [u0, u1, v0, v1] = [patches.us[0]!, patches.us.at(-1)!, patches.vs[0]!, patches.vs.at(-1)!];
	const around = [
		...us.map((u) => [u, v0] as const),
		...vs.map((v) => [u1, v] as const),
		...[...us.slice(1), u1].reverse().map((u) => [u, v1] as const),
		...[...vs.slice(1), v1].reverse().map((v) => [u0, v] as const)
	];
	return around.map(([u, v]): [number, number] => {
		cursor.evaluate(u, v);
		return [cursor.out[0]!, cursor.out[1]!];
	});
}

/** Whether a point lies within a line, by the crossings of a ray. */
export function withinRing(ring: FlatRing, x: number, y: number): boolean {
	let inside = false;
	for (let k = 0, before = ring.length - 1; k < ring.length; before = k++) {
		const [ax, ay] = ring[k]!;
		const [bx, by] = ring[before]!;
		if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
	}
	return inside;
}
