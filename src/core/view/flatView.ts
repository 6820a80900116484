import type { FaceModel } from '../project/faceResult.ts';
import type { Level } from '../project/schema.ts';
import { developmentOf, flattenPlaces } from '../settingout/development.ts';
import { flatBorder } from '../settingout/flatBorder.ts';
import { levelLine } from '../settingout/levelLines.ts';
import { FaceLines } from '../tiling/openings/faceLine.ts';
import type { LaidOpening } from '../tiling/openings/layOpening.ts';

/** A face laid flat, as it crosses to the interface. Lengths in mm. */
export interface FlatView {
	readonly key: string;
	/** Flat places of the cells' corners, in the order of the cells' corners, stride 2. */
	readonly corners: Float32Array;
	/** Least x and y, greatest x and y. */
	readonly bounds: readonly [number, number, number, number];
	/** The face's own border, stride 2. */
	readonly border: Float32Array;
	/** How far the row through the middle of the bounds is turned there, radians: what is laid there turns with it. */
	readonly rowTurn: number;
	readonly unrolls: boolean;
	/** Least and greatest ratio of flat to true lengths. */
	readonly stretch: readonly [number, number];
	readonly openings: readonly LaidOpening[];
	/** Where levels cut the face: segments, stride 4. */
	readonly levels: readonly { readonly name: string; readonly height: number; readonly segments: Float32Array }[];
}

/** Lays a face flat with its cells, openings and levels, mm. O(corners). */
export function viewFlat(face: FaceModel, levels: readonly Level[]): FlatView {
	const { charted, nodes, cells, openings } = face;
	const development = developmentOf(charted);
	const flat = flattenPlaces(development, nodes);
	const places = cells.places ?? cells.corners;
	const corners = new Float32Array(places.length * 2);
	for (let k = 0; k < places.length; k++) {
		corners[k * 2] = flat[places[k]! * 2]!;
		corners[k * 2 + 1] = flat[places[k]! * 2 + 1]!;
	}
	const [x0, y0, x1, y1] = development.bounds;
	return {
		key: face.key,
		corners,
		bounds: development.bounds,
		border: Float32Array.from(flatBorder(charted).flat()),
		rowTurn: new FaceLines(charted).rowAngle([(x0 + x1) / 2, (y0 + y1) / 2]),
		unrolls: development.unrolls,
		stretch: development.stretch,
		openings,
		levels: levels
			.map(({ name, height }) => ({ name, height, segments: levelLine(charted, height) }))
			.filter(({ segments }) => segments.length > 0)
	};
}
