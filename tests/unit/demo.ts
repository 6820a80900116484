import { readFileSync } from 'node:fs';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline, type Model, type RunHost } from '../../src/core/project/pipeline.ts';
import { readProject } from '../../src/core/project/read.ts';
import type { Project } from '../../src/core/project/schema.ts';

export const demoText = readFileSync('examples/sallow-reach.json', 'utf8');
export const demoProject = (): Project => readProject(demoText);

/** Runs the pipeline as a test wants it. */
export const run = (project: Project, host: Partial<RunHost> = {}): Promise<Model> =>
	runPipeline(project, { memo: new Memo(), now: () => performance.now(), ...host });

/** The demo with another division. */
export function demoWith(across: number, up: number): Project {
	const project = demoProject();
	const { settingOut } = project.masses[0]!.faces[0]!;
	settingOut.across.count = across;
	settingOut.up.count = up;
	return project;
}
