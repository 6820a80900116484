import { bordersMeet } from '../geometry/faceBorder.ts';
import type { Surface } from '../geometry/surface.ts';
import { rulesAskNeighbours } from '../placement/rules/meeting.ts';
import type { FaceInputs } from './faceInputs.ts';

/** A face with its mass's surface where it stands. */
interface FaceAt {
	readonly surface: Surface;
	readonly face: FaceInputs;
}

/** Whether what stands on a face hangs on others: a rule, or a kit that is placed, asks for them. */
const asks = ({ rules, kits }: FaceInputs) =>
	rulesAskNeighbours(rules) || Object.values(kits).some(({ beside }) => beside);

/** The faces of a project, in order, with the surfaces of those divided ones whose borders meet theirs, where they ask for it. */
export function withNeighbours<At extends FaceAt>(
	faces: readonly At[]
): (At & { readonly meeting: readonly Surface[] })[] {
	const divided = faces.map(({ face }) => face.face.facade);
	return faces.map((at, k) => {
		if (!divided[k] || !asks(at.face)) return { ...at, meeting: [] };
		const beside = [...faces.keys()].filter((n) => n !== k && divided[n] && bordersMeet(at.surface, faces[n]!.surface));
		const neighbours = beside.map((n) => {
			const { key, surface, face } = faces[n]!.face;
			return { key, surface, insideOut: face.insideOut, earlier: n < k };
		});
		return { ...at, face: { ...at.face, neighbours }, meeting: beside.map((n) => faces[n]!.surface) };
	});
}
