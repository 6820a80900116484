import { difference, intersection, union, type Path } from '../openings/clipping.ts';
import { crossingSides, ringArea, type Ring } from '../openings/rings.ts';
import type { TilingUnit, UnitPoint } from './unit.ts';
import { LEAST_FIELD_SHARE } from '../../tolerances.ts';

/** What is wrong with a unit, in words and as areas of its plane. */
export interface UnitFaults {
	/** The first fault, in the user's words; nothing when it is sound. */
	readonly message?: string;
	/** Where cells lie over each other, and where there is none, within the unit; in fields. */
	readonly overlaps: readonly Ring[];
	readonly gaps: readonly Ring[];
	/** Share of the unit that has a cell. */
	readonly covered: number;
}

/** Digits after the point that clipping keeps, in fields. */
const DIGITS = 8;

const pathOf = (ring: readonly UnitPoint[], dx = 0, dy = 0): Path => ring.map(([x, y]) => ({ x: x + dx, y: y + dy }));
const ringsOf = (paths: readonly (readonly { x: number; y: number }[])[]): Ring[] =>
	paths
		.map((p) => p.map(({ x, y }): [number, number] => [x, y]))
		.filter((r) => Math.abs(ringArea(r)) > LEAST_FIELD_SHARE);

/** Tells whether a unit's cells, repeated, cover the plane once. O(cells2). */
export function checkUnit(unit: TilingUnit): UnitFaults {
	const none = { overlaps: [], gaps: [], covered: 0 };
	for (const [k, { role, corners }] of unit.cells.entries()) {
		const crossing = crossingSides(corners);
		if (crossing)
			return {
				...none,
				message: `Cell ${k + 1} (${role}) crosses itself, side ${crossing[0]} and side ${crossing[1]}. Right would be a line that goes around once.`
			};
		if (Math.abs(ringArea(corners)) < LEAST_FIELD_SHARE)
			return {
				...none,
				message: `Cell ${k + 1} (${role}) has no area. Right would be corners that do not lie on one line.`
			};
	}
	const { width, height } = unit;
	const frame = [
		pathOf([
			[0, 0],
			[width, 0],
			[width, height],
			[0, height]
		])
	];
	/** Each cell as it occurs within the unit, copies from the neighbouring units included. */
	const within = unit.cells.map(({ corners }) => {
		const ring = ringArea(corners) < 0 ? [...corners].reverse() : corners;
		const [x0, x1] = [Math.min(...ring.map((p) => p[0])), Math.max(...ring.map((p) => p[0]))];
		const [y0, y1] = [Math.min(...ring.map((p) => p[1])), Math.max(...ring.map((p) => p[1]))];
		const copies: Path[] = [];
		for (let p = -Math.floor(x1 / width); p * width + x0 < width; p++)
			for (let q = -Math.floor(y1 / height); q * height + y0 < height; q++)
				copies.push(...intersection([pathOf(ring, p * width, q * height)], frame, DIGITS));
		return copies;
	});
	const overlaps: Ring[] = [];
	let clash: [number, number] | undefined;
	let all: Path[] = [];
	within.forEach((copies, k) => {
		for (const copy of copies) {
			const shared = ringsOf(intersection([copy], all, DIGITS));
			if (shared.length) {
				clash ??= [
					within.findIndex(
						(other, i) =>
							i <= k &&
							ringsOf(
								intersection(
									[copy],
									other.filter((o) => o !== copy),
									DIGITS
								)
							).length > 0
					),
					k
				];
				overlaps.push(...shared);
			}
			all = union([...all, copy], DIGITS);
		}
	});
	const gaps = ringsOf(difference(frame, all, DIGITS));
	const covered =
		all.reduce((s, p) => s + ringArea(p.map(({ x, y }): [number, number] => [x, y])), 0) / (width * height);
	const message = clash
		? `Cell ${clash[0] + 1} (${unit.cells[clash[0]]!.role}) and cell ${clash[1] + 1} (${unit.cells[clash[1]]!.role}) lie over each other when the unit is repeated. Right would be cells that only share their sides.`
		: gaps.length && !unit.open
			? `The cells leave ${Math.max(1, Math.round((1 - covered) * 100))} % of the unit open. Right would be cells that cover it, or to say that it is meant to be partly open.`
			: undefined;
	return { ...(message ? { message } : {}), overlaps, gaps, covered };
}
