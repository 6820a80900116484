import manifoldWasm from 'manifold-3d/manifold.wasm?url';
import { expose, transfer } from 'comlink';
import type { Kit } from '../../core/kit/schema.ts';
import { solidsLoader } from '../../core/kit/solids.ts';
import type { TrialHost } from '../../core/kit/trialHosts.ts';
import type { GivenValues } from '../../core/kit/values.ts';
import { drawKit, type KitPicture } from '../../core/placement/kitPicture.ts';
import { weighKit, type KitWeight } from '../../core/placement/kitWeight.ts';
import { hostsFor, tryLimits, type LimitReport } from '../../core/placement/limits.ts';
import { runTrial, type Trial, type TrialOptions } from '../../core/placement/trial.ts';
import { contentNames } from '../../core/project/contents.ts';
import { kitLibrary, moduleLibrary, needsSolids } from '../../core/project/kitWorld.ts';
import { STARTER_MATERIALS } from '../../core/project/starterMaterials.ts';
import type { Project } from '../../core/project/schema.ts';
import { loadContents } from './contents.ts';
import { buffersIn } from '../../core/view/buffers.ts';

/** What of a project the bench needs. */
export type BenchWorld = Pick<Project, 'kits' | 'modules' | 'materials'>;

export type WeighedPicture = KitPicture & { readonly weight: KitWeight };

const solids = solidsLoader(() => import('manifold-3d'), manifoldWasm);

/** The core's host for the bench: one kit on one host at a time. */
class BenchWorker {
	private stopped = false;

	async run(kit: Kit, given: GivenValues, host: TrialHost, world: BenchWorld): Promise<Trial> {
		const trial = runTrial(kit, given, host, await optionsOf(kit, world));
		return transfer(trial, buffersIn([trial.batches, trial.instances]));
	}

	/** A small picture of a kit on the plainest host that it fits, and what it weighs there; nothing where it makes nothing. */
	async picture(kit: Kit, world: BenchWorld): Promise<WeighedPicture | undefined> {
		const host = hostsFor(kit)[0];
		const trial = host && runTrial(kit, {}, host, await optionsOf(kit, world));
		return trial && trial.batches.length + trial.instances.length > 0
			? { ...drawKit(trial), weight: weighKit(trial, host) }
			: undefined;
	}

	/** Runs a kit over its limits; `progress` hears the share done. Nothing when it was stopped. */
	async limits(
		kit: Kit,
		extra: readonly TrialHost[],
		world: BenchWorld,
		progress: (share: number) => void
	): Promise<LimitReport | undefined> {
		this.stopped = false;
		const report = await tryLimits(
			kit,
			{ ...(await optionsOf(kit, world)), now: () => performance.now() },
			extra,
			async (share) => {
				progress(share);
				await new Promise((resolve) => setTimeout(resolve));
				return !this.stopped;
			}
		);
		return this.stopped ? undefined : report;
	}

	stop(): void {
		this.stopped = true;
	}
}

async function optionsOf(kit: Kit, world: BenchWorld): Promise<TrialOptions> {
	const library = kitLibrary(world);
	await loadContents(contentNames({ masses: [], references: [], modules: world.modules }));
	return {
		library,
		modules: moduleLibrary(world),
		// Starters on offer bring their materials along.
		densities: Object.fromEntries([...STARTER_MATERIALS, ...world.materials].map((m) => [m.id, m.density])),
		now: () => performance.now(),
		...(needsSolids(kit, library) ? { solids: await solids() } : {})
	};
}

export type BenchWorkerApi = BenchWorker;
expose(new BenchWorker());
