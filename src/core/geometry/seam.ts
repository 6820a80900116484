import { findSpan } from './basis.ts';
import { SAME_BREAK } from '../tolerances.ts';
import { domainOf, swapDirections, type Surface } from './surface.ts';

/**
 * A face that closes on itself across, begun at another parameter: the same points, the seam elsewhere.
 * The knot is inserted until the surface falls apart there, and the two parts change places. Exact.
 * Source: The NURBS Book, algorithm A5.3.
 */
export function moveSeam(surface: Surface, u: number): Surface {
	const [start, end] = domainOf(surface.knotsU, surface.degreeU);
	const range = end - start;
	const at = start + ((((u - start) % range) + range) % range);
	if (at - start < SAME_BREAK * range || end - at < SAME_BREAK * range) return surface;
	const split = splitAt(between(surface, start, end), at);
	const { degreeU, countU, countV, knotsU, control } = split;
	// The control point that lies on the surface at the new seam.
	const first = knotsU.findIndex((k) => k === at) - 1;
	const rows: number[] = [];
	for (let v = 0; v < countV; v++)
		for (let c = 0; c < countU; c++) {
			// The point where the old seam was stands once.
			const from = first + c < countU ? first + c : first + c - countU + 1;
			rows.push(...control.subarray((v * countU + from) * 4, (v * countU + from) * 4 + 4));
		}
	const after = [...knotsU].filter((k) => k > at && k < end);
	const before = [...knotsU].filter((k) => k > start && k < at).map((k) => k + range);
	const many = (k: number, times: number) => Array<number>(times).fill(k);
	return {
		...split,
		knotsU: Float64Array.from([
			...many(at, degreeU + 1),
			...after,
			...many(end, degreeU),
			...before,
			...many(at + range, degreeU + 1)
		]),
		control: Float64Array.from(rows)
	};
}

/** A surface in its halves across and up where it closes on itself there, each with its first and last points on its borders. Exact. */
export function openParts(surface: Surface, across: boolean, up: boolean): Surface[] {
	const parts = (s: Surface, halved: boolean) => {
		const [start, end] = domainOf(s.knotsU, s.degreeU);
		const middle = (start + end) / 2;
		return halved ? [between(s, start, middle), between(s, middle, end)] : [between(s, start, end)];
	};
	return parts(surface, across).flatMap((part) => parts(swapDirections(part), up).map(swapDirections));
}

/** What of a surface lies between two parameters across, with its first and last points on its borders. */
function between(surface: Surface, start: number, end: number): Surface {
	const { degreeU } = surface;
	if (surface.knotsU[0] === start && surface.knotsU.at(-1) === end) return surface;
	const open = splitAt(splitAt(surface, start), end);
	// With a knot more than the degree the first point of all is the one on the border.
	const first = Math.max(0, open.knotsU.indexOf(start) - 1);
	const last = open.knotsU.indexOf(end) - 1;
	const rows = Array.from({ length: open.countV }, (_, v) => [
		...open.control.subarray((v * open.countU + first) * 4, (v * open.countU + last + 1) * 4)
	]);
	const many = (k: number) => Array<number>(degreeU + 1).fill(k);
	return {
		...open,
		countU: last - first + 1,
		knotsU: Float64Array.from([...many(start), ...open.knotsU.filter((k) => k > start && k < end), ...many(end)]),
		control: Float64Array.from(rows.flat())
	};
}

/** The same surface with as many knots at `u` as its degree, so that a control point lies on it there. */
function splitAt(surface: Surface, u: number): Surface {
	let split = surface;
	for (let k = surface.knotsU.filter((knot) => knot === u).length; k < surface.degreeU; k++)
		split = insertKnotU(split, u);
	return split;
}

/** One more knot across. Source: The NURBS Book, eq. 5.15. */
function insertKnotU(surface: Surface, u: number): Surface {
	const { degreeU: p, countU, countV, knotsU, control } = surface;
	const span = findSpan(knotsU, p, u);
	const next = new Float64Array((countU + 1) * countV * 4);
	for (let v = 0; v < countV; v++)
		for (let i = 0; i <= countU; i++) {
			const share = i <= span - p ? 1 : i > span ? 0 : (u - knotsU[i]!) / (knotsU[i + p]! - knotsU[i]!);
			for (let c = 0; c < 4; c++) {
				const own = share > 0 ? control[(v * countU + i) * 4 + c]! : 0;
				const before = share < 1 ? control[(v * countU + i - 1) * 4 + c]! : 0;
				next[(v * (countU + 1) + i) * 4 + c] = share * own + (1 - share) * before;
			}
		}
	return {
		...surface,
		countU: countU + 1,
		knotsU: Float64Array.from([...knotsU.subarray(0, span + 1), u, ...knotsU.subarray(span + 1)]),
		control: next
	};
}
