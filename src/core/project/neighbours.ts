import { bordersMeet } from '../geometry/faceBorder.ts';
import type { Surface } from '../geometry/surface.ts';
import { asksNeighbours } from '../placement/rules/meeting.ts';
import type { FaceInputs } from './faceInputs.ts';

/** A face with its mass's surface where it stands. */
interface FaceAt {
	readonly surface: Surface;
	readonly face: FaceInputs;
}

/** The faces of a project, in order, with the surfaces of those divided ones whose borders meet theirs, where their rules ask for it. */
export function withNeighbours<At extends FaceAt>(
	faces: readonly At[]
): (At & { readonly meeting: readonly Surface[] })[] {
	const divided = faces.map(({ face }) => face.face.facade);
	return faces.map((at, k) => {
		if (!divided[k] || !at.face.rules.rules.some(({ where }) => where.some(asksNeighbours)))
			return { ...at, meeting: [] };
		const beside = [...faces.keys()].filter((n) => n !== k && divided[n] && bordersMeet(at.surface, faces[n]!.surface));
		const neighbours = beside.map((n) => {
			const { key, surface } = faces[n]!.face;
			return { key, surface, earlier: n < k };
		});
		return { ...at, face: { ...at.face, neighbours }, meeting: beside.map((n) => faces[n]!.surface) };
	});
}
