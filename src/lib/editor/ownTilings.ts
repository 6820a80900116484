import { ZygasterError } from '../../core/errors.ts';
import type { Face, OwnTiling, Project } from '../../core/project/schema.ts';
import { ringArea } from '../../core/tiling/openings/rings.ts';
import type { Tiling } from '../../core/tiling/schema.ts';
import type { TilingUnit, UnitCell, UnitPoint } from '../../core/tiling/units/unit.ts';
import { square } from '../../core/tiling/units/library.ts';
import { unitOf } from '../../core/tiling/units/unitOf.ts';
import { freeId, freeName } from './names.ts';
import { TILINGS } from './tilings.ts';

/** A copy of a tiling as a tiling of the project's own; where it is no repeating unit, one square to begin with. */
export function copyOf(project: Project, tiling: Tiling): OwnTiling {
	const own = tiling.kind === 'own' ? project.tilings.find((t) => t.id === tiling.tiling) : undefined;
	const unit = structuredClone(own?.unit ?? unitOf(tiling) ?? square());
	return { ...named(project, own?.name ?? `${TILINGS[tiling.kind].label}, own`), unit };
}

/** Adds a tiling and puts it on a face. */
export function useTiling(draft: Project, face: Face, tiling: OwnTiling): void {
	draft.tilings.push(tiling);
	face.tiling = { kind: 'own', tiling: tiling.id, border: 'cut' };
}

/** An id, and the name or one like it, that no tiling of the project has yet. */
export function named(project: Project, name: string): { id: string; name: string } {
	const names = project.tilings.map((t) => t.name);
	return {
		id: freeId(
			'tiling',
			project.tilings.map((t) => t.id)
		),
		name: names.includes(name) ? freeName(name, names, ' ') : name
	};
}

/** Takes a tiling away; faces that have it become rectangular. */
export function removeTiling(draft: Project, id: string): void {
	draft.tilings = draft.tilings.filter((t) => t.id !== id);
	for (const face of draft.masses.flatMap((m) => m.faces))
		if (face.tiling.kind === 'own' && face.tiling.tiling === id) face.tiling = { kind: 'rectangular' };
}

/** Names of the faces that have a tiling. */
export const usersOf = (project: Project, id: string): string[] =>
	project.masses.flatMap((m) =>
		m.faces.filter((f) => f.tiling.kind === 'own' && f.tiling.tiling === id).map((f) => `${m.name} › ${f.name}`)
	);

/** The unit with one more cell, its corners anticlockwise. */
export function withCell(unit: TilingUnit, corners: readonly UnitPoint[], role: string): TilingUnit {
	const ring = ringArea(corners) < 0 ? [...corners].reverse() : corners;
	return { ...unit, cells: [...unit.cells, { role, corners: ring.map(([x, y]) => [x, y]) }] };
}

/** The unit with one cell changed. */
export const withChangedCell = (unit: TilingUnit, k: number, change: Partial<UnitCell>): TilingUnit => ({
	...unit,
	cells: unit.cells.map((c, i) => (i === k ? { ...c, ...change } : c))
});

/** The unit without a cell. Throws a ZygasterError for the last one. */
export function withoutCell(unit: TilingUnit, k: number): TilingUnit {
	if (unit.cells.length === 1)
		throw new ZygasterError('project', 'A unit has at least one cell. Right would be to draw another one first.');
	return { ...unit, cells: unit.cells.filter((_, i) => i !== k) };
}

/** All corners at one place move together, in this cell and its neighbours, also where those are copies in the next unit. */
export function moveCorner(
	unit: TilingUnit,
	[fromX, fromY]: UnitPoint,
	[toX, toY]: UnitPoint,
	alone?: number
): TilingUnit {
	const { width, height } = unit;
	const whole = (d: number, size: number) => Math.abs(d / size - Math.round(d / size)) < 1e-6;
	return {
		...unit,
		cells: unit.cells.map((cell, k) => ({
			...cell,
			corners: cell.corners.map(([x, y]): [number, number] => {
				const same =
					whole(x - fromX, width) &&
					whole(y - fromY, height) &&
					(alone === undefined || (k === alone && x === fromX && y === fromY));
				return same ? [tidied(x + toX - fromX), tidied(y + toY - fromY)] : [x, y];
			})
		}))
	};
}

/** A number without the tail that adding leaves. */
const tidied = (x: number) => Math.round(x * 1e9) / 1e9;

/** Corners as text, one a line. */
export const printCorners = (corners: readonly UnitPoint[]): string =>
	corners.map(([x, y]) => `${printShare(x)}, ${printShare(y)}`).join('\n');

/** A coordinate in fields: a fraction such as 5/12 where it is a simple one. */
function printShare(x: number): string {
	for (const n of [1, 2, 3, 4, 5, 6, 8, 12])
		if (Math.abs(x * n - Math.round(x * n)) < 1e-6)
			return n === 1 ? String(Math.round(x)) : `${Math.round(x * n)}/${n}`;
	return String(Number(x.toFixed(6)));
}

/** Reads corners, one a line, such as `1/2, 1`. Answers them, or words on what is wrong in which line. */
export function parseCorners(text: string): { corners: [number, number][] } | { error: string } {
	const corners: [number, number][] = [];
	for (const [k, line] of text.trim().split(/\n/).entries()) {
		const found = line
			.split(',')
			.map((part) => /^\s*(-?\d+(?:\.\d+)?)(?:\s*\/\s*([1-9]\d*))?\s*$/.exec(part.replace('−', '-')));
		if (found.length !== 2 || found.some((f) => !f))
			return {
				error: `Line ${k + 1}, “${line.trim()}”, is no corner. Right would be two numbers of fields, such as 1/2, 1.`
			};
		corners.push(found.map((f) => Number(f![1]) / Number(f![2] ?? 1)) as [number, number]);
	}
	return corners.length < 3 ? { error: 'A cell has at least three corners, one a line.' } : { corners };
}
