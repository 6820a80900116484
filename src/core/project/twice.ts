import { bordersMeet, borderOf } from '../geometry/faceBorder.ts';
import { group } from '../units/print.ts';
import { isBeside, linesOf, middleOf } from './borderLines.ts';
import type { FaceModel } from './faceResult.ts';
import type { Warning } from './run.ts';

type Placed = FaceModel['placements'][number];

/** What of a face stands where an earlier one has the same kit. */
interface Twice {
	readonly face: FaceModel;
	readonly earlier: FaceModel;
	readonly kit: Placed['kit'];
	readonly rule: string;
	readonly hosts: readonly number[];
}

/**
 * Kits that stand twice in one place, since two faces with them have a border in common: on nodes, and bars that are
 * centred on edges. Each is told once, on the first face where it does. Two faces are compared once.
 */
export function warnTwice(faces: readonly FaceModel[]): Warning[] {
	const asked = faces.filter((face) => face.placements.some(isSingle));
	const found = asked.flatMap((face, f) => asked.slice(0, f).flatMap((earlier) => twiceOf(face, earlier)));
	return [...new Set(found.map(({ kit }) => kit.id))].map((id) => warningOf(found.filter(({ kit }) => kit.id === id)));
}

function warningOf(found: readonly Twice[]): Warning {
	const { kit, face, earlier } = found[0]!;
	const on = (places: readonly Twice[]) => {
		// A node in a corner counts once, however many faces meet there.
		const count = new Set(places.flatMap((twice) => twice.hosts.map((host) => `${twice.face.key} ${host}`))).size;
		return `${group(count, 0)} ${kit.host.kind}${count === 1 ? '' : 's'}`;
	};
	const others = found.filter((twice) => twice.face !== face);
	const names = [...new Set(others.map((twice) => twice.face.name))];
	const more = others.length
		? `, and so on ${on(others)} of ${names.length === 1 ? names[0] : `${group(names.length, 0)} other faces`}`
		: '';
	return {
		stage: 'placement',
		face: face.key,
		message: `“${kit.name}” is there twice on ${on(found.filter((twice) => twice.face === face))}, since ${earlier.name}, earlier in the list, has it in the same places${more}.`,
		once: [...new Set(found.map(({ rule }) => rule))]
	};
}

const isSingle = ({ inner, kit: { host } }: Placed): boolean =>
	!inner && (host.kind === 'node' || (host.kind === 'edge' && host.on === 'face' && host.section !== undefined));

const known = new WeakMap<FaceModel, WeakMap<FaceModel, readonly Twice[]>>();

function twiceOf(face: FaceModel, earlier: FaceModel): readonly Twice[] {
	const ofFace = known.get(face) ?? new WeakMap<FaceModel, readonly Twice[]>();
	known.set(face, ofFace);
	const found = ofFace.get(earlier) ?? (bordersMeet(earlier.surface, face.surface) ? compared(face, earlier) : []);
	ofFace.set(earlier, found);
	return found;
}

function compared(face: FaceModel, earlier: FaceModel): Twice[] {
	const border = borderOf(earlier.surface);
	return face.placements.filter(isSingle).flatMap((placed): Twice[] => {
		const { kit, rule } = placed;
		const there = earlier.placements.filter((other) => other.kit.id === kit.id && isSingle(other));
		const lines = there.flatMap((other) => linesOf(earlier, kit.host.kind, other.hosts));
		if (!lines.length) return [];
		const hosts = linesOf(face, kit.host.kind, placed.hosts)
			.filter(({ ends }) => ends.every((end) => border.holds(end)))
			.filter(({ ends }) => lines.some((line) => isBeside(middleOf(ends), line.ends)));
		return hosts.length ? [{ face, earlier, kit, rule, hosts: hosts.map(({ host }) => host) }] : [];
	});
}
