import { NEVER_PARTED_MM } from '../../tolerances.ts';

/** Pieces that may be alike: numbers in one order, mm, and the ways in which that order may run. */
export interface Sizes {
	/** `dims` a piece. */
	readonly values: Float64Array;
	readonly dims: number;
	/** By way to lay a piece on another: where each number comes from. The first leaves all as they are. */
	readonly turns: readonly Turn[];
	/** By number: how far two may differ and still be alike; `size` is the number, `whole` the largest of the piece. */
	readonly tolerance: (size: number, whole: number) => number;
}

export interface Turn {
	readonly from: Uint16Array;
	/** 1 or -1 by number; all are 1 when left out. */
	readonly signs?: Int8Array;
}

/** Pieces sorted into types. */
export interface Clusters {
	/** By piece: the number of its type, from 0: the most frequent first. */
	readonly typeOf: Uint32Array;
	/** By type: its pieces, the one that it is measured by, and by how much a piece differs from that one at most, mm. */
	readonly counts: Uint32Array;
	readonly models: Uint32Array;
	readonly deviation: Float64Array;
}

/**
 * Sorts pieces into types: the most frequent sizes first, each gathers what is alike within the tolerance and not yet
 * gathered. Where a type would end between two pieces that are nearer than a tenth of a mm it goes on, up to twice the
 * tolerance. The same pieces in any order give the same types. O(n log n + types * near ones).
 */
export function cluster(sizes: Sizes): Clusters {
	const { values, dims, turns } = sizes;
	const count = values.length / dims;
	const { leaders, leaderOf, weights, sums } = leadersOf(sizes);
	const orbits = orbitSums(sizes, leaders);
	/** How far two are apart at most, by the best turn; nothing where any number is off by more than its limit. */
	const apart = (a: number, b: number, limits: Float64Array): number => {
		let best = Infinity;
		for (const { from, signs } of turns) {
			let worst = 0;
			let d = 0;
			for (; d < dims; d++) {
				const other = values[b * dims + from[d]!]! * (signs ? signs[d]! : 1);
				const off = Math.abs(values[a * dims + d]! - other);
				if (off > limits[d]!) break;
				if (off > worst) worst = off;
			}
			if (d === dims && worst < best) best = worst;
		}
		return best;
	};
	const near = new Float64Array(dims).fill(NEVER_PARTED_MM);
	const left = new Untaken(sums);
	const typeOfLeader = new Int32Array(leaders.length);
	const types: { model: number; limits: Float64Array; weight: number }[] = [];
	const order = leaders.map((_, l) => l).sort((a, b) => weights[b]! - weights[a]! || a - b);
	for (const l of order) {
		if (left.isTaken(l)) continue;
		const model = leaders[l]!;
		const limits = limitsOf(sizes, model);
		const inner = limits.map((x) => x - NEVER_PARTED_MM);
		const wide = limits.map((x) => 2 * x);
		const type = { model, limits: wide, weight: 0 };
		const t = types.push(type) - 1;
		const shell: number[] = [];
		const take = (k: number) => {
			left.take(k);
			typeOfLeader[k] = t;
			type.weight += weights[k]!;
		};
		const reach = orbits.reach(limits);
		left.within(sums[l]!, sum(limits), (k) => {
			if (!orbits.near(l, k, reach) || apart(model, leaders[k]!, limits) === Infinity) return;
			take(k);
			if (apart(model, leaders[k]!, inner) === Infinity) shell.push(k);
		});
		const reachNear = orbits.reach(near);
		for (let k = shell.pop(); k !== undefined; k = shell.pop()) {
			const from = k;
			left.within(sums[from]!, NEVER_PARTED_MM * dims, (next) => {
				if (!orbits.near(from, next, reachNear) || apart(leaders[from]!, leaders[next]!, near) === Infinity) return;
				if (apart(model, leaders[next]!, wide) === Infinity) return;
				take(next);
				shell.push(next);
			});
		}
	}
	const rank = [...types.keys()].sort((a, b) => types[b]!.weight - types[a]!.weight || a - b);
	const place = new Uint32Array(types.length);
	rank.forEach((t, k) => (place[t] = k));
	const deviation = new Float64Array(types.length);
	const typeOf = new Uint32Array(count);
	for (let p = 0; p < count; p++) {
		const t = typeOfLeader[leaderOf[p]!]!;
		const { model, limits } = types[t]!;
		typeOf[p] = place[t]!;
		const off = p === model ? 0 : apart(model, p, limits);
		// What rounding alone has joined may lie a hair beyond.
		if (off < Infinity && off > deviation[place[t]!]!) deviation[place[t]!] = off;
	}
	return {
		typeOf,
		counts: Uint32Array.from(rank, (t) => types[t]!.weight),
		models: Uint32Array.from(rank, (t) => types[t]!.model),
		deviation
	};
}

function limitsOf({ values, dims, tolerance }: Sizes, p: number): Float64Array {
	let whole = 0;
	for (let d = 0; d < dims; d++) whole = Math.max(whole, Math.abs(values[p * dims + d]!));
	return Float64Array.from({ length: dims }, (_, d) => tolerance(Math.abs(values[p * dims + d]!), whole));
}

const sum = (list: Float64Array) => list.reduce((a, b) => a + b, 0);

/** Steps, mm, to which sizes are rounded where rounding errors alone are to be joined. */
const EXACT_PER_MM = 1000;

interface Leaders {
	/** Pieces that stand for all that are equal to them but for rounding, with rising sums of their sizes. */
	readonly leaders: readonly number[];
	readonly leaderOf: Uint32Array;
	readonly weights: Uint32Array;
	/** By leader, mm. */
	readonly sums: Float64Array;
}

function leadersOf({ values, dims }: Sizes): Leaders {
	const count = values.length / dims;
	const rounded = (p: number, d: number) => Math.round(values[p * dims + d]! * EXACT_PER_MM);
	const total = new Float64Array(count);
	for (let p = 0; p < count; p++) for (let d = 0; d < dims; d++) total[p]! += Math.abs(rounded(p, d));
	const compare = (a: number, b: number) => {
		if (total[a] !== total[b]) return total[a]! - total[b]!;
		for (let d = 0; d < dims; d++) {
			const off = rounded(a, d) - rounded(b, d);
			if (off !== 0) return off;
		}
		return 0;
	};
	const sorted = Uint32Array.from({ length: count }, (_, p) => p).sort((a, b) => compare(a, b) || a - b);
	const leaders: number[] = [];
	const leaderOf = new Uint32Array(count);
	const weights = new Uint32Array(count);
	for (const p of sorted) {
		if (leaders.length === 0 || compare(leaders.at(-1)!, p) !== 0) leaders.push(p);
		leaderOf[p] = leaders.length - 1;
		weights[leaders.length - 1]!++;
	}
	return { leaders, leaderOf, weights, sums: Float64Array.from(leaders, (p) => total[p]! / EXACT_PER_MM) };
}

/** Sums over numbers that turns move into each other: they are the same however a piece lies, so that most others are told at once. */
function orbitSums({ values, dims, turns }: Sizes, leaders: readonly number[]) {
	const orbit = new Int8Array(dims).fill(-1);
	let orbits = 0;
	for (let d = 0; d < dims; d++) {
		if (orbit[d]! >= 0) continue;
		const open = [d];
		for (let k = open.pop(); k !== undefined; k = open.pop()) {
			if (orbit[k]! >= 0) continue;
			orbit[k] = orbits;
			for (const { from } of turns) open.push(from[k]!);
		}
		orbits++;
	}
	const sums = new Float64Array(leaders.length * orbits);
	leaders.forEach((p, l) => {
		for (let d = 0; d < dims; d++) sums[l * orbits + orbit[d]!]! += Math.abs(values[p * dims + d]!);
	});
	return {
		/** How far sums may be apart where no number is off by more than its limit; of turned numbers the widest counts. */
		reach(limits: Float64Array): Float64Array {
			const out = new Float64Array(orbits);
			for (let d = 0; d < dims; d++) out[orbit[d]!]! += limits[d]!;
			return out;
		},
		near(a: number, b: number, reach: Float64Array): boolean {
			for (let o = 0; o < orbits; o++)
				if (!(Math.abs(sums[a * orbits + o]! - sums[b * orbits + o]!) <= reach[o]!)) return false;
			return true;
		}
	};
}

/** Leaders that no type has yet, in the order of their sums. */
class Untaken {
	private readonly sums: Float64Array;
	/** By leader: itself, or a later one to go on with. */
	private readonly next: Uint32Array;

	constructor(sums: Float64Array) {
		this.sums = sums;
		this.next = Uint32Array.from({ length: sums.length + 1 }, (_, l) => l);
	}

	isTaken = (l: number) => this.next[l] !== l;
	take(l: number): void {
		this.next[l] = l + 1;
	}

	within(sum: number, reach: number, visit: (leader: number) => void): void {
		let [low, high] = [0, this.sums.length];
		while (low < high) {
			const middle = (low + high) >> 1;
			if (this.sums[middle]! < sum - reach) low = middle + 1;
			else high = middle;
		}
		for (let l = this.free(low); l < this.sums.length && this.sums[l]! <= sum + reach; l = this.free(l + 1)) visit(l);
	}

	private free(l: number): number {
		const { next } = this;
		while (next[l] !== l) l = next[l] = next[next[l]!]!;
		return l;
	}
}
