import { FRESH_ARRAYS } from '../arrays.ts';
import { domainOf, type Surface } from '../geometry/surface.ts';
import type { NodeTable } from './nodes.ts';

/** Whether parameters stand by column and by row, not by place: a grid has two columns and two rows at least. */
export const isTensor = ({ us, vs, columns, rows }: Pick<NodeTable, 'us' | 'vs' | 'columns' | 'rows'>): boolean =>
	us.length === columns && vs.length === rows;

/** Parameters of every place, in arrays of their own with room for `total` places. */
export function placeParameters(
	nodes: Pick<NodeTable, 'us' | 'vs' | 'columns' | 'rows'>,
	total: number,
	arrays = FRESH_ARRAYS
): { us: Float64Array; vs: Float64Array } {
	const { columns, rows } = nodes;
	const [us, vs] = [arrays.float64(total), arrays.float64(total)];
	if (!isTensor(nodes)) {
		us.set(nodes.us);
		vs.set(nodes.vs);
		return { us, vs };
	}
	for (let j = 0, p = 0; j < rows; j++)
		for (let i = 0; i < columns; i++, p++) {
			us[p] = nodes.us[i]!;
			vs[p] = nodes.vs[j]!;
		}
	return { us, vs };
}

/** What parameters grow by over a seam; 0 where the face is open. */
export interface Period {
	readonly across: number;
	readonly up: number;
}

/** By direction: how much a parameter goes on over a seam; 0 where the face is open. */
export function periodOf(surface: Surface, { closedAcross, closedUp }: NodeTable['ends']): Period {
	const range = ([from, to]: readonly [number, number]) => to - from;
	return {
		across: closedAcross ? range(domainOf(surface.knotsU, surface.degreeU)) : 0,
		up: closedUp ? range(domainOf(surface.knotsV, surface.degreeV)) : 0
	};
}

/** Readers of the parameters of a place; over a seam they go on beyond the face. */
export function parameterReaders(
	nodes: NodeTable,
	period: Period
): { u: (place: number) => number; v: (place: number) => number } {
	const { columns, rows, us, vs, turns } = nodes;
	const tensor = isTensor(nodes);
	const grid = columns * rows;
	const turn = (place: number, axis: 0 | 1, by: number) =>
		turns !== undefined && place >= grid ? turns[(place - grid) * 2 + axis]! * by : 0;
	return {
		u: (place) => us[tensor ? place % columns : place]! + turn(place, 0, period.across),
		v: (place) => vs[tensor ? Math.floor(place / columns) : place]! + turn(place, 1, period.up)
	};
}

/** Where a node is on the grid, in fields across and up from the start borders; NaN where it has nothing to do with it. */
export function nodeOnGrid(
	{ columns, rows, xy }: Pick<NodeTable, 'columns' | 'rows' | 'xy'>,
	node: number,
	out: Float64Array
): void {
	const behind = node - columns * rows;
	out[0] = behind < 0 ? node % columns : (xy?.[behind * 2] ?? NaN);
	out[1] = behind < 0 ? Math.floor(node / columns) : (xy?.[behind * 2 + 1] ?? NaN);
}
