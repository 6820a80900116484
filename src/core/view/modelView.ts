import type { Point } from '../placement/batches.ts';
import type { ModelChange } from '../project/compare.ts';
import type { DividedFace, FaceBody } from '../project/faceResult.ts';
import { originOf, type WhereItStands } from '../project/modelBatches.ts';
import type { Model } from '../project/pipeline.ts';
import type { Stage, StageTimes } from '../project/run.ts';
import { linesName, linesOf, type FaceLines } from './faceLines.ts';
import { bodySkin } from '../geometry/bodySkin.ts';
import { viewFace, type FaceView } from './faceView.ts';

export interface WarningView {
	readonly stage: Stage;
	readonly face: string;
	readonly message: string;
	readonly cells: readonly number[];
	/** Multiples of the face's counts that would put it right. */
	readonly multiples?: { readonly across: number; readonly up: number };
	/** Rules that would put it right by leaving out what an earlier face has at their common border. */
	readonly once?: readonly string[];
}

/** A face as a plain surface, divided or not. */
export interface BodyView {
	/** Of everything that it was made from. */
	readonly hash: string;
	readonly key: string;
	readonly facade: boolean;
	/** mm less the model's origin, stride 3; the outward normals likewise. */
	readonly positions: Float32Array;
	readonly normals: Float32Array;
	readonly indices: Uint32Array;
	/** Area of the face, mm2. */
	readonly area: number;
	readonly closed: boolean;
}

/** A model as the interface has it. */
export interface ModelView {
	/** What all positions are less, mm. */
	readonly origin: Point;
	readonly bodies: readonly BodyView[];
	readonly faces: readonly FaceView[];
	readonly warnings: readonly WarningView[];
	readonly stageTimes: StageTimes;
	/** All of the worker's time for this model, ms. */
	readonly totalTime: number;
	/** What differs from the model before the last edit. */
	readonly change: ModelChange | undefined;
}

/** A model as it crosses: bodies and faces that the other side has already stand for themselves by their hash. */
export interface ModelUpdate extends Omit<ModelView, 'bodies' | 'faces'> {
	readonly bodies: readonly (BodyView | string)[];
	readonly faces: readonly (FaceView | string)[];
}

/** The masses with their division, before there is a model of them. */
export interface EarlyView extends Pick<ModelView, 'origin' | 'bodies'> {
	readonly lines: readonly FaceLines[];
}

/** Likewise as it crosses. */
export interface EarlyUpdate extends Pick<ModelUpdate, 'origin' | 'bodies'>, Pick<EarlyView, 'lines'> {}

/** How far the middle of a model may be from the origin, so that single precision stays fine beside it, mm. */
const FAR_MM = 250_000;

/** Makes views of one model after another, and sends only what the other side does not have. */
export class ModelViewer {
	private origin: Point | undefined;
	private sent = new Set<string>();

	/** O(what has changed). */
	update(model: Model, hidden: ReadonlySet<string>, totalTime: number, change: ModelChange | undefined): ModelUpdate {
		const origin = this.originFor(model);
		const now = new Set<string>();
		const viewed = <V extends { readonly hash: string }>(hash: string, view: (hash: string) => V): V | string => {
			now.add(hash);
			return this.sent.has(hash) ? hash : view(hash);
		};
		const divided = new Set(model.faces.map((f) => f.key));
		const update = {
			origin,
			bodies: model.bodies
				.filter(({ key }) => !hidden.has(key))
				.map((body) => {
					const facade = divided.has(body.key);
					return viewed(bodyName(body, facade, origin), (hash) => viewBody(body, origin, facade, hash));
				}),
			faces: model.faces.map((face) =>
				viewed(`${face.hash} ${hidden.has(face.key)} ${origin.join()}`, (hash) =>
					viewFace(face, origin, hidden.has(face.key), hash)
				)
			),
			warnings: model.warnings.map((w) => ({ ...w, cells: [...(w.cells ?? [])] })),
			stageTimes: model.stageTimes,
			totalTime,
			change
		};
		this.sent = now;
		return update;
	}

	/**
	 * Faces before there is a model of them, with the lines of those that are divided: what is sent later does not count on their
	 * having arrived. Lines whose hash is `known` are there already. O(what has changed).
	 */
	early(
		bodies: readonly FaceBody[],
		faces: readonly DividedFace[],
		hidden: ReadonlySet<string>,
		known: ReadonlySet<string>
	): EarlyUpdate {
		const origin = this.originFor({ bodies, faces });
		const seen = faces.filter(({ key }) => !hidden.has(key));
		const divided = new Set(faces.map(({ key }) => key));
		return {
			origin,
			bodies: bodies
				.filter(({ key }) => !hidden.has(key))
				.map((body) => {
					const facade = divided.has(body.key);
					const name = bodyName(body, facade, origin);
					return this.sent.has(name) ? name : viewBody(body, origin, facade, name);
				}),
			lines: seen.map((face) => {
				const hash = linesName(face, origin);
				return { face: face.key, hash, ...(known.has(hash) ? {} : { segments: linesOf(face, origin) }) };
			})
		};
	}

	/** The origin stays where it is while the model is near it, so that an edit moves no other face. */
	originFor(model: WhereItStands): Point {
		const middle = originOf(model);
		const far = !this.origin || this.origin.some((x, c) => Math.abs(x - middle[c]!) > FAR_MM);
		return (this.origin = far ? middle : this.origin!);
	}
}

const bodyName = ({ key, bodyHash }: FaceBody, facade: boolean, origin: Point) =>
	`${key} ${bodyHash} ${facade} ${origin.join()}`;

function viewBody({ key, surface, ends }: FaceBody, origin: Point, facade: boolean, hash: string): BodyView {
	const { points, indices, area } = bodySkin(surface);
	return {
		hash,
		key,
		facade,
		positions: Float32Array.from(points.position, (x, o) => x - origin[o % 3]!),
		normals: new Float32Array(points.normal),
		indices: indices.slice(),
		area,
		closed: ends.closedAcross || ends.closedUp
	};
}
