import type { FaceView } from './faceView.ts';
import type { BodyView, EarlyUpdate, EarlyView, ModelUpdate, ModelView } from './modelView.ts';

/** Faces before there is a model of them, with what is there already. */
export function receivedEarly(update: EarlyUpdate, before: ModelView | undefined): EarlyView {
	const known = new Map(before?.bodies.map((body) => [body.hash, body]));
	return { ...update, bodies: update.bodies.flatMap((b) => (typeof b === 'string' ? (known.get(b) ?? []) : b)) };
}

/** The model of an update, with what is there already. Throws where something is said to be there that is not. */
export function received(update: ModelUpdate, before: ModelView | undefined): ModelView {
	const known = new Map<string, BodyView | FaceView>(
		[...(before?.bodies ?? []), ...(before?.faces ?? [])].map((view) => [view.hash, view])
	);
	const find = <V extends BodyView | FaceView>(view: V | string): V => {
		const found = typeof view === 'string' ? known.get(view) : view;
		if (!found) throw new Error(`the view ${String(view)} has not arrived`);
		return found as V;
	};
	return {
		...update,
		bodies: update.bodies.map((b) => find<BodyView>(b)),
		faces: update.faces.map((f) => find<FaceView>(f))
	};
}
