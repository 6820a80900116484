import type { ArraySource } from '../arrays.ts';
import { FRESH_ARRAYS } from '../arrays.ts';
import { ZygasterError } from '../errors.ts';
import type { ChartedFace } from '../settingout/development.ts';
import type { SetOut } from '../settingout/nodes.ts';
import { chooseDiagonals } from './irregular/diagonals.ts';
import { tileIcosahedral } from './irregular/icosahedral.ts';
import { randomDivision } from './irregular/randomDivision.ts';
import type { FieldAt } from './irregular/seedDensity.ts';
import { tileVoronoi } from './irregular/voronoi.ts';
import { layCells, type LaidCells } from './plane/layCells.ts';
import type { PlaneExtent } from './plane/planeCells.ts';
import { repeatUnit } from './plane/repeatUnit.ts';
import { tileRectangular } from './rectangular.ts';
import type { Tiling } from './schema.ts';
import { checkUnit } from './units/checkUnit.ts';
import { prepareUnit } from './units/prepareUnit.ts';
import type { TilingUnit } from './units/unit.ts';
import { unitOf } from './units/unitOf.ts';

/** A tiling of the project's own. */
export interface OwnTiling {
	readonly id: string;
	readonly name: string;
	readonly unit: TilingUnit;
}

/** A tiling that a face's counts do not fit, and multiples of them that would. */
export class CountError extends ZygasterError {
	readonly multiples: { readonly across: number; readonly up: number };

	constructor(message: string, multiples: CountError['multiples']) {
		super('tiling', message);
		this.multiples = multiples;
	}
}

/**
 * The cells of a face: its nodes, those that the tiling adds, and the cells between them. Throws a ZygasterError with
 * code `tiling` where the tiling does not fit the face.
 */
export function tileFace(
	face: ChartedFace,
	laid: SetOut,
	tiling: Tiling,
	own: readonly OwnTiling[],
	arrays: ArraySource = FRESH_ARRAYS,
	fieldAt?: FieldAt
): LaidCells {
	const { nodes, across, up } = laid;
	if (tiling.kind === 'rectangular') return { cells: tileRectangular(nodes, arrays) };
	const extent: PlaneExtent = {
		across: nodes.columns - 1,
		up: nodes.rows - 1,
		closedAcross: nodes.ends.closedAcross,
		closedUp: nodes.ends.closedUp
	};
	switch (tiling.kind) {
		case 'random':
			return layCells(face, laid, randomDivision(extent, tiling, arrays), arrays);
		case 'voronoi':
			return layCells(face, laid, tileVoronoi(face, across, up, extent, tiling, fieldAt), arrays);
		case 'icosahedral':
			return tileIcosahedral(face, nodes, tiling);
		case 'triangles':
			if (tiling.diagonal === 'shorter' || tiling.diagonal === 'flatter')
				return layCells(face, laid, chooseDiagonals(nodes, extent, tiling.diagonal, arrays), arrays);
	}
	const unit = tiling.kind === 'own' ? ownUnit(tiling.tiling, own) : unitOf(tiling)!;
	checkFit(unit, extent);
	const rule = 'border' in tiling ? tiling.border : 'cut';
	return layCells(face, laid, repeatUnit(prepareUnit(unit), extent, rule, arrays), arrays);
}

function ownUnit(id: string, own: readonly OwnTiling[]): TilingUnit {
	const found = own.find((t) => t.id === id);
	if (!found)
		throw new ZygasterError(
			'tiling',
			`There is no tiling “${id}”; known: ${own.map((t) => t.name).join(', ') || 'none'}.`
		);
	const { message } = checkUnit(found.unit);
	if (message) throw new ZygasterError('tiling', `“${found.name}” cannot be repeated. ${message}`);
	return found.unit;
}

/** Over a seam whole units must fit; elsewhere the grid must have one at least. */
function checkFit({ width, height }: TilingUnit, { across, up, closedAcross, closedUp }: PlaneExtent): void {
	const multiples = { across: closedAcross || width > across ? width : 1, up: closedUp || height > up ? height : 1 };
	for (const [name, size, count, closed] of [
		['across', width, across, closedAcross],
		['up', height, up, closedUp]
	] as const) {
		if (size > count)
			throw new CountError(
				`One unit of this tiling is ${width} × ${height} fields, and the grid has ${across} × ${up}. Right would be at least ${size} ${name}.`,
				multiples
			);
		if (closed && count % size !== 0) {
			const next = Math.ceil(count / size) * size;
			throw new CountError(
				`This face closes on itself ${name}: ${size === 2 ? 'an even number of' : `a multiple of ${size}`} divisions lets the tiling meet itself at the seam, and there are ${count}. Right would be ${next}.`,
				multiples
			);
		}
	}
}
