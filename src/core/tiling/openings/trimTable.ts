import { hypot } from '../../elementary/index.ts';
import { ROUND_SINE, STRAIGHT_SINE } from '../../tolerances.ts';
import type { CellTable, WholeCell } from '../cells.ts';
import { edgesOf } from '../edges.ts';
import { LOST, WHOLE, type CellPiece } from './piece.ts';
import type { Handled } from './slivers.ts';
import type { TrimNodes } from './trimNodes.ts';

/** Whole cells as they were, pieces in their places. */
export function tableOf(
	before: CellTable,
	fates: Uint8Array,
	{ left, merged, dropped }: Handled,
	made: TrimNodes
): CellTable {
	let wholes = 0;
	let wholeSides = 0;
	for (let c = 0; c < before.count; c++)
		if (fates[c] === WHOLE) {
			wholes++;
			wholeSides += before.cornerStart[c + 1]! - before.cornerStart[c]!;
		}
	const count = wholes + left.length;
	const sides = wholeSides + left.reduce((n, p) => n + p.corners.length, 0);
	const cells = {
		count,
		cornerStart: new Uint32Array(count + 1),
		corners: new Uint32Array(sides),
		places: new Uint32Array(sides),
		row: new Uint32Array(count),
		column: new Uint32Array(count),
		...(before.straight || left.some((p) => p.straight) ? { straight: new Uint8Array(sides) } : {}),
		round: new Uint8Array(sides),
		...(before.dented ? { dented: new Uint8Array(count) } : {}),
		...(before.order ? { order: { row: new Uint32Array(count), column: new Uint32Array(count) } } : {}),
		...(before.part ? { part: new Float64Array(count) } : {}),
		...(before.role ? { role: new Uint8Array(count), roles: before.roles! } : {})
	};
	const trim = {
		cut: new Uint8Array(count),
		piece: new Uint8Array(count),
		share: new Float64Array(count).fill(1),
		sliver: new Uint8Array(count),
		holes: new Map<number, readonly Uint32Array[]>(),
		wholes: new Map<number, WholeCell>(),
		alongOpenings: made.alongOpenings,
		lost: lostFields(before, fates),
		merged,
		dropped
	};
	const placeOf = before.places ?? before.corners;
	let [c, k, next] = [0, 0, 0];
	const add = (cell: number, length: number) => {
		cells.row[c] = before.row[cell]!;
		cells.column[c] = before.column[cell]!;
		if (cells.order)
			[cells.order.row[c], cells.order.column[c]] = [before.order!.row[cell]!, before.order!.column[cell]!];
		if (cells.part) cells.part[c] = before.part![cell]!;
		if (cells.role) cells.role[c] = before.role![cell]!;
		cells.cornerStart[++c] = k += length;
	};
	for (let cell = 0; cell < before.count; cell++) {
		if (fates[cell] === WHOLE) {
			const [from, to] = [before.cornerStart[cell]!, before.cornerStart[cell + 1]!];
			for (let o = from; o < to; o++) {
				cells.corners[k + o - from] = before.corners[o]!;
				cells.places[k + o - from] = placeOf[o]!;
				if (cells.straight) cells.straight[k + o - from] = before.straight?.[o] ?? 0;
			}
			if (cells.dented) cells.dented[c] = before.dented![cell]!;
			add(cell, to - from);
		}
		for (; left[next]?.cell === cell; next++) {
			const p = left[next]!;
			cells.corners.set(p.corners, k);
			cells.places.set(p.places, k);
			cells.straight?.set(stillStraight(p, before, made), k);
			cells.round.set(roundCorners(p, made), k);
			trim.cut[c] = Number(p.cut);
			trim.piece[c] = p.piece;
			trim.share[c] = p.share;
			trim.sliver[c] = Number(p.sliver);
			if (p.holes.length)
				trim.holes.set(
					c,
					p.holes.map((h) => Uint32Array.from(h))
				);
			const whole = p.cut && !p.joined && wholeCell(before, placeOf, cell, made);
			if (whole) trim.wholes.set(c, whole);
			add(cell, p.corners.length);
		}
	}
	const { round, ...angular } = cells;
	const table = round.includes(1) ? cells : angular;
	return { ...table, trim, ...edgesOf(table) };
}

/** A cell before it was cut; nothing where a corner is beside the face. */
function wholeCell(
	{ cornerStart, corners, straight }: CellTable,
	places: Uint32Array,
	cell: number,
	made: TrimNodes
): WholeCell | undefined {
	const turns = (_: number, k: number) => straight?.[cornerStart[cell]! + k] !== 1;
	const own = (list: Uint32Array) => list.subarray(cornerStart[cell], cornerStart[cell + 1]).filter(turns);
	const whole = { corners: own(corners), places: own(places) };
	return whole.corners.every((n) => made.stands(n)) ? whole : undefined;
}

/** Which corners of a piece are mere points of a curve: within the cell, where the outline hardly turns. One corner at least is left. */
function roundCorners({ corners, places }: CellPiece, made: TrimNodes): number[] {
	const ring = made.ringOf(places);
	const round = corners.map((node, k) => {
		if (!made.isWithin(node)) return 0;
		const [a, b, c] = [ring[(k + ring.length - 1) % ring.length]!, ring[k]!, ring[(k + 1) % ring.length]!];
		const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
		const lengths = hypot(ux, uy) * hypot(vx, vy);
		return Number(ux * vx + uy * vy > 0 && Math.abs(ux * vy - uy * vx) < ROUND_SINE * lengths);
	});
	return round.includes(0) ? round : round.map((r, k) => (k === 0 ? 0 : r));
}

/** Which corners of a piece its cell or its neighbours ran straight on through, and it still does. */
function stillStraight(
	{ cell, corners, places, straight: met }: CellPiece,
	{ cornerStart, corners: all, straight }: CellTable,
	made: TrimNodes
): number[] {
	const were = new Set(met);
	for (let o = cornerStart[cell]!; o < cornerStart[cell + 1]!; o++) if (straight?.[o]) were.add(all[o]!);
	const ring = made.ringOf(places);
	return corners.map((node, k) => {
		if (!were.has(node)) return 0;
		const [a, b, c] = [ring[(k + ring.length - 1) % ring.length]!, ring[k]!, ring[(k + 1) % ring.length]!];
		const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
		return Number(Math.abs(ux * vy - uy * vx) < STRAIGHT_SINE * hypot(ux, uy) * hypot(vx, vy));
	});
}

function lostFields({ row, column }: CellTable, fates: Uint8Array): Uint32Array {
	const lost: number[] = [];
	fates.forEach((fate, c) => {
		if (fate === LOST) lost.push(row[c]!, column[c]!);
	});
	return Uint32Array.from(lost);
}
