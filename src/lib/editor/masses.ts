import { starterProject } from '../../core/project/starter.ts';
import { faceKey, type Project } from '../../core/project/schema.ts';

/** Adds a plain arched roof beside what is there; answers the key of its face. */
export function addMass(draft: Project): string {
	const { masses, rules, kits } = starterProject('');
	const [mass] = masses;
	const [rule] = rules;
	mass!.id = freeName('mass', draft.masses.map((m) => m.id));
	mass!.name = freeName('Mass', draft.masses.map((m) => m.name), ' ');
	mass!.faces[0]!.mark = freeName('M', draft.masses.flatMap((m) => m.faces.map((f) => f.mark)), '');
	const key = faceKey(mass!, mass!.faces[0]!);
	draft.masses.push(mass!);
	const kit = draft.kits.find((k) => k.id === rule!.kit) ?? draft.kits[0];
	if (kit && kits.length)
		draft.rules.push({ id: freeName('rule', draft.rules.map((r) => r.id)), face: key, kit: kit.id, values: {} });
	return key;
}

/** Takes a mass away, with the rules that place kits on its faces. */
export function removeMass(draft: Project, id: string): void {
	draft.masses = draft.masses.filter((m) => m.id !== id);
	draft.rules = draft.rules.filter((r) => !r.face.startsWith(`${id}/`));
}

/** `stem` with the first number from 1 that is not taken. */
export function freeName(stem: string, taken: readonly string[], between = '-'): string {
	let n = 1;
	while (taken.includes(`${stem}${between}${n}`)) n++;
	return `${stem}${between}${n}`;
}
