import { developmentOf, FlatFinder, type ChartedFace } from '../../settingout/development.ts';
import type { CellTable } from '../cells.ts';
import type { LaidOpening } from './layOpening.ts';
import type { Opening } from './schema.ts';

/** What the user should know about a face's openings: those off the face, or partly, and those that leave nothing. */
export function noteOpenings(
	face: ChartedFace,
	openings: readonly Opening[],
	laid: readonly LaidOpening[],
	cells: CellTable
): string[] {
	if (laid.length === 0) return [];
	const finder = new FlatFinder(developmentOf(face));
	const notes = laid.flatMap(({ name, role, rings }) => {
		const corners = rings.flat();
		const off = corners.filter(([x, y]) => !finder.find(x, y)).length;
		if (off === 0 || role === 'border' || face.ends.closedAcross) return [];
		return off < corners.length
			? [`“${name}” reaches beyond the face; only its part on the face is cut.`]
			: [`“${name}” lies off the face and cuts nothing. Right would be a place on it.`];
	});
	if (cells.count === 0)
		notes.push(
			`The ${openings.length === 1 ? 'opening leaves' : 'openings leave'} nothing of this face. Right would be a smaller opening.`
		);
	return notes;
}
