import { firstOf, FRESH_ARRAYS, type ArraySource } from '../../arrays.ts';
import { SAME_FIELD } from '../../tolerances.ts';
import { evaluateInto } from '../../geometry/evaluate.ts';
import { developmentOf, FlatFinder, type ChartedFace } from '../../settingout/development.ts';
import type { NodeTable, SetOut } from '../../settingout/nodes.ts';
import { placesBetween, type PlacesInFields } from '../../settingout/placesBetween.ts';
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
 * found on the measure that the grid is laid by. Where the face runs to a point, corners become one. Arrays of the plane that
 * are of the same source are spared. O(corners).
 */
export function layCells(
	face: ChartedFace,
	laid: SetOut,
	plane: PlaneCells,
	arrays: ArraySource = FRESH_ARRAYS
): LaidCells {
	const { nodes } = laid;
	const places = new PlaneOnGrid(nodes, plane, arrays);
	const grown = places.added.length > 0 ? addPlaces(face, laid, places, arrays) : undefined;
	const nodeOf = grown?.nodeOf ?? nodes.nodeOf;
	const count = plane.role.length;
	const sides = plane.cornerStart[count]!;
	const cells = {
		cornerStart: arrays.uint32(count + 1),
		corners: arrays.uint32(sides),
		places: arrays.uint32(sides),
		row: arrays.uint32(count),
		column: arrays.uint32(count),
		role: arrays.uint8(count),
		part: arrays.float64(plane.part ? count : 0),
		straight: arrays.uint8(sides)
	};
	const { count: left, corners: k, straights } = runTogether(plane, places.of, nodeOf, cells);
	const cut = <T extends Uint8Array | Uint32Array | Float64Array>(array: T, length: number) =>
		firstOf(arrays, array, length);
	const dented = dentsOf(plane, left === count);
	const table = {
		count: left,
		cornerStart: cut(cells.cornerStart, left + 1),
		corners: cut(cells.corners, k),
		places: cut(cells.places, k),
		row: cut(cells.row, left),
		column: cut(cells.column, left),
		role: cut(cells.role, left),
		roles: plane.roles,
		...(plane.part ? { part: cut(cells.part, left) } : {}),
		...(straights ? { straight: cut(cells.straight, k) } : {}),
		...(dented ? { dented } : {})
	};
	if (!straights) arrays.spare(cells.straight);
	const { xy, same, cornerStart, corners, straight, role, row, column, part } = plane;
	arrays.spare(places.of, places.added, xy, same, cornerStart, corners, straight, role, row, column);
	if (part) arrays.spare(part);
	return { ...(grown ? { nodes: grown } : {}), cells: { ...table, ...edgesOf(table, arrays) } };
}

interface CellsBeingLaid {
	readonly cornerStart: Uint32Array;
	readonly corners: Uint32Array;
	readonly places: Uint32Array;
	readonly row: Uint32Array;
	readonly column: Uint32Array;
	readonly role: Uint8Array;
	readonly part: Float64Array;
	readonly straight: Uint8Array;
}

/** Fills cells with the nodes of their corners; those that have run together count once, and cells without three turns are none. */
function runTogether(
	plane: PlaneCells,
	placeOf: Uint32Array,
	nodeOf: Uint32Array | undefined,
	{ cornerStart, corners, places, row, column, role, part, straight }: CellsBeingLaid
): { readonly count: number; readonly corners: number; readonly straights: number } {
	const { cornerStart: starts, corners: vertices, straight: straightAt } = plane;
	let count = 0;
	let k = 0;
	let straights = 0;
	cornerStart[0] = 0;
	for (let c = 0; c + 1 < starts.length; c++) {
		const start = k;
		let turns = 0;
		for (let o = starts[c]!; o < starts[c + 1]!; o++) {
			const place = placeOf[vertices[o]!]!;
			const node = nodeOf ? nodeOf[place]! : place;
			if (k > start && (corners[k - 1] === node || corners[start] === node)) continue;
			places[k] = place;
			straight[k] = straightAt[o]!;
			turns += 1 - straightAt[o]!;
			corners[k++] = node;
		}
		if (turns < 3) {
			k = start;
			continue;
		}
		straights += k - start - turns;
		row[count] = plane.row[c]!;
		column[count] = plane.column[c]!;
		role[count] = plane.role[c]!;
		if (plane.part) part[count] = plane.part[c]!;
		cornerStart[++count] = k;
	}
	return { count, corners: k, straights };
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
	readonly added: Uint32Array;
	readonly plane: PlaneCells;

	constructor({ columns, rows }: NodeTable, plane: PlaneCells, arrays: ArraySource) {
		this.plane = plane;
		const { xy, same } = plane;
		const first = columns * rows;
		const of = arrays.uint32(same.length);
		const added = arrays.uint32(same.length);
		let count = 0;
		for (let v = 0; v < same.length; v++) {
			const x = xy[v * 2]!;
			const y = xy[v * 2 + 1]!;
			if (x >= 0 && y >= 0 && x < columns && y < rows && Number.isInteger(x) && Number.isInteger(y))
				of[v] = y * columns + x;
			else {
				of[v] = first + count;
				added[count++] = v;
			}
		}
		this.of = of;
		this.added = added.subarray(0, count);
	}
}

/** The nodes with places added: each has a node's room of its own, even where another place's node stands for it. */
function addPlaces(face: ChartedFace, laid: SetOut, { of, added, plane }: PlaneOnGrid, arrays: ArraySource): NodeTable {
	const { nodes } = laid;
	const { columns, rows } = nodes;
	const base = columns * rows;
	const total = base + added.length;
	const { us, vs } = placeParameters(nodes, total, arrays);
	const nodeOf = arrays.uint32(total);
	if (nodes.nodeOf) nodeOf.set(nodes.nodeOf);
	else for (let p = 0; p < base; p++) nodeOf[p] = p;
	const flat = nodes.flat && new Float64Array(total * 2);
	flat?.set(nodes.flat!);
	const find = placesBetween(face, laid);
	const fields = fieldsOf(nodes, plane.xy, added, arrays);
	const { low, fx, fy, turns, xy } = fields;
	for (let k = 0; k < added.length; k++) {
		const place = base + k;
		if (!find) {
			us[place] = between(us, 1, 0, low[k]!, columns, fx[k]!, fy[k]!);
			vs[place] = between(vs, 1, 0, low[k]!, columns, fx[k]!, fy[k]!);
		}
		if (flat)
			for (let c = 0; c < 2; c++) flat[place * 2 + c] = between(nodes.flat!, 2, c, low[k]!, columns, fx[k]!, fy[k]!);
		const same = plane.same[added[k]!]!;
		nodeOf[place] = same !== added[k]! ? nodeOf[of[same]!]! : (joined(nodes, low[k]!, fx[k]!, fy[k]!) ?? place);
	}
	find?.(fields, us, vs, base, arrays);
	const found = flat && nodes.onFace ? locate(face, us, vs, flat, nodes.onFace, base) : undefined;
	arrays.spare(low, fx, fy);
	const [position, normal] = [arrays.float64(total * 3), arrays.float64(total * 3)];
	position.set(nodes.position);
	normal.set(nodes.normal);
	evaluateInto(face.surface, us, vs, { position, normal }, base);
	return {
		...nodes,
		us,
		vs,
		nodeOf,
		turns,
		xy,
		position,
		normal,
		...(flat ? { flat } : {}),
		...(found ? { onFace: found } : {})
	};
}

/** Where added places lie: coordinates, the seams crossed on the way there (stride 2 each), the field's first place and their shares of the way across and up in it. */
interface AddedPlaces extends PlacesInFields {
	readonly xy: Float64Array;
	readonly turns: Int8Array;
}

function fieldsOf(
	{ columns, rows, ends: { closedAcross, closedUp } }: NodeTable,
	vertices: Float64Array,
	added: Uint32Array,
	arrays: ArraySource
): AddedPlaces {
	const count = added.length;
	const xy = arrays.float64(count * 2);
	const turns = new Int8Array(count * 2);
	const low = arrays.uint32(count);
	const fx = arrays.float64(count);
	const fy = arrays.float64(count);
	const across = columns - 1;
	const up = rows - 1;
	for (let k = 0; k < count; k++) {
		const x = vertices[added[k]! * 2]!;
		const y = vertices[added[k]! * 2 + 1]!;
		const turnX = closedAcross ? turnsAt(x, across) : 0;
		const turnY = closedUp ? turnsAt(y, up) : 0;
		const i = within(Math.floor(x - turnX * across), columns - 2);
		const j = within(Math.floor(y - turnY * up), rows - 2);
		xy[k * 2] = x;
		xy[k * 2 + 1] = y;
		turns[k * 2] = turnX;
		turns[k * 2 + 1] = turnY;
		low[k] = j * columns + i;
		fx[k] = within(x - turnX * across - i, 1);
		fy[k] = within(y - turnY * up - j, 1);
	}
	return { xy, turns, low, fx, fy };
}

/** A number from 0 to `most`. */
const within = (x: number, most: number) => Math.max(0, Math.min(most, x));

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
	const first = along(values, stride, low * stride + c, fx);
	if (fy === 0) return first;
	const second = along(values, stride, (low + columns) * stride + c, fx);
	return fy === 1 ? second : first + (second - first) * fy;
}

/** A value between one and the next; exact at both. */
function along(values: Float64Array, stride: number, at: number, share: number): number {
	const a = values[at]!;
	if (share === 0) return a;
	const b = values[at + stride]!;
	return share === 1 ? b : a + (b - a) * share;
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
