import type { ArraySource } from '../arrays.ts';
import { ZygasterError } from '../errors.ts';
import type { SolidPort } from '../kit/solids.ts';
import { settleValues } from '../kit/values.ts';
import type { HostFace } from '../placement/faceHosts.ts';
import { addedUp, placeKit, type Placed } from '../placement/place.ts';
import type { Assigned } from '../placement/rules/assign.ts';
import type { Job } from '../placement/rules/jobs.ts';
import { mirrorFace, mirrorPlacements } from '../placement/rules/mirror.ts';
import { trimPlacements } from '../placement/trim/trimPlacements.ts';
import { wholeFace } from '../placement/trim/wholeFace.ts';
import { turnFace, turnsOf } from '../placement/rules/turns.ts';
import type { RulePlacement } from '../schedule/kitsOf.ts';
import type { KitWorld } from './kitWorld.ts';

/** What a job has come to on a face. */
export interface PlacedJob extends Pick<Placed, 'misfits' | 'failures' | 'clamped'> {
	readonly placements: readonly RulePlacement[];
	/** Pieces that trimming left out since they are too small. */
	readonly leftOut: number;
	/** Why nothing could be placed at all. */
	readonly error?: string;
}

type Placing = Omit<PlacedJob, 'placements' | 'error'> & { readonly placements: Placed['placements'] };

/** Places a job's kit on its hosts; a fault of the kit's leaves nothing but its words. */
export function placeJob(
	job: Job,
	world: KitWorld,
	face: HostFace,
	solids: SolidPort | undefined,
	arrays: ArraySource
): PlacedJob {
	const { densities, library, modules } = world;
	const kit = library.get(job.kit)!;
	const compiled = world.kit(job.kit)?.hash;
	const turn = standsOnCells(kit.host.kind) ? job.turn : undefined;
	const place = (on: HostFace, { hosts, columns }: Pick<Job, 'hosts' | 'columns'>): Placing => {
		const begun = turn ? turnFace(on, turnsOf(turn, on)) : on;
		const turned = turn?.mirrored ? mirrorFace(begun) : begun;
		const placed = placeKit(kit, job.given, turned, {
			densities,
			library,
			modules,
			compiled,
			solids,
			arrays,
			hosts,
			columns,
			points: job.points
		});
		return {
			...placed,
			leftOut: 0,
			placements: turn?.mirrored ? mirrorPlacements(placed.placements) : placed.placements
		};
	};
	const trimmed = ({ least }: NonNullable<Job['trim']>, part: Pick<Job, 'hosts' | 'columns'>): Placing => {
		const whole = wholeFace(face, part.hosts);
		const placed = place(whole, part);
		const { placements, leftOut, failures } = trimPlacements(placed.placements, { cut: face, whole, least, solids });
		return { ...placed, placements, leftOut, failures: [...placed.failures, ...failures] };
	};
	try {
		const { trim } = job;
		const wholes = face.cells.trim?.wholes;
		const [rest, cut] =
			trim && wholes?.size && standsOnCells(kit.host.kind) ? partJob(job, (h) => wholes.has(h)) : [job, undefined];
		const runs = [
			...(rest.hosts.length || !cut ? [place(face, rest)] : []),
			...(cut?.hosts.length ? [trimmed(trim!, cut)] : [])
		];
		return {
			placements: runs.flatMap((r) => r.placements.map((p) => ({ ...p, rule: job.rule ?? BY_HAND }))),
			misfits: runs.flatMap((r) => r.misfits),
			failures: runs.flatMap((r) => r.failures),
			clamped: addedUp(runs.map((r) => r.clamped)),
			leftOut: runs.reduce((sum, r) => sum + r.leftOut, 0)
		};
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		return { placements: [], misfits: [], failures: [], clamped: new Map(), leftOut: 0, error: cause.message };
	}
}

/** A job's hosts in two: those that are not meant, and those that are. */
function partJob({ hosts, columns }: Job, meant: (host: number) => boolean): Pick<Job, 'hosts' | 'columns'>[] {
	return [false, true].map((wanted) => {
		const rows = [...hosts.keys()].filter((r) => meant(hosts[r]!) === wanted);
		return {
			hosts: Uint32Array.from(rows, (r) => hosts[r]!),
			columns: Object.fromEntries(
				Object.entries(columns).map(([name, column]) => [name, Float64Array.from(rows, (r) => column[r]!)])
			)
		};
	});
}

/** What stands in a rule's place where all is set by hand; no rule has it as its id. */
const BY_HAND = '';

const standsOnCells = (kind: string) => kind === 'cell' || kind === 'box';

/** Values that were held at their parameters' limits, host by host. */
export const clampedIn = ({ jobs }: Assigned, placed: readonly PlacedJob[], library: KitWorld['library']): number =>
	jobs.reduce((sum, job, k) => {
		const constants = settleValues(library.get(job.kit)!, job.given).clamped.length * job.hosts.length;
		const counts = [...job.clamped.values(), ...(placed[k]?.clamped.values() ?? [])];
		return sum + constants + counts.reduce((a, b) => a + b, 0);
	}, 0);
