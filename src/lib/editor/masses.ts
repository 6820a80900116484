import { STANDING_FRAME, toWorld } from '../../core/mass/frame.ts';
import { keepIds } from '../../core/mesh/matchImported.ts';
import type { ImportedShape } from '../../core/mass/imported.ts';
import { PRESETS } from '../../core/mass/presets.ts';
import { kindOf, SHAPE_NAMES, type Shape } from '../../core/mass/shapes.ts';
import { copyOfJson } from '../../core/project/jsonPatch.ts';
import { matchFaces, newMass } from '../../core/project/newMass.ts';
import { faceKey, type Mass, type Project } from '../../core/project/schema.ts';
import { freeId, freeName } from './names.ts';
import { copyPaths, dropPathFaces } from './drawnPaths.ts';
import { standBeside } from './standBeside.ts';
import { addRule, dropRuleFaces, setFor, shareRules, standsOn } from './placement.ts';
import { dropZoneFaces } from './zones.ts';

/** Kinds of masses that can be made here. */
export const NEW_KINDS = SHAPE_NAMES.filter((kind): kind is keyof typeof PRESETS => kind !== 'imported');

const marksOf = (draft: Project, but?: Mass) =>
	draft.masses.filter((m) => m !== but).flatMap((m) => m.faces.map((f) => f.mark));

/** Adds a mass of a kind beside what is there; answers the key of its first face. */
export function addMass(draft: Project, kind: keyof typeof PRESETS): string {
	const key = addShape(draft, structuredClone(PRESETS[kind]), kindOf({ kind }).label);
	standBeside(draft, draft.masses.at(-1)!);
	return key;
}

/** Adds what a file brought; `note` hears of what could not be taken over. */
export const addImported = (draft: Project, shape: ImportedShape, note?: (words: string) => void) =>
	addShape(draft, shape, shape.file.replace(/\.[^.]*$/, ''), note);

/** Puts a newer file's faces in the place of a mass's; faces that lie where they did keep everything. */
export const replaceImported = (draft: Project, m: number, shape: ImportedShape) =>
	changeMass(draft, m, (mass) => {
		const older = mass.shape.kind === 'imported' ? mass.shape.faces : [];
		mass.shape = { ...shape, faces: keepIds(older, shape.faces) };
	});

function addShape(draft: Project, shape: Shape, stem: string, note?: (words: string) => void): string {
	const id = freeId(
		'mass',
		draft.masses.map((m) => m.id)
	);
	const name = freeLabel(
		stem,
		draft.masses.map((m) => m.name)
	);
	const mass = newMass(shape, draft.levels, { id, name, marks: marksOf(draft), ...(note ? { note } : {}) });
	draft.masses.push(mass);
	placeKits(draft, mass, draft.kits.find((k) => k.id === 'framed-pane')?.id ?? draft.kits[0]?.id);
	return faceKey(mass, mass.faces[0]!);
}

/** Puts a kit on those faces of a mass that have none. */
function placeKits(draft: Project, mass: Mass, kit: string | undefined): void {
	const found = draft.kits.find((k) => k.id === kit);
	const faces = mass.faces
		.map((face) => faceKey(mass, face))
		.filter((key) => !draft.rules.some((r) => standsOn(r, key)));
	if (found && faces.length) addRule(draft, { set: setFor(draft, found).id, faces, kit: found.id });
}

/**
 * Changes a mass; its faces then follow its shape. New faces take the rules of the first one, rules of faces
 * that went go too.
 */
export function changeMass(draft: Project, m: number, change: (mass: Mass) => void): void {
	const mass = draft.masses[m]!;
	const first = faceKey(mass, mass.faces[0]!);
	const known = new Set(mass.faces.map((face) => faceKey(mass, face)));
	change(mass);
	const gone = matchFaces(mass, draft.levels, marksOf(draft, mass));
	const added = mass.faces.map((face) => faceKey(mass, face)).filter((key) => !known.has(key));
	if (added.length) shareRules(draft, first, added);
	const isGone = (face: string) => gone.some((id) => face === `${mass.id}/${id}`);
	if (!gone.length) return;
	dropRuleFaces(draft, isGone);
	dropPathFaces(draft, isGone);
	dropZoneFaces(draft, isGone);
}

/** Moves a mass so many places on in the list, to its end at most: where faces meet, what stands twice is the earlier one's. */
export function shiftMass(draft: Project, id: string, by: number): void {
	const from = draft.masses.findIndex((m) => m.id === id);
	const to = Math.min(draft.masses.length - 1, Math.max(0, from + by));
	draft.masses.splice(to, 0, ...draft.masses.splice(from, 1));
}

/** Takes a mass away, with the rules that place kits on its faces. */
export function removeMass(draft: Project, id: string): void {
	draft.masses = draft.masses.filter((m) => m.id !== id);
	const isGone = (face: string) => face.startsWith(`${id}/`);
	dropRuleFaces(draft, isGone);
	dropPathFaces(draft, isGone);
	dropZoneFaces(draft, isGone);
}

/** A copy of a mass with its kits, a step to the east; answers the key of its first face. */
export function copyMass(draft: Project, m: number, step = 5000): string {
	const copy = cloneMass(draft, draft.masses[m]!);
	copy.frame.x += step;
	return faceKey(copy, copy.faces[0]!);
}

/** Copies a mass around an upright axis through (x, y), so that `count` stand evenly over a full turn. */
export function arrayMass(draft: Project, m: number, count: number, x: number, y: number): void {
	const mass = draft.masses[m]!;
	for (let k = 1; k < count; k++) {
		const angle = (2 * Math.PI * k) / count;
		const copy = cloneMass(draft, mass);
		const around = { ...STANDING_FRAME, x, y, turn: angle };
		const [px, py] = toWorld(around, [mass.frame.x - x, mass.frame.y - y, 0]);
		copy.frame = { ...mass.frame, x: px, y: py, turn: mass.frame.turn + angle };
	}
}

function cloneMass(draft: Project, mass: Mass): Mass {
	const copy = copyOfJson(mass);
	copy.id = freeId(
		'mass',
		draft.masses.map((n) => n.id)
	);
	copy.name = freeLabel(
		mass.name.replace(/ \d+$/, ''),
		draft.masses.map((n) => n.name)
	);
	const marks = marksOf(draft);
	for (const face of copy.faces) {
		face.mark = freeName(face.mark.replace(/\d+$/, '') || 'M', marks, '');
		marks.push(face.mark);
	}
	draft.masses.push(copy);
	for (const face of mass.faces) {
		shareRules(draft, faceKey(mass, face), [faceKey(copy, face)]);
		copyPaths(draft, faceKey(mass, face), faceKey(copy, face));
	}
	return copy;
}

/** `stem` itself when it is not taken, else with the first free number from 2. */
function freeLabel(stem: string, taken: readonly string[]): string {
	if (!taken.includes(stem)) return stem;
	let n = 2;
	while (taken.includes(`${stem} ${n}`)) n++;
	return `${stem} ${n}`;
}
