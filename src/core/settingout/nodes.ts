import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { hypot } from '../elementary/index.ts';
import { ZygasterError } from '../errors.ts';
import type { Ends } from '../geometry/borders.ts';
import { evaluateGridPoints, evaluatePoints } from '../geometry/evaluate.ts';
import type { Surface } from '../geometry/surface.ts';
import { MOST_CELLS } from '../limits.ts';
import { COINCIDENT_MM, SAME_RATIO } from '../tolerances.ts';
import { group } from '../units/print.ts';
import type { ChartedFace } from './development.ts';
import { layDirection, type LaidDirection, type LevelHeight } from './directions.ts';
import { exactShares } from './exactShares.ts';
import { invertChart } from './invertChart.ts';
import { chartOf, type LengthChart } from './lengthChart.ts';
import { polishInPlace } from './measures.ts';
import { relaxInPlace } from './relax.ts';
import type { SettingOut } from './spacing.ts';

/**
 * The setting-out of a face: a grid of places on it. Place `row * columns + column`, from the start borders.
 * Places that fall together (over the seam, where the face runs to a point, where a plane leaves the face)
 * share one node, the first of them.
 */
export interface NodeTable {
	/** Places in a row of the grid: fields across and one more. Places that a tiling adds stand behind those of the grid. */
	readonly columns: number;
	/** Rows of places: fields up and one more. */
	readonly rows: number;
	readonly ends: Ends;
	/** Node of each place; every place is its own node when left out, or once cells are cut and name both. */
	readonly nodeOf?: Uint32Array;
	/** Some fields have shrunk to nothing, so that the grid is not complete. */
	readonly collapsed: boolean;
	/** Rows, and columns, are counted from the end border. */
	readonly fromEnd: { readonly across: boolean; readonly up: boolean };
	/** Parameters of the columns and rows where the grid is a tensor product, else of each place. */
	readonly us: Float64Array;
	readonly vs: Float64Array;
	/** By node behind those of the grid, stride 2: where it is on the grid, in fields across and up; NaN where it has nothing to do with it. */
	readonly xy?: Float64Array;
	/** By place behind those of the grid, stride 2: -1, 0 or 1 where it is the place at `us`, `vs` seen over the seam across, or up; all 0 when left out. */
	readonly turns?: Int8Array;
	/** By node, mm, stride 3. */
	readonly position: Float64Array;
	/** By node, unit outward normals, stride 3; (0, 0, 0) where the face has none. */
	readonly normal: Float64Array;
	/** By place, where it lies flat, mm, stride 2; where left out, `flattenPlaces` works it out. */
	readonly flat?: Float64Array;
	/** By place: 0 where the place is off the face and its node has no position. All are on it when left out. */
	readonly onFace?: Uint8Array;
}

export interface SetOut {
	readonly nodes: NodeTable;
	readonly across: LaidDirection;
	readonly up: LaidDirection;
	/** What places between its lines are found by: the measures of both directions, and whether nodes have been moved off them. None where the grid lies turned on the flat face. */
	readonly between?: { readonly chart: LengthChart; readonly moved: boolean };
	/** What the user should know, such as a level that the face does not reach. */
	readonly notes: readonly string[];
}

/** Lists what is broken in a setting-out; empty when sound. `used` says which nodes have cells. O(nodes). */
export function validateNodes(nodes: NodeTable, used: (node: number) => boolean = () => true): string[] {
	const { columns, rows, nodeOf, position, normal, us, vs, xy, turns, onFace } = nodes;
	const faults: string[] = [];
	const count = position.length / 3;
	const grid = columns * rows;
	if (columns < 2 || rows < 2) faults.push(`the grid has ${columns} x ${rows} places`);
	if (normal.length !== position.length) faults.push(`${normal.length / 3} normals of ${count} nodes`);
	const tensor = us.length === columns && vs.length === rows;
	const places = tensor ? grid : us.length;
	if (!tensor && (us.length !== vs.length || us.length < grid))
		faults.push(`${us.length} and ${vs.length} parameters of ${grid} places`);
	if (xy && xy.length !== (count - grid) * 2)
		faults.push(`${xy.length / 2} places on the grid of ${count - grid} nodes`);
	if (turns && turns.length !== (places - grid) * 2)
		faults.push(`${turns.length / 2} turns of ${places - grid} places`);
	for (let place = 0; place < grid; place++) {
		const node = nodeOf ? nodeOf[place]! : place;
		// Places that fall together share the first of their nodes.
		if (node > place) faults.push(`place ${place} names node ${node} behind it`);
	}
	for (let node = 0; node < count; node++) {
		if (onFace?.[node] === 0 || !used(node)) continue;
		const o = node * 3;
		if (!Number.isFinite(position[o]! + position[o + 1]! + position[o + 2]!)) faults.push(`node ${node} is nowhere`);
		const size = hypot(normal[o]!, normal[o + 1]!, normal[o + 2]!);
		if (size !== 0 && !(Math.abs(size - 1) < SAME_RATIO)) faults.push(`the normal of node ${node} is ${size} long`);
	}
	return faults;
}

/**
 * Divides a face. O(nodes). Throws a ZygasterError with code `setting-out` where the division does not fit,
 * or where a closed direction has too few divisions.
 */
export function setOut(
	face: ChartedFace,
	settingOut: Pick<SettingOut, 'across' | 'up' | 'fair'>,
	levels: readonly LevelHeight[] = [],
	arrays = FRESH_ARRAYS
): SetOut {
	const { surface, ends, chart } = face;
	const across = layDirection(face, 'across', settingOut.across, levels);
	const up = layDirection(face, 'up', settingOut.up, levels);
	checkClosing(across.count, ends.closedAcross, ends.startPoint && ends.endPoint, 'across');
	checkClosing(up.count, ends.closedUp, ends.bottomPoint && ends.topPoint, 'up');
	checkCells(across.count, up.count);
	const measured = chartOf([across.table, up.table], chart);
	const fair = settingOut.fair > 0;
	if (fair && (across.measure || up.measure))
		throw new ZygasterError(
			'setting-out',
			'A grid that lies on levels or planes cannot be made fair: it would leave them. Right would be 0 fair rounds, or a spacing along the face.'
		);
	const free = !measured.separable || across.measure !== undefined || up.measure !== undefined || fair;
	const { us, vs } = free
		? findFree(surface, measured, across, up, arrays)
		: { us: across.values.map(exactShares(face, 'across', across)), vs: up.values.map(exactShares(face, 'up', up)) };
	const [columns, rows] = [across.count + 1, up.count + 1];
	if (fair) relaxInPlace(surface, us, vs, columns, rows, settingOut.fair);
	const { position, normal } = (free ? evaluatePoints : evaluateGridPoints)(surface, us, vs, arrays);
	const collapses = across.measure !== undefined || up.measure !== undefined;
	const grid = {
		columns,
		rows,
		ends,
		us,
		vs,
		position,
		normal,
		fromEnd: { across: settingOut.across.from === 'end', up: settingOut.up.from === 'end' }
	};
	return {
		nodes: { ...grid, ...joinPlaces(grid, collapses, arrays) },
		across,
		up,
		between: { chart: measured, moved: fair },
		notes: [...across.notes, ...up.notes]
	};
}

function checkClosing(count: number, closed: boolean, twoPoints: boolean, direction: string): void {
	const least = closed ? 3 : twoPoints ? 2 : 1;
	if (count < least)
		throw new ZygasterError(
			'setting-out',
			`This face ${closed ? 'closes on itself' : 'runs to a point at both ends'} ${direction}: it needs at least ${least} divisions ${direction}, not ${count}.`
		);
}

/** Throws where a face would have more cells than a project may. */
export function checkCells(across: number, up: number): void {
	if (across * up > MOST_CELLS)
		throw new ZygasterError(
			'setting-out',
			`${group(across, 0)} × ${group(up, 0)} are ${group(across * up, 0)} cells; the limit is ${group(MOST_CELLS, 0)}. Right would be wider modules.`
		);
}

function findFree(surface: Surface, chart: LengthChart, across: LaidDirection, up: LaidDirection, arrays: ArraySource) {
	const found = invertChart(chart, across.values, up.values, arrays);
	if (across.measure || up.measure)
		polishInPlace(
			surface,
			chart,
			[across.measure, up.measure],
			(k, d) => (d === 0 ? across.values[k % across.values.length]! : up.values[Math.floor(k / across.values.length)]!),
			found.us,
			found.vs
		);
	return found;
}

type Grid = Pick<NodeTable, 'columns' | 'rows' | 'ends' | 'position'>;

/** Which places share a node. */
function joinPlaces(grid: Grid, collapses: boolean, arrays: ArraySource): { nodeOf?: Uint32Array; collapsed: boolean } {
	const { columns, rows, ends, position } = grid;
	if (!collapses && Object.values(ends).every((end) => !end)) return { collapsed: false };
	const nodeOf = arrays.uint32(columns * rows);
	const same = (a: number, b: number) =>
		Math.abs(position[a * 3]! - position[b * 3]!) < COINCIDENT_MM &&
		Math.abs(position[a * 3 + 1]! - position[b * 3 + 1]!) < COINCIDENT_MM &&
		Math.abs(position[a * 3 + 2]! - position[b * 3 + 2]!) < COINCIDENT_MM;
	let collapsed = false;
	for (let j = 0, place = 0; j < rows; j++)
		for (let i = 0; i < columns; i++, place++) {
			let node = place;
			if ((ends.bottomPoint && j === 0) || (ends.topPoint && j === rows - 1)) node = j * columns;
			else if (ends.startPoint && i === 0) node = 0;
			else if (ends.endPoint && i === columns - 1) node = columns - 1;
			else if (ends.closedAcross && i === columns - 1) node = nodeOf[place - i]!;
			else if (ends.closedUp && j === rows - 1) node = nodeOf[i]!;
			else if (collapses) {
				if (j > 0 && same(place, place - columns)) node = nodeOf[place - columns]!;
				else if (i > 0 && same(place, place - 1)) node = nodeOf[place - 1]!;
				collapsed ||= node !== place;
			}
			nodeOf[place] = node;
		}
	return { nodeOf, collapsed };
}
