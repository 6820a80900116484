import { copyOfJson } from '../../core/project/jsonPatch.ts';
import { openingSchema, type Opening } from '../../core/tiling/openings/schema.ts';
import type { Face } from '../../core/project/schema.ts';
import { freeId, freeName } from './names.ts';

/** An opening before it has a name. */
export type NewOpening = Pick<Opening, 'outline' | 'place'> & Partial<Opening>;

/** Adds an opening to a face; answers its id. */
export function addOpening(face: Face, opening: NewOpening, stem = 'Opening'): string {
	const id = freeId(
		'opening',
		face.openings.map((o) => o.id)
	);
	const name = freeName(
		stem,
		face.openings.map((o) => o.name),
		' '
	);
	face.openings.push(openingSchema.parse({ name, ...opening, id }));
	return id;
}

/** Adds a copy beside an opening; answers its id. */
export function copyOpening(face: Face, id: string, step: number): string {
	const opening = face.openings.find((o) => o.id === id)!;
	const copy = copyOfJson(opening);
	moveOpening(copy, step, 0);
	const { name, ...rest } = copy;
	return addOpening(face, rest, name.replace(/ \d+$/, ''));
}

export function removeOpening(face: Face, id: string): void {
	face.openings = face.openings.filter((o) => o.id !== id);
}

/** Moves an opening on the flat face (or in its own plane), mm. */
export function moveOpening({ place }: Opening, dx: number, dy: number): void {
	switch (place.kind) {
		case 'face':
			place.across = whole(place.across + dx);
			place.up = whole(place.up + dy);
			break;
		case 'level':
			place.across = whole(place.across + dx);
			place.above = whole(place.above + dy);
			break;
		case 'plan':
			place.x = whole(place.x + dx);
			place.y = whole(place.y + dy);
			break;
		case 'elevation':
			place.x = whole(place.x - dx * Math.cos(place.bearing));
			place.y = whole(place.y + dx * Math.sin(place.bearing));
			place.z = whole(place.z + dy);
	}
}

/** Nobody sets out to less than a tenth of a millimetre. */
const whole = (mm: number) => Math.round(mm * 10) / 10;

/** Whether dragging on the developed view moves an opening by as much: projected ones are moved in their own plane. */
export const draggable = ({ place }: Opening) => place.kind === 'face' || place.kind === 'level';

/** An outline drawn on the flat face as a polygon (or a spline) about its own middle. */
export function drawnOpening(kind: 'polygon' | 'spline', points: readonly (readonly [number, number])[]): NewOpening {
	const [sx, sy] = points.reduce(([x, y], p) => [x + p[0], y + p[1]], [0, 0]);
	const [x, y] = [whole(sx / points.length), whole(sy / points.length)];
	return {
		outline: { kind, points: points.map((p) => [whole(p[0] - x), whole(p[1] - y)]) },
		place: { kind: 'face', across: x, up: y }
	};
}

export function drawnRectangle([ax, ay]: readonly [number, number], [bx, by]: readonly [number, number]): NewOpening {
	return {
		outline: { kind: 'rectangle', width: whole(Math.abs(bx - ax)), height: whole(Math.abs(by - ay)) },
		place: { kind: 'face', across: whole((ax + bx) / 2), up: whole(Math.min(ay, by)) }
	};
}

export function drawnCircle([x, y]: readonly [number, number], [px, py]: readonly [number, number]): NewOpening {
	return {
		outline: { kind: 'circle', diameter: whole(2 * Math.hypot(px - x, py - y)) },
		place: { kind: 'face', across: whole(x), up: whole(y) }
	};
}
