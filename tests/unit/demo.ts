import { readFileSync } from 'node:fs';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline, type Model } from '../../src/core/project/pipeline.ts';
import type { RunHost } from '../../src/core/project/run.ts';
import { rulesInSets, type PlainRule } from '../../src/core/project/rulesInSets.ts';
import { readProject } from '../../src/core/project/read.ts';
import type { Settled } from '../../src/core/mass/shapeKind.ts';
import type { VaultShape } from '../../src/core/mass/vault.ts';
import { settingOutOf } from '../../src/core/settingout/spacing.ts';
import { solids } from './kit/make.ts';
import { bordersSchema } from '../../src/core/tiling/openings/schema.ts';
import type { Project } from '../../src/core/project/schema.ts';

export const demoText = readFileSync('examples/sallow-reach.json', 'utf8');
/** The whole ferry terminal, as it is shipped. */
export const shippedDemo = (): Project => readProject(demoText);

/** Faces of the demo's only mass with several. */
export const PILOT_FACES = ['wall-1', 'wall-2', 'wall-3', 'wall-4', 'roof'].map((face) => `pilot-house/${face}`);

/** Gives a project kits that all stand beside each other, each on all hosts of a face. */
export function setRules(project: Project, rules: readonly PlainRule[]): void {
	Object.assign(project, rulesInSets(rules, project.kits), { overrides: [] });
}

/** One more kit on a face, beside those that stand there. */
export function addRule(project: Project, rule: PlainRule): void {
	const { sets, rules } = rulesInSets([rule], project.kits);
	const { host } = sets.find((s) => s.id === rules[0]!.set)!;
	const set = { id: `of-${rule.id}`, name: `Of ${rule.id}`, host };
	project.sets.push(set);
	project.rules.push({ ...rules[0]!, set: set.id });
}

/** Keeps the rules of some faces only. */
export function keepRules(project: Project, stays: (face: string) => boolean): void {
	project.rules = project.rules.filter((r) => r.faces.some(stays));
	project.overrides = project.overrides.filter((o) => stays(o.face));
}

/** The whole ferry terminal with framed panes alone on all of its faces. */
export function fullDemo(): Project {
	const project = shippedDemo();
	Object.assign(project, { fields: [], numbers: [], paths: [] });
	const values: Record<string, Record<string, number>> = {
		canopy: {},
		lantern: { frameWidth: 60, recess: 80 },
		'ticket-screen': { frameWidth: 45, recess: 40 }
	};
	const faces = project.masses.flatMap(({ id, faces }) => faces.map((face) => ({ id, face: `${id}/${face.id}` })));
	setRules(
		project,
		faces.map(({ id, face }, k) => ({
			id: `rule-${k + 1}`,
			face,
			kit: 'framed-pane',
			values: values[id] ?? { frameWidth: 70 }
		}))
	);
	return project;
}

/** The demo's canopy alone in rectangles, with the kits, without its openings. */
export function demoProject(): Project {
	const project = fullDemo();
	project.masses = project.masses.slice(0, 1);
	keepRules(project, (face) => face.startsWith(`${project.masses[0]!.id}/`));
	project.levels = [];
	project.zones = [];
	project.masses[0]!.faces[0]!.tiling = { kind: 'rectangular' };
	project.tilings = [];
	withoutOpenings(project);
	return project;
}

/** The shape of a mass that is known to be a vault. */
export function vaultOf(project: Project, mass = 0): Settled<VaultShape> {
	const { shape } = project.masses[mass]!;
	if (shape.kind !== 'vault') throw new Error(`mass ${mass} is a ${shape.kind}`);
	return shape as Settled<VaultShape>;
}

/** Runs the pipeline as a test wants it. */
export const run = (project: Project, host: Partial<RunHost> = {}): Promise<Model> =>
	runPipeline(project, { memo: new Memo(), now: () => performance.now(), solids, ...host });

let ran: Promise<{ readonly project: Project; readonly model: Model }> | undefined;

/** The whole ferry terminal and its model, made once for all tests that only look at it. */
export const ranDemo = () => (ran ??= (async (project) => ({ project, model: await run(project) }))(shippedDemo()));

/** The demo with another division. */
export function demoWith(across: number, up: number): Project {
	const project = demoProject();
	const face = project.masses[0]!.faces[0]!;
	face.settingOut = settingOutOf({ kind: 'count', count: across }, { kind: 'count', count: up });
	return project;
}

/** Gives a direction of a face so many divisions. */
export function setCount(project: Project, mass: number, direction: 'across' | 'up', count: number): void {
	project.masses[mass]!.faces[0]!.settingOut[direction].spacing = { kind: 'count', count };
}

/** Takes all openings away, so that every cell is whole. */
export function withoutOpenings(project: Project): void {
	for (const face of project.masses.flatMap((m) => m.faces))
		Object.assign(face, { openings: [], borders: bordersSchema.parse({}) });
}
