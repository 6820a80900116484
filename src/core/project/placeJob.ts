import type { ArraySource } from '../arrays.ts';
import { ZygasterError } from '../errors.ts';
import type { SolidPort } from '../kit/solids.ts';
import { settleValues } from '../kit/values.ts';
import type { HostFace } from '../placement/faceHosts.ts';
import { placeKit, type Placed } from '../placement/place.ts';
import type { Assigned } from '../placement/rules/assign.ts';
import type { Job } from '../placement/rules/jobs.ts';
import { mirrorFace, mirrorPlacements } from '../placement/rules/mirror.ts';
import { turnFace, turnsOf } from '../placement/rules/turns.ts';
import type { RulePlacement } from '../schedule/kitsOf.ts';
import type { KitWorld } from './kitWorld.ts';

/** What a job has come to on a face. */
export interface PlacedJob extends Pick<Placed, 'misfits' | 'failures' | 'clamped'> {
	readonly placements: readonly RulePlacement[];
	/** Why nothing could be placed at all. */
	readonly error?: string;
}

/** Places a job's kit on its hosts; a fault of the kit's leaves nothing but its words. */
export function placeJob(
	{ rule, kit: id, hosts, given, columns, turn }: Job,
	{ densities, library, modules }: KitWorld,
	face: HostFace,
	solids: SolidPort | undefined,
	arrays: ArraySource
): PlacedJob {
	try {
		const kit = library.get(id)!;
		const turns = turn && standsOnCells(kit.host.kind);
		const mirrored = turns && turn.mirrored;
		const begun = turns ? turnFace(face, turnsOf(turn, face)) : face;
		const turned = mirrored ? mirrorFace(begun) : begun;
		const placed = placeKit(kit, given, turned, { densities, library, modules, solids, arrays, hosts, columns });
		const placements = mirrored ? mirrorPlacements(placed.placements) : placed.placements;
		return { ...placed, placements: placements.map((p) => ({ ...p, rule: rule ?? BY_HAND })) };
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		return { placements: [], misfits: [], failures: [], clamped: new Map(), error: cause.message };
	}
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
