import { norm, cos, sin } from '../../elementary/index.ts';
import { wayAt, scaled } from '../../geometry/vectors.ts';
import type { Mesh } from '../../kit/mesh.ts';
import { signedVolume } from '../../mesh/triangleMesh.ts';
import { cageOf, RING, sectionAxes, type Cage } from './cage.ts';
import { jointMesh, type JointMesh } from './jointMesh.ts';
import { jointsOf, type Joint, type Joints, type RoundBars } from './joints.ts';

/** Bars that are joined, with how fine the body is to be. */
export interface JoinedBars extends RoundBars {
	/** How far the facets may lie within the round surface, mm. */
	readonly deviation: number;
}

/** The joined body: closed, without borders. */
export interface JoinedMesh extends Mesh {
	/** By point: the bar that it belongs to. */
	readonly barOf: Uint32Array;
}

/** What each bar has of the joined body, mm2 and mm3. */
export interface JoinedShares {
	readonly area: Float64Array;
	readonly volume: Float64Array;
}

/** Joints are measured with so many parts; what their facets lack of what is round is put on again. */
const MEASURED_LEVEL = 1;

interface Sound extends Joints {
	readonly cages: readonly Cage[];
	/** By joint, as finely as they are measured; kept where the screen shows them so. */
	readonly measured: JointMesh[];
}

const known = new WeakMap<JoinedBars, Sound>();

/** Joints whose cages are sound, worked out once. */
function soundJoints(bars: JoinedBars): Sound {
	const there = known.get(bars);
	if (there) return there;
	const axesOf = (bar: number) => {
		const way = wayAt(bars.ends, bar * 6, bar * 6 + 3);
		return sectionAxes(scaled(way, 1 / norm(way)));
	};
	const found = jointsOf(bars);
	const cages = found.joints.map((joint) => cageOf(joint, axesOf));
	const broken = found.joints.flatMap(({ arms }, k) => (cages[k] ? [] : arms.map(({ bar }) => bar)));
	const sound = broken.length
		? withoutBroken(bars, found, new Set(broken))
		: { ...found, cages: cages as Cage[], measured: [] };
	known.set(bars, sound);
	return sound;
}

/** The same without the bars of joints that have no sound cage. */
function withoutBroken(bars: JoinedBars, { failed }: Joints, broken: ReadonlySet<number>): Sound {
	const gone = new Set([...failed.map((f) => f.bar), ...broken]);
	const kept = [...bars.radius.keys()].filter((bar) => !gone.has(bar));
	const rest = soundJoints({
		...bars,
		ends: Float64Array.from(kept.flatMap((bar) => [...bars.ends.subarray(bar * 6, bar * 6 + 6)])),
		radius: Float64Array.from(kept, (bar) => bars.radius[bar]!)
	});
	return {
		cages: rest.cages,
		measured: [],
		joints: rest.joints.map((joint) => ({
			...joint,
			arms: joint.arms.map((arm) => ({ ...arm, bar: kept[arm.bar]! }))
		})),
		failed: [
			...failed,
			...rest.failed.map((f) => ({ ...f, bar: kept[f.bar]! })),
			...[...broken].map((bar) => ({
				bar,
				length: norm(wayAt(bars.ends, bar * 6, bar * 6 + 3)),
				taken: 2 * bars.radius[bar]!
			}))
		].sort((a, b) => a.bar - b.bar)
	};
}

/** Bars that have no room for their joints, and are left out of the body. */
export const failedBars = (bars: JoinedBars): Joints['failed'] => soundJoints(bars).failed;

const FINEST = 4;

/** How often the cage is parted so that facets lie within the round surface by the deviation at most. */
export function fineLevel({ radius, deviation }: JoinedBars): number {
	const most = radius.reduce((a, b) => Math.max(a, b), 0);
	let level = 0;
	while (level < FINEST && most * (1 - cos(Math.PI / (RING << level))) > deviation) level++;
	return level;
}

/** So many bars are shown with twice the sides of more. */
const FEW_BARS = 400;
/** How fine the body is on the screen. */
export const shownLevel = (bars: JoinedBars): number =>
	Math.min(fineLevel(bars), bars.radius.length <= FEW_BARS ? 1 : 0);

/** The skin of a joint, parted so often. */
const skinOf = ({ joints, cages, measured }: Sound, j: number, level: number): JointMesh =>
	(level === MEASURED_LEVEL ? measured[j] : undefined) ?? jointMesh(joints[j]!, cages[j]!, level);

/** The body with its cage parted so often: joints, and round bars between their rings. O(triangles). */
export function joinedMesh(bars: JoinedBars, level: number): JoinedMesh {
	const sound = soundJoints(bars);
	const { joints } = sound;
	const positions: number[] = [];
	const triangles: number[] = [];
	const barOf: number[] = [];
	/** By bar: the rings at its start and end. */
	const rings = new Map<number, (readonly number[])[]>();
	joints.forEach((joint, j) => {
		const first = positions.length / 3;
		const made = skinOf(sound, j, level);
		for (const x of made.points) positions.push(x);
		for (const t of made.triangles) triangles.push(first + t);
		for (let p = 0; p < made.points.length; p += 3) barOf.push(nearestArm(joint, made.points, p));
		joint.arms.forEach(({ bar, end }, a) => {
			const pair = rings.get(bar) ?? [];
			pair[end] = made.rings[a]!.map((p) => first + p);
			for (const p of pair[end]) barOf[p] = bar;
			rings.set(bar, pair);
		});
	});
	for (const [from, to] of rings.values())
		for (let k = 0; k < from!.length; k++) {
			const next = (k + 1) % from!.length;
			triangles.push(from![k]!, from![next]!, to![next]!, from![k]!, to![next]!, to![k]!);
		}
	return {
		positions: Float64Array.from(positions),
		triangles: Uint32Array.from(triangles),
		barOf: Uint32Array.from(barOf)
	};
}

/** The bar whose arm a point of a joint lies along most. */
function nearestArm({ at, arms }: Joint, points: readonly number[], o: number): number {
	let [best, bar] = [-Infinity, arms[0]!.bar];
	for (const arm of arms) {
		const { way } = arm;
		const along = (points[o]! - at[0]) * way[0] + (points[o + 1]! - at[1]) * way[1] + (points[o + 2]! - at[2]) * way[2];
		if (along > best) [best, bar] = [along, arm.bar];
	}
	return bar;
}

/**
 * Area and volume of the body, bar by bar: round between the joints, and of the joints their share by section and reach.
 * O(bars + triangles of joints).
 */
export function joinedShares(bars: JoinedBars): JoinedShares {
	const sound = soundJoints(bars);
	const { joints } = sound;
	const shown = shownLevel(bars) === MEASURED_LEVEL;
	const count = bars.radius.length;
	const [area, volume, taken] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)];
	const within = new Uint8Array(count);
	const sides = RING << MEASURED_LEVEL;
	const rounder = (2 * Math.PI) / sides / sin((2 * Math.PI) / sides);
	const longer = Math.PI / sides / sin(Math.PI / sides);
	joints.forEach((joint, j) => {
		for (const { bar, setBack } of joint.arms) {
			taken[bar]! += setBack;
			within[bar] = 1;
		}
		if (joint.arms.length === 1) {
			const { bar, radius } = joint.arms[0]!;
			area[bar]! += Math.PI * radius * radius;
			return;
		}
		const skin = skinOf(sound, j, MEASURED_LEVEL);
		if (shown) sound.measured[j] = skin;
		const { points, triangles, rings } = skin;
		// About the node; the sections close the skin.
		const local = new Float64Array(points.length);
		for (let k = 0; k < local.length; k++) local[k] = points[k]! - joint.at[k % 3]!;
		const size = (signedVolume({ positions: local, triangles: withLids(joint, triangles, rings) }) / 6) * rounder;
		const round = surfaceOf(local, triangles) * longer;
		const weights = joint.arms.map(({ radius, setBack }) => radius * radius * setBack);
		const all = weights.reduce((a, b) => a + b, 0);
		joint.arms.forEach(({ bar }, a) => {
			volume[bar]! += (size * weights[a]!) / all;
			area[bar]! += (round * weights[a]!) / all;
		});
	});
	for (let bar = 0; bar < count; bar++) {
		if (within[bar] === 0) continue;
		const r = bars.radius[bar]!;
		const long = norm(wayAt(bars.ends, bar * 6, bar * 6 + 3)) - taken[bar]!;
		area[bar]! += 2 * Math.PI * r * long;
		volume[bar]! += Math.PI * r * r * long;
	}
	return { area, volume };
}

/** Triangles of a skin with those that close its sections. */
function withLids({ arms }: Joint, triangles: readonly number[], rings: JointMesh['rings']): Uint32Array {
	const around = rings.reduce((n, ring) => n + ring.length - 2, 0);
	const out = new Uint32Array(triangles.length + around * 3);
	out.set(triangles);
	let t = triangles.length;
	arms.forEach(({ end }, a) => {
		const ring = rings[a]!;
		for (let k = 2; k < ring.length; k++) {
			out[t++] = ring[0]!;
			out[t++] = ring[end === 0 ? k - 1 : k]!;
			out[t++] = ring[end === 0 ? k : k - 1]!;
		}
	});
	return out;
}

function surfaceOf(p: Float64Array, triangles: readonly number[]): number {
	let sum = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const a = triangles[t]! * 3;
		const b = triangles[t + 1]! * 3;
		const c = triangles[t + 2]! * 3;
		const x = p[b]! - p[a]!;
		const y = p[b + 1]! - p[a + 1]!;
		const z = p[b + 2]! - p[a + 2]!;
		const u = p[c]! - p[a]!;
		const v = p[c + 1]! - p[a + 1]!;
		const w = p[c + 2]! - p[a + 2]!;
		const i = y * w - z * v;
		const j = z * u - x * w;
		const k = x * v - y * u;
		sum += Math.sqrt(i * i + j * j + k * k) / 2;
	}
	return sum;
}
