import { SAME_FIELD } from '../../tolerances.ts';
import { evaluatePoints } from '../../geometry/evaluate.ts';
import { developmentOf, FlatFinder, type ChartedFace } from '../../settingout/development.ts';
import type { NodeTable, SetOut } from '../../settingout/nodes.ts';
import { placesBetween, type PlaceInField } from '../../settingout/placesBetween.ts';
import { placeParameters } from '../../settingout/places.ts';
import type { CellTable } from '../cells.ts';
import { edgesOf } from '../edges.ts';
import type { PlaneCells } from './planeCells.ts';

export interface LaidCells {
	/** Left out where the nodes of the grid are all that is needed. */
	readonly nodes?: NodeTable;
	readonly cells: CellTable;
}

/**
 * Puts cells of the plane on the face. Corners on the grid take its nodes; between them new ones are made on the face,
 * found on the measure that the grid is laid by. Where the face runs to a point, corners become one. O(corners).
 */
export function layCells(face: ChartedFace, laid: SetOut, plane: PlaneCells): LaidCells {
	const { nodes } = laid;
	const places = new PlaneOnGrid(nodes, plane);
	const grown = places.added.length > 0 ? addPlaces(face, laid, places) : undefined;
	const nodeOf = grown?.nodeOf ?? nodes.nodeOf;
	const count = plane.role.length;
	const sides = plane.cornerStart[count]!;
	const cells = {
		count: 0,
		cornerStart: new Uint32Array(count + 1),
		corners: new Uint32Array(sides),
		places: new Uint32Array(sides),
		row: new Uint32Array(count),
		column: new Uint32Array(count),
		role: new Uint8Array(count),
		part: new Float64Array(plane.part ? count : 0),
		straight: new Uint8Array(sides)
	};
	let k = 0;
	let straights = 0;
	for (let c = 0; c < count; c++) {
		const start = k;
		for (let o = plane.cornerStart[c]!; o < plane.cornerStart[c + 1]!; o++) {
			const place = places.of[plane.corners[o]!]!;
			const node = nodeOf ? nodeOf[place]! : place;
			// Corners that have run together count once.
			if (k > start && (cells.corners[k - 1] === node || cells.corners[start] === node)) continue;
			cells.places[k] = place;
			cells.straight[k] = plane.straight[o]!;
			cells.corners[k++] = node;
		}
		let turns = 0;
		for (let o = start; o < k; o++) turns += 1 - cells.straight[o]!;
		if (turns < 3) {
			k = start;
			continue;
		}
		straights += k - start - turns;
		cells.row[cells.count] = plane.row[c]!;
		cells.column[cells.count] = plane.column[c]!;
		cells.role[cells.count] = plane.role[c]!;
		if (plane.part) cells.part[cells.count] = plane.part[c]!;
		cells.cornerStart[++cells.count] = k;
	}
	const cut = <T extends Uint8Array | Uint32Array | Float64Array>(array: T, length: number) =>
		array.length === length ? array : (array.slice(0, length) as T);
	const dented = dentsOf(plane, cells.count === count);
	const table = {
		count: cells.count,
		cornerStart: cut(cells.cornerStart, cells.count + 1),
		corners: cut(cells.corners, k),
		places: cut(cells.places, k),
		row: cut(cells.row, cells.count),
		column: cut(cells.column, cells.count),
		role: cut(cells.role, cells.count),
		roles: plane.roles,
		...(plane.part ? { part: cut(cells.part, cells.count) } : {}),
		...(straights ? { straight: cut(cells.straight, k) } : {}),
		...(dented ? { dented } : {})
	};
	return { ...(grown ? { nodes: grown } : {}), cells: { ...table, ...edgesOf(table) } };
}

/** Which cells have a dent, so that they are no fan of triangles; nothing where none has. Cells that ran together at a point are not looked at. */
function dentsOf({ xy, cornerStart, corners, role }: PlaneCells, complete: boolean): Uint8Array | undefined {
	if (!complete) return undefined;
	let found: Uint8Array | undefined;
	for (let c = 0; c < role.length; c++) {
		const from = cornerStart[c]!;
		const to = cornerStart[c + 1]!;
		// Three corners have no dent.
		for (let k = to - from > 3 ? from : to; k < to; k++) {
			const a = corners[k > from ? k - 1 : to - 1]! * 2;
			const b = corners[k]! * 2;
			const d = corners[k + 1 < to ? k + 1 : from]! * 2;
			const turn = (xy[b]! - xy[a]!) * (xy[d + 1]! - xy[b + 1]!) - (xy[b + 1]! - xy[a + 1]!) * (xy[d]! - xy[b]!);
			if (turn < -SAME_FIELD) {
				found ??= new Uint8Array(role.length);
				found[c] = 1;
				break;
			}
		}
	}
	return found;
}

/** Which place of the grid each vertex of the plane is, and those that the grid lacks. */
class PlaneOnGrid {
	/** By vertex: its place. */
	readonly of: Uint32Array;
	/** Vertices whose places are added, in order. */
	readonly added: number[] = [];
	readonly plane: PlaneCells;

	constructor({ columns, rows }: NodeTable, plane: PlaneCells) {
		this.plane = plane;
		const { xy, same } = plane;
		const first = columns * rows;
		this.of = new Uint32Array(same.length);
		for (let v = 0; v < same.length; v++) {
			const x = xy[v * 2]!;
			const y = xy[v * 2 + 1]!;
			const onGrid = x >= 0 && y >= 0 && x < columns && y < rows && Number.isInteger(x) && Number.isInteger(y);
			this.of[v] = onGrid ? y * columns + x : first + this.added.push(v) - 1;
		}
	}
}

/** The nodes with places added: each has a node's room of its own, even where another place's node stands for it. */
function addPlaces(face: ChartedFace, laid: SetOut, { of, added, plane }: PlaneOnGrid): NodeTable {
	const { nodes } = laid;
	const { columns, rows } = nodes;
	const base = columns * rows;
	const total = base + added.length;
	const { us, vs } = placeParameters(nodes, total);
	const nodeOf = new Uint32Array(total);
	for (let p = 0; p < base; p++) nodeOf[p] = nodes.nodeOf ? nodes.nodeOf[p]! : p;
	const turns = new Int8Array(added.length * 2);
	const xy = Float64Array.from({ length: added.length * 2 }, (_, k) => plane.xy[added[k >> 1]! * 2 + (k & 1)]!);
	const flat = nodes.flat && new Float64Array(total * 2);
	flat?.set(nodes.flat!);
	const { across, up } = { across: columns - 1, up: rows - 1 };
	const find = placesBetween(face, laid);
	const inFields: PlaceInField[] = [];
	for (let k = 0; k < added.length; k++) {
		const v = added[k]!;
		const place = base + k;
		const x = xy[k * 2]!;
		const y = xy[k * 2 + 1]!;
		const turnX = nodes.ends.closedAcross ? turnsAt(x, across) : 0;
		const turnY = nodes.ends.closedUp ? turnsAt(y, up) : 0;
		turns[k * 2] = turnX;
		turns[k * 2 + 1] = turnY;
		// The field that it lies in, and its share of the way across and up there.
		const i = Math.max(0, Math.min(columns - 2, Math.floor(x - turnX * across)));
		const j = Math.max(0, Math.min(rows - 2, Math.floor(y - turnY * up)));
		const fx = Math.max(0, Math.min(1, x - turnX * across - i));
		const fy = Math.max(0, Math.min(1, y - turnY * up - j));
		const low = j * columns + i;
		if (find) inFields.push({ i, j, fx, fy });
		else {
			us[place] = between(us, 1, 0, low, columns, fx, fy);
			vs[place] = between(vs, 1, 0, low, columns, fx, fy);
		}
		if (flat) for (let c = 0; c < 2; c++) flat[place * 2 + c] = between(nodes.flat!, 2, c, low, columns, fx, fy);
		const same = plane.same[v]!;
		nodeOf[place] = same !== v ? nodeOf[of[same]!]! : (joined(nodes, low, fx, fy) ?? place);
	}
	find?.(inFields, us, vs, base);
	const found = flat && nodes.onFace ? locate(face, us, vs, flat, nodes.onFace, base) : undefined;
	const extra = evaluatePoints(face.surface, us.subarray(base), vs.subarray(base));
	const grow = (old: Float64Array, more: Float64Array) => {
		const all = new Float64Array(total * 3);
		all.set(old);
		all.set(more, base * 3);
		return all;
	};
	return {
		...nodes,
		us,
		vs,
		nodeOf,
		turns,
		xy,
		position: grow(nodes.position, extra.position),
		normal: grow(nodes.normal, extra.normal),
		...(flat ? { flat } : {}),
		...(found ? { onFace: found } : {})
	};
}

/** Times that a seam is crossed on the way to a coordinate. */
const turnsAt = (at: number, of: number) => (at > of + SAME_FIELD ? 1 : at < -SAME_FIELD ? -1 : 0);

/** A value between those of a field's four places, of which `low` is the first; exact on its sides. */
function between(
	values: Float64Array,
	stride: number,
	c: number,
	low: number,
	columns: number,
	fx: number,
	fy: number
): number {
	const at = (place: number) => values[place * stride + c]!;
	const along = (p: number) => (fx === 0 ? at(p) : fx === 1 ? at(p + 1) : at(p) + (at(p + 1) - at(p)) * fx);
	if (fy === 0) return along(low);
	if (fy === 1) return along(low + columns);
	const first = along(low);
	return first + (along(low + columns) - first) * fy;
}

/** The node that a point between places of one node belongs to, as where the face runs to a point. */
function joined({ nodeOf, columns }: NodeTable, low: number, fx: number, fy: number): number | undefined {
	if (!nodeOf) return undefined;
	const same = (p: number, q: number) => (nodeOf[p] === nodeOf[q] ? nodeOf[p] : undefined);
	if (fy === 0) return same(low, low + 1);
	if (fy === 1) return same(low + columns, low + columns + 1);
	if (fx === 0) return same(low, low + columns);
	if (fx === 1) return same(low + 1, low + columns + 1);
	return undefined;
}

/** Parameters of the added places of a turned grid, by where they lie flat; and which of all are on the face. */
function locate(
	face: ChartedFace,
	us: Float64Array,
	vs: Float64Array,
	flat: Float64Array,
	onFace: Uint8Array,
	base: number
): Uint8Array {
	const finder = new FlatFinder(developmentOf(face));
	const all = new Uint8Array(us.length);
	all.set(onFace);
	for (let p = base; p < us.length; p++) {
		const at = finder.find(flat[p * 2]!, flat[p * 2 + 1]!);
		if (at) [us[p], vs[p], all[p]] = [at.u, at.v, 1];
		else [us[p], vs[p]] = [us[0]!, vs[0]!];
	}
	return all;
}
