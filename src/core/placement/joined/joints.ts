import { norm } from '../../elementary/index.ts';
import { dot, scaled, wayAt } from '../../geometry/vectors.ts';
import type { Point } from '../../geometry/curve.ts';
import { COINCIDENT_MM } from '../../tolerances.ts';

/** Round bars that are joined where their ends meet. */
export interface RoundBars {
	/** Start and end, mm, 6 a bar. */
	readonly ends: Float64Array;
	/** By bar, mm. */
	readonly radius: Float64Array;
	/** How far two bars flow into each other, as a share of the radius. */
	readonly softness: number;
}

/** One end of a bar at a node. */
export interface Arm {
	readonly bar: number;
	/** 0 at its start, 1 at its end. */
	readonly end: 0 | 1;
	/** Unit way from the node along the bar. */
	readonly way: Point;
	readonly radius: number;
	/** Where the round bar begins and the joint ends, mm from the node. */
	setBack: number;
}

export interface Joint {
	readonly at: Point;
	/** How far from their surfaces the arms flow into each other, mm. */
	blend: number;
	readonly arms: Arm[];
}

export interface Joints {
	readonly joints: readonly Joint[];
	/** Bars that have no room for their joints, with the length that those take, mm. */
	readonly failed: readonly { readonly bar: number; readonly length: number; readonly taken: number }[];
}

/** Bars flow into each other by so much of their radius at least, so that the joint is smooth at all. */
const LEAST_SOFTNESS = 0.1;
/** What the joints may take of a bar at most. */
const MOST_TAKEN = 0.98;
/** A joint's section lies clear of the others by so much of the radius. */
const CLEAR = 0.02;
const MOST_ROUNDS = 64;

/**
 * Where bars meet and how far each joint reaches along them. Where a bar is too short for soft joints they are made as hard
 * as they can be; where it is too short for those, too, the bar is left out and told. O(bars * valence^2).
 */
export function jointsOf(bars: RoundBars): Joints {
	const { nodeOf, at } = endsTogether(bars.ends);
	const count = bars.radius.length;
	const lengths = Array.from({ length: count }, (_, k) => norm(wayAt(bars.ends, k * 6, k * 6 + 3)));
	const hard = new Uint8Array(at.length);
	const out = new Set<number>();
	const failed: { bar: number; length: number; taken: number }[] = [];
	for (let bar = 0; bar < count; bar++)
		if (!(lengths[bar]! > COINCIDENT_MM && nodeOf[bar * 2] !== nodeOf[bar * 2 + 1])) {
			out.add(bar);
			failed.push({ bar, length: lengths[bar]!, taken: 2 * bars.radius[bar]! });
		}
	const joints = at.map((p): Joint => ({ at: p, blend: 0, arms: [] }));
	for (let bar = 0; bar < count; bar++)
		if (!out.has(bar))
			for (const end of [0, 1] as const) {
				const way = wayAt(bars.ends, bar * 6, bar * 6 + 3);
				joints[nodeOf[bar * 2 + end]!]!.arms.push({
					bar,
					end,
					way: scaled(way, (end === 0 ? 1 : -1) / lengths[bar]!),
					radius: bars.radius[bar]!,
					setBack: 0
				});
			}
	let changed = new Set(joints.keys());
	while (changed.size) {
		for (const n of changed) settle(joints[n]!, hard[n] ? LEAST_SOFTNESS : Math.max(LEAST_SOFTNESS, bars.softness));
		changed = new Set();
		const taken = new Float64Array(count);
		for (const { arms } of joints) for (const { bar, setBack } of arms) taken[bar]! += setBack;
		const short = [...taken.keys()].filter((bar) => taken[bar]! > MOST_TAKEN * lengths[bar]!);
		for (const bar of short)
			for (const n of [nodeOf[bar * 2]!, nodeOf[bar * 2 + 1]!])
				if (!hard[n]) {
					hard[n] = 1;
					changed.add(n);
				}
		if (changed.size) continue;
		// The worst first, and not two of one node at once: one may have room when the other is gone.
		short.sort((a, b) => taken[b]! / lengths[b]! - taken[a]! / lengths[a]! || a - b);
		for (const bar of short) {
			const nodes = [nodeOf[bar * 2]!, nodeOf[bar * 2 + 1]!];
			if (nodes.some((n) => changed.has(n))) continue;
			failed.push({ bar, length: lengths[bar]!, taken: taken[bar]! });
			for (const n of nodes) {
				const { arms } = joints[n]!;
				arms.splice(
					arms.findIndex((arm) => arm.bar === bar),
					1
				);
				changed.add(n);
			}
		}
	}
	return { joints: joints.filter(({ arms }) => arms.length), failed: failed.sort((a, b) => a.bar - b.bar) };
}

/** Which ends of bars are the same point: by end, the number of its node. O(ends). */
function endsTogether(ends: Float64Array): { readonly nodeOf: Uint32Array; readonly at: Point[] } {
	const at: Point[] = [];
	const nodeOf = new Uint32Array(ends.length / 3);
	const boxes = new Map<string, number[]>();
	for (let e = 0; e < nodeOf.length; e++) {
		const p: Point = [ends[e * 3]!, ends[e * 3 + 1]!, ends[e * 3 + 2]!];
		const box = p.map((x) => Math.floor(x / (2 * COINCIDENT_MM)));
		// Points nearer than half a box lie in the same one or the next, in each direction.
		let found: number | undefined;
		for (let k = 0; k < 27 && found === undefined; k++)
			found = boxes
				.get(`${box[0]! + (k % 3) - 1} ${box[1]! + (Math.floor(k / 3) % 3) - 1} ${box[2]! + Math.floor(k / 9) - 1}`)
				?.find((n) => norm([at[n]![0] - p[0], at[n]![1] - p[1], at[n]![2] - p[2]]) <= COINCIDENT_MM);
		if (found === undefined) {
			found = at.push(p) - 1;
			const key = box.join(' ');
			const there = boxes.get(key);
			if (there) there.push(found);
			else boxes.set(key, [found]);
		}
		nodeOf[e] = found;
	}
	return { nodeOf, at };
}

/** How far the joint reaches along each of its arms: so far that each arm's section there is round and lies clear of all others. */
function settle(joint: Joint, softness: number): void {
	const { arms } = joint;
	joint.blend = softness * arms.reduce((most, { radius }) => Math.max(most, radius), 0);
	for (const arm of arms) {
		arm.setBack = 0;
		for (const other of arms) if (other !== arm) arm.setBack = Math.max(arm.setBack, clearOf(arm, other, joint.blend));
	}
	// Every other section must lie behind the plane of this one, so that it is a face of their hull.
	for (let round = 0, moved = true; moved && round < MOST_ROUNDS; round++) {
		moved = false;
		for (const arm of arms)
			for (const other of arms) {
				if (other === arm) continue;
				const [c, s] = between(arm, other);
				const least = other.setBack * c + other.radius * s + CLEAR * arm.radius;
				if (arm.setBack >= least) continue;
				arm.setBack = least * (1 + CLEAR);
				moved = true;
			}
	}
}

/** Where the section of an arm is further from another's surface than the two flow together, mm from the node. */
function clearOf(arm: Arm, other: Arm, blend: number): number {
	const [c, s] = between(arm, other);
	const reach = other.radius + blend;
	const beside = s > 0 ? (reach + arm.radius * c) / s : Infinity;
	// Where the nearest point of the section lies beside the other; behind its end it is the node that is near.
	if (beside * c + arm.radius * s > 0) return beside;
	return Math.sqrt(Math.max(0, reach * reach - arm.radius * arm.radius));
}

/** Cosine and sine of the angle between two arms. */
function between(a: Arm, b: Arm): readonly [number, number] {
	const c = Math.max(-1, Math.min(1, dot(a.way, b.way)));
	return [c, Math.sqrt(1 - c * c)];
}
