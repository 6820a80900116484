import { hypot } from '../../elementary/index.ts';
import type { ChartedFace } from '../../settingout/development.ts';
import { LEAST_CUT_MM } from '../../tolerances.ts';
import type { CellTable } from '../cells.ts';
import { FaceLines } from './faceLine.ts';
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
	const lines = new FaceLines(face);
	const notes = laid.flatMap(({ name, role, rings, around }) => {
		if (role === 'border') return [];
		// What goes around the face runs up to its end.
		const points = rings.flatMap((ring, k) => lines.lineAt(ring.slice(0, around?.[k] || undefined)).points);
		const off = points.filter((p) => p.beyond && hypot(...p.beyond) > LEAST_CUT_MM).length;
		if (off === 0) return [];
		return off < points.length
			? [`“${name}” reaches beyond the face; only its part on the face is cut.`]
			: [`“${name}” lies off the face and cuts nothing. Right would be a place on it.`];
	});
	if (cells.count === 0)
		notes.push(
			`The ${openings.length === 1 ? 'opening leaves' : 'openings leave'} nothing of this face. Right would be a smaller opening.`
		);
	return notes;
}
