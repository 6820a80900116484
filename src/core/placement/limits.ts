import { hypot } from '../elementary/index.ts';
import { newell } from '../geometry/newell.ts';
import type { KitResult, PartGeometry } from '../kit/result.ts';
import { allSteps, type Kit, type KitParameter } from '../kit/schema.ts';
import { takesCorners } from '../kit/corners.ts';
import { meshVolume } from '../kit/mesh.ts';
import { trialHostsFor, type TrialHost } from '../kit/trialHosts.ts';
import type { GivenValues } from '../kit/values.ts';
import { crossingSides } from '../tiling/openings/rings.ts';
import { evaluateTrial, type TrialOptions } from './trial.ts';
import { VANISHED_SIDE_MM } from '../tolerances.ts';

/** One run at the limits that failed or gave something degenerate. */
export interface LimitFault {
	readonly host: TrialHost;
	/** Values that differ from the defaults. */
	readonly values: GivenValues;
	readonly step: string;
	readonly what: string;
}

export interface LimitReport {
	readonly runs: number;
	readonly faults: readonly LimitFault[];
	/** Milliseconds a host, on average. */
	readonly time: number;
}

/** Faults that are listed at most for one step and one reason. */
const MOST_ALIKE = 5;
/** Pairs of limits are tried up to so many parameters. */
const MOST_PAIRED = 6;

/** The sets of values at the limits of the parameters: each alone, all together, and in pairs where there are few. */
export function limitValues(kit: Kit): GivenValues[] {
	const ends = kit.parameters.flatMap((p) => endsOf(p).map((value) => ({ name: p.name, value })));
	const numeric = kit.parameters.filter((p) => endsOf(p).length > 0);
	const all = (which: 0 | 1) => Object.fromEntries(numeric.map((p) => [p.name, endsOf(p)[which] ?? endsOf(p)[0]!]));
	const pairs =
		numeric.length <= MOST_PAIRED
			? ends.flatMap((a, k) =>
					ends.slice(k + 1).flatMap((b) => (a.name === b.name ? [] : [{ [a.name]: a.value, [b.name]: b.value }]))
				)
			: [];
	const sets: GivenValues[] = [
		{},
		...ends.map(({ name, value }) => ({ [name]: value })),
		...pairs,
		...(numeric.length > 1 ? [all(0), all(1)] : [])
	];
	return [...new Map(sets.map((s) => [JSON.stringify(s), s])).values()];
}

function endsOf(p: KitParameter): number[] {
	if (p.quantity === 'choice') return p.choices.map((_, k) => k).filter((k) => k !== p.default);
	if (!('least' in p)) return [];
	return [p.least, p.greatest].filter((value) => value !== p.default);
}

/** Hosts that a kit is made for, from the plain to the odd. */
export const hostsFor = ({ host }: Pick<Kit, 'host'>): TrialHost[] =>
	trialHostsFor(host).filter(({ kind, points }) =>
		takesCorners(host, kind === 'box' ? points.length / 2 : points.length)
	);

/**
 * Runs a kit over the limits of its parameters and over odd hosts, and lists what failed or degenerated. `pause` is
 * awaited now and then with the share done; it answers whether to go on.
 */
export async function tryLimits(
	kit: Kit,
	options: TrialOptions,
	extra: readonly TrialHost[],
	pause: (share: number) => Promise<boolean>
): Promise<LimitReport> {
	const hosts = [...hostsFor(kit), ...extra];
	const sets = limitValues(kit);
	const faults: LimitFault[] = [];
	const alike = new Map<string, number>();
	const { now = () => 0, ...untimed } = options;
	let [runs, spent] = [0, 0];
	let told = now();
	for (const values of sets)
		for (const host of hosts) {
			const start = now();
			const ran = evaluateTrial(kit, values, host, untimed);
			spent += now() - start;
			runs++;
			const found = 'error' in ran ? [{ step: ran.error.step ?? '', what: ran.error.message }] : faultsOf(ran.result);
			for (const { step, what } of found) {
				const count = (alike.get(`${step}|${what}`) ?? 0) + 1;
				alike.set(`${step}|${what}`, count);
				if (count <= MOST_ALIKE) faults.push({ host, values, step, what });
			}
			if (now() - told < PAUSE_MS) continue;
			if (!(await pause(runs / (sets.length * hosts.length)))) return { runs, faults, time: spent / runs };
			told = now();
		}
	return { runs, faults, time: spent / Math.max(1, runs) };
}

const PAUSE_MS = 40;

function faultsOf(result: KitResult): { step: string; what: string }[] {
	const found = result.failures.map(({ step, reason }) => ({ step, what: reason }));
	return [...found, ...degenerate(result)];
}

/** What came out, but not as anyone would want it. */
function degenerate({ program, points, hosts, parts, inner, values }: KitResult): { step: string; what: string }[] {
	const found: { step: string; what: string }[] = [];
	for (const [step, line] of program.lines) {
		if (!line.closed || line.count > MOST_CROSSED) continue;
		for (let row = 0; row < hosts.length; row++) {
			const start = (row * program.pointsPerHost + line.first) * 3;
			const ring = points.subarray(start, start + line.count * 3);
			if (!ring.every(Number.isFinite)) continue;
			if (crossesItself(ring)) found.push({ step, what: 'the line crosses itself' });
		}
	}
	for (const [name, column] of values) {
		const step = allSteps(program.kit).find((s) => s.name === name);
		if (step?.kind === 'value' && (step.quantity === 'length' || step.quantity === 'area') && column.some((v) => v < 0))
			found.push({ step: name, what: `the ${step.quantity} is below 0` });
	}
	for (const { step, geometry, area, pieces } of parts) {
		for (let row = 0; row < hosts.length; row++)
			if (pieces[row]! > 0 && !(area[row]! > 0)) found.push({ step: step.name, what: 'the part has no area' });
		if (insideOut(geometry)) found.push({ step: step.name, what: 'the body is inside out' });
	}
	const first = new Map(found.map((f) => [`${f.step}|${f.what}`, f]));
	return [...first.values(), ...inner.flatMap(degenerate)];
}

/** Lines of more corners are curves, whose pieces may come very near each other. */
const MOST_CROSSED = 64;

/** Whether a ring crosses itself, seen along the axis that its plane is most square to. */
function crossesItself(ring: Float64Array): boolean {
	const normal = newell(ring, ring.length / 3, (k) => k * 3).map(Math.abs);
	const along = normal.indexOf(Math.max(...normal));
	const [d, e] = [(along + 1) % 3, (along + 2) % 3] as const;
	const flat: [number, number][] = [];
	for (let k = 0; k < ring.length; k += 3) {
		const p: [number, number] = [ring[k + d]!, ring[k + e]!];
		const last = flat.at(-1);
		// Sides that have vanished leave points on top of each other.
		if (!last || hypot(p[0] - last[0], p[1] - last[1]) > VANISHED_SIDE_MM) flat.push(p);
	}
	if (flat.length > 1 && hypot(flat[0]![0] - flat.at(-1)![0], flat[0]![1] - flat.at(-1)![1]) <= VANISHED_SIDE_MM)
		flat.pop();
	return flat.length > 3 && crossingSides(flat) !== undefined;
}

function insideOut(geometry: PartGeometry): boolean {
	if (geometry.kind === 'fitted')
		return geometry.sets.some(({ positions, triangles, rows }) => {
			const size = positions.length / rows.length;
			return Array.from(rows).some(
				(_, k) => meshVolume({ positions: positions.subarray(k * size, (k + 1) * size), triangles }) < 0
			);
		});
	if (geometry.kind === 'instances')
		return Array.from(geometry.rows).some((_, k) => determinant(geometry.transforms.subarray(k * 12, k * 12 + 9)) < 0);
	return false;
}

const determinant = (m: Float64Array) =>
	m[0]! * (m[4]! * m[8]! - m[5]! * m[7]!) -
	m[3]! * (m[1]! * m[8]! - m[2]! * m[7]!) +
	m[6]! * (m[1]! * m[5]! - m[2]! * m[4]!);
