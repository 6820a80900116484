import { schedulePanels, type PanelSchedule } from '../schedule/panels.ts';
import { massSurfaces, runFace, type FaceBody, type FaceModel } from './faceStages.ts';
import { rulesFor } from './placeOnFace.ts';
import { Run, type RunHost, type Stage, type Warning } from './run.ts';
import { faceKey, type Project } from './schema.ts';

export interface Model {
	/** Every face of every mass, whether divided or not. */
	readonly bodies: readonly FaceBody[];
	/** The faces that are divided and clad. */
	readonly faces: readonly FaceModel[];
	readonly schedule: PanelSchedule;
	readonly warnings: readonly Warning[];
	/** Milliseconds spent in each stage; about 0 where the result was remembered. */
	readonly stageTimes: Readonly<Record<Stage, number>>;
}

/**
 * Runs all stages for all faces. Same document, same bytes. Throws a CancelledError when the signal
 * says so; a fault of one kit or face becomes a warning and leaves the rest standing.
 */
export async function runPipeline(project: Project, host: RunHost): Promise<Model> {
	const run = new Run(host, stagesOf(project));
	const bodies: FaceBody[] = [];
	const faces: FaceModel[] = [];
	for (const mass of project.masses) {
		const surfaces = await massSurfaces(run, project, mass);
		for (let f = 0; f < surfaces.length; f++) {
			const made = await runFace(run, project, mass, f, surfaces[f]!);
			if (made.body) bodies.push(made.body);
			if (made.model) faces.push(made.model);
		}
	}
	const schedule = await run.stage('schedule', 'all panels', () =>
		// The key holds every face's last hash, so the schedule follows all of them.
		run.memo('schedule', 'all', run.placementHashes, () => schedulePanels(faces, run.arrays))
	);
	run.forgetUnused();
	return { bodies, faces, schedule, warnings: run.warnings, stageTimes: run.times };
}

/** How many times a stage is run: each face by itself, each rule on it, and the schedule of all. */
const stagesOf = (project: Project) =>
	project.masses.reduce(
		(n, mass) =>
			n +
			1 +
			mass.faces.reduce((m, face) => m + (face.facade ? 4 + rulesFor(project, faceKey(mass, face)).length : 1), 0),
		1
	);
