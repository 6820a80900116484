import { FRESH_ARRAYS } from '../../arrays.ts';
import { ZygasterError } from '../../errors.ts';
import { randomFrom } from '../random.ts';
import type { PlaneCells, PlaneCorner, PlaneExtent } from '../plane/planeCells.ts';
import { gridBuilder, gridCorner } from './fieldGrid.ts';

export interface RandomSizes {
	/** Fields that a cell has at least, and at most. */
	readonly leastAcross: number;
	readonly leastUp: number;
	readonly mostAcross: number;
	readonly mostUp: number;
	readonly seed: number;
}

interface Box {
	readonly x: number;
	readonly y: number;
	readonly w: number;
	readonly h: number;
}

/**
 * Halves the grid again and again along random lines of it, until no part is larger than the greatest size; parts that
 * could still be halved are with even chance. A cell is named by the row and column of its lowest field. O(fields).
 * Throws a ZygasterError with code `tiling` where sizes cannot be kept.
 */
export function randomDivision(extent: PlaneExtent, sizes: RandomSizes, arrays = FRESH_ARRAYS): PlaneCells {
	check(extent, sizes);
	const random = randomFrom(sizes.seed);
	const parts = divide({ x: 0, y: 0, w: extent.across, h: extent.up }, sizes, random).sort(
		(a, b) => a.y - b.y || a.x - b.x
	);
	const columns = extent.across + 1;
	/** 1 where some part has a corner. */
	const isCorner = new Uint8Array(columns * (extent.up + 1));
	for (const { x, y, w, h } of parts)
		for (const i of [x, x + w])
			for (const j of [y, y + h])
				for (const p of overSeam(i, extent.across, extent.closedAcross))
					for (const q of overSeam(j, extent.up, extent.closedUp)) isCorner[q * columns + p] = 1;
	const builder = gridBuilder(extent, arrays);
	for (const { x, y, w, h } of parts) {
		const ring: PlaneCorner[] = [];
		const side = (i: number, j: number, dx: number, dy: number, n: number) => {
			for (let k = 0; k < n; k++)
				if (k === 0 || isCorner[(j + k * dy) * columns + i + k * dx])
					ring.push(gridCorner(extent, i + k * dx, j + k * dy, k > 0));
		};
		side(x, y, 1, 0, w);
		side(x + w, y, 0, 1, h);
		side(x + w, y + h, -1, 0, w);
		side(x, y + h, 0, -1, h);
		builder.addCell(ring, 0, y, x);
	}
	return builder.finish(['panel']);
}

/** Where a line is: on a seam, at both ends. */
const overSeam = (i: number, of: number, closed: boolean) => (closed && (i === 0 || i === of) ? [0, of] : [i]);

function check({ across, up }: PlaneExtent, { leastAcross, leastUp, mostAcross, mostUp }: RandomSizes): void {
	for (const [name, least, most, has] of [
		['across', leastAcross, mostAcross, across],
		['up', leastUp, mostUp, up]
	] as const) {
		if (least > has)
			throw new ZygasterError(
				'tiling',
				`Cells of at least ${least} fields ${name} do not fit: the grid has ${has}. Right would be ${has} or fewer.`
			);
		if (most < 2 * least - 1)
			throw new ZygasterError(
				'tiling',
				`Cells of ${least} to ${most} fields ${name} cannot always be cut: a part of ${2 * least - 1} is too large and cannot be halved. Right would be a greatest size of ${2 * least - 1} or more.`
			);
	}
}

function divide(whole: Box, sizes: RandomSizes, random: () => number): Box[] {
	const open = [whole];
	const done: Box[] = [];
	for (let box = open.pop(); box; box = open.pop()) {
		const { x, y, w, h } = box;
		const [across, up] = [w >= 2 * sizes.leastAcross, h >= 2 * sizes.leastUp];
		const must = (across && w > sizes.mostAcross) || (up && h > sizes.mostUp);
		if (!(across || up) || (!must && random() < 0.5)) {
			done.push(box);
			continue;
		}
		const [wide, high] = [w / sizes.mostAcross, h / sizes.mostUp];
		const cutAcross =
			across && (!up || (wide > 1 && high <= 1) || (wide > 1 === high > 1 && random() * (wide + high) < wide));
		if (cutAcross) {
			const at = between(sizes.leastAcross, w - sizes.leastAcross, random);
			open.push({ x, y, w: at, h }, { x: x + at, y, w: w - at, h });
		} else {
			const at = between(sizes.leastUp, h - sizes.leastUp, random);
			open.push({ x, y, w, h: at }, { x, y: y + at, w, h: h - at });
		}
	}
	return done;
}

/** A whole number from `least` to `most`. */
const between = (least: number, most: number, random: () => number) =>
	least + Math.floor(random() * (most - least + 1));
