import { FRESH_ARRAYS } from '../arrays.ts';
import { ZygasterError } from '../errors.ts';
import type { PartGeometry } from '../kit/result.ts';
import type { SolidPort } from '../kit/solids.ts';
import { plateSize } from '../kit/plates.ts';
import type { HostFace } from '../placement/faceHosts.ts';
import type { Job } from '../placement/rules/jobs.ts';
import { group } from '../units/print.ts';
import type { KitWorld } from './kitWorld.ts';
import { placeJob, type PlacedJob } from './placeJob.ts';

/** What a run has before it: how much it makes, and what that takes on this machine. */
export interface Work {
	readonly hosts: number;
	readonly triangles: number;
	readonly bytes: number;
	readonly ms: number;
}

export const NO_WORK: Work = { hosts: 0, triangles: 0, bytes: 0, ms: 0 };

export const added = (a: Work, b: Work): Work => ({
	hosts: a.hosts + b.hosts,
	triangles: a.triangles + b.triangles,
	bytes: a.bytes + b.bytes,
	ms: a.ms + b.ms
});

/** Jobs of fewer hosts are no burden, whatever they place. */
const LEAST_HOSTS = 1000;
/** Hosts that a rate is taken from: what more of them take longer is the rate, so that what each run costs anyway falls out. */
const [FEW, MORE, MANY] = [6, 30, 300];
/** A time that a clock can tell, ms. */
const CLEAR_MS = 2;
/** Runs of which the quickest counts: others were held up. */
const TRIES = 3;
/** Of a triangle as it is drawn: three numbers of a corner, and its share of the corners with their normals. */
const DRAWN_BYTES = 3 * 4 + 2 * 24;
/** Triangles that a joined bar is drawn with, its share of the joints among them. */
const JOINED_TRIANGLES = 60;

/** What a job comes to on each of its hosts. */
type Rate = Omit<Work, 'hosts'>;

/** Rates of this machine by kit and values, so that edits of where it stands measure nothing anew. */
const rates = new Map<string, Rate>();
const MOST_RATES = 200;

/** What a job will come to, measured on some of its hosts once for a kit with values. O(cells) for the table of hosts, and a few hosts. */
export function weighJob(
	job: Job,
	world: KitWorld,
	face: HostFace,
	solids: SolidPort | undefined,
	now: () => number
): Work {
	const { length } = job.hosts;
	if (length < LEAST_HOSTS) return { ...NO_WORK, hosts: length };
	const key = rateOf(job, world);
	const { triangles, bytes, ms } = rates.get(key) ?? measured(job, world, face, solids, now);
	if (rates.size > MOST_RATES) rates.clear();
	rates.set(key, { triangles, bytes, ms });
	return {
		hosts: length,
		triangles: Math.round(triangles * length),
		bytes: Math.round(bytes * length),
		ms: ms * length
	};
}

const rateOf = ({ kit, given, columns }: Job, world: KitWorld) =>
	JSON.stringify([world.kit(kit)?.hash, given, Object.keys(columns)]);

/** Takes what a job has really taken, ms, for what its like will take. */
export function learn(job: Job, world: KitWorld, ms: number): void {
	const key = rateOf(job, world);
	const rate = rates.get(key);
	if (rate && job.hosts.length >= LEAST_HOSTS) rates.set(key, { ...rate, ms: ms / job.hosts.length });
}

function measured(job: Job, world: KitWorld, face: HostFace, solids: SolidPort | undefined, now: () => number): Rate {
	const run = (count: number): Rate => {
		const some = sampleOf(job, count);
		let ms = Infinity;
		for (let k = 0; ; k++) {
			const start = now();
			const placed = placeJob(some, world, face, solids, FRESH_ARRAYS);
			ms = Math.min(ms, now() - start);
			if (k === TRIES - 1) return { ms, ...sizeOf(placed) };
		}
	};
	const few = run(FEW);
	let [count, more] = [MORE, run(MORE)];
	if (more.ms - few.ms < CLEAR_MS) [count, more] = [MANY, run(MANY)];
	const each = (name: keyof Rate) => Math.max(0, more[name] - few[name]) / (count - FEW);
	return { triangles: each('triangles'), bytes: each('bytes'), ms: each('ms') };
}

/** A job on so many of its hosts, evenly over all of them. */
function sampleOf(job: Job, count: number): Job {
	const rows = Array.from({ length: count }, (_, k) => Math.floor(((k + 0.5) * job.hosts.length) / count));
	return {
		...job,
		hosts: Uint32Array.from(rows, (r) => job.hosts[r]!),
		columns: Object.fromEntries(
			Object.entries(job.columns).map(([name, column]) => [name, Float64Array.from(rows, (r) => column[r]!)])
		)
	};
}

function sizeOf({ placements }: Pick<PlacedJob, 'placements'>): { readonly triangles: number; readonly bytes: number } {
	let [triangles, bytes] = [0, 0];
	for (const { hosts, parts } of placements)
		for (const { geometry } of parts) {
			const size = geometrySize(geometry, hosts.length);
			triangles += size.triangles;
			// Area, length, volume and number of pieces of each row.
			bytes += size.bytes + hosts.length * 32 + size.triangles * DRAWN_BYTES;
		}
	return { triangles, bytes };
}

/** What a part comes to on so many hosts: as it is drawn, and as it is kept. */
export function geometrySize(
	geometry: PartGeometry,
	rows: number
): { readonly triangles: number; readonly bytes: number } {
	switch (geometry.kind) {
		case 'pattern':
			return { triangles: (geometry.triangles.length / 3) * rows, bytes: geometry.pointsPerHost * 24 * rows };
		case 'instances':
			return {
				triangles: (geometry.mesh.triangles.length / 3) * geometry.rows.length,
				bytes: geometry.transforms.byteLength
			};
		case 'loose':
			return {
				triangles: geometry.triangles.length / 3,
				bytes: geometry.positions.byteLength + geometry.triangles.byteLength
			};
		case 'plates': {
			const { places, points, triangles, loops, rows: own } = geometry;
			let corners = 0;
			for (let k = 0; k < own.length; k++) corners += plateSize(geometry, k).corners;
			return {
				triangles: corners / 3,
				bytes: places.byteLength + points.byteLength + triangles.byteLength + loops.byteLength
			};
		}
		case 'fitted':
			return geometry.sets.reduce(
				(sum, { triangles, positions, rows: own }) => ({
					triangles: sum.triangles + (triangles.length / 3) * own.length,
					bytes: sum.bytes + positions.byteLength
				}),
				{ triangles: 0, bytes: 0 }
			);
		case 'joined':
			return { triangles: JOINED_TRIANGLES * geometry.rows.length, bytes: geometry.ends.byteLength };
	}
}

/** Above these somebody is asked before a run. */
const HEAVY_MS = 8000;
const HEAVY_BYTES = 1e9;

export const isHeavy = ({ ms, bytes }: Work): boolean => ms > HEAVY_MS || bytes > HEAVY_BYTES;

/** A run that waits for somebody to say so. */
export class HeavyRun extends ZygasterError {
	readonly work: Work;

	constructor(work: Work) {
		super('heavy', `This run makes ${workInWords(work)}.`);
		this.work = work;
	}
}

/** Throws a ZygasterError with code `too-large` for a run that needs more than `most` bytes. */
export function refuseTooLarge(work: Work, most: number): void {
	if (work.bytes > most)
		throw new ZygasterError(
			'too-large',
			`This run would make ${workInWords(work)}; at most ${gigabytes(most)} are there. Right would be fewer cells, or a simpler kit.`
		);
}

const gigabytes = (bytes: number) => `${group(bytes / 1e9, 1)} GB`;

/** What a run comes to, for people. */
export function workInWords({ hosts, triangles, bytes, ms }: Work): string {
	const time = ms < 1000 ? 'less than a second' : `about ${group(ms / 1000, 0)} s`;
	return `parts on ${group(hosts, 0)} hosts, ${group(triangles / 1e6, 1)} million triangles, about ${gigabytes(bytes)} and ${time} of work`;
}
