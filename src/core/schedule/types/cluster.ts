import { inOrderOf } from '../../lists.ts';
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
	const { leaders, leaderOf, weights } = leadersOf(sizes);
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
	const reachNear = orbits.reach(near);
	const usual = leaders[leaders.length >> 1];
	const left = new Untaken(orbits, usual === undefined ? near : orbits.reach(limitsOf(sizes, usual)));
	const typeOfLeader = new Int32Array(leaders.length);
	/** By type: its model, how many pieces it has, and how far these may be off it at most, where it has any besides. */
	const models: number[] = [];
	const counts: number[] = [];
	const wide: (Float64Array | undefined)[] = [];
	const wideOf = (t: number) => (wide[t] ??= limitsOf(sizes, models[t]!, 2));
	const take = (k: number, t: number) => {
		left.take(k);
		typeOfLeader[k] = t;
		counts[t]! += weights[k]!;
	};
	const order = inOrderOf(Float64Array.from(leaders, (_, l) => -weights[l]!));
	const [limits, reach] = [new Float64Array(dims), new Float64Array(orbits.sums.length)];
	for (const l of order) {
		if (left.isTaken(l)) continue;
		const model = leaders[l]!;
		const t = models.push(model) - 1;
		counts.push(0);
		take(l, t);
		limitsOf(sizes, model, 1, 0, limits);
		const shell: number[] = [];
		let inner: Float64Array | undefined;
		left.within(l, orbits.reach(limits, reach), (k) => {
			if (apart(model, leaders[k]!, limits) === Infinity) return;
			take(k, t);
			inner ??= limitsOf(sizes, model, 1, -NEVER_PARTED_MM);
			if (apart(model, leaders[k]!, inner) === Infinity) shell.push(k);
		});
		for (let from = shell.pop(); from !== undefined; from = shell.pop()) {
			const edge = leaders[from]!;
			left.within(from, reachNear, (next) => {
				if (apart(edge, leaders[next]!, near) === Infinity || apart(model, leaders[next]!, wideOf(t)) === Infinity)
					return;
				take(next, t);
				shell.push(next);
			});
		}
	}
	const rank = [...models.keys()].sort((a, b) => counts[b]! - counts[a]! || a - b);
	const place = new Uint32Array(models.length);
	rank.forEach((t, k) => (place[t] = k));
	const deviation = new Float64Array(models.length);
	const typeOf = new Uint32Array(count);
	for (let p = 0; p < count; p++) {
		const t = typeOfLeader[leaderOf[p]!]!;
		typeOf[p] = place[t]!;
		if (p === models[t]) continue;
		const off = apart(models[t]!, p, wideOf(t));
		// What rounding alone has joined may lie a hair beyond.
		if (off < Infinity && off > deviation[place[t]!]!) deviation[place[t]!] = off;
	}
	return {
		typeOf,
		counts: Uint32Array.from(rank, (t) => counts[t]!),
		models: Uint32Array.from(rank, (t) => models[t]!),
		deviation
	};
}

/** By number of a piece: so many times its tolerance, and a bit more. */
function limitsOf(
	{ values, dims, tolerance }: Sizes,
	p: number,
	times = 1,
	more = 0,
	limits = new Float64Array(dims)
): Float64Array {
	let whole = 0;
	for (let d = 0; d < dims; d++) whole = Math.max(whole, Math.abs(values[p * dims + d]!));
	for (let d = 0; d < dims; d++) limits[d] = tolerance(Math.abs(values[p * dims + d]!), whole) * times + more;
	return limits;
}

/** Steps, mm, to which sizes are rounded where rounding errors alone are to be joined. */
const EXACT_PER_MM = 1000;

interface Leaders {
	/** Pieces that stand for all that are equal to them but for rounding. */
	readonly leaders: readonly number[];
	readonly leaderOf: Uint32Array;
	readonly weights: Uint32Array;
}

function leadersOf({ values, dims }: Sizes): Leaders {
	const count = values.length / dims;
	const rounded = values.slice();
	for (let k = 0; k < rounded.length; k++) rounded[k] = Math.round(rounded[k]! * EXACT_PER_MM);
	const total = new Float64Array(count);
	for (let p = 0, k = 0; p < count; p++) {
		let sum = 0;
		for (let d = 0; d < dims; d++, k++) sum += Math.abs(rounded[k]!);
		total[p] = sum;
	}
	const compare = (a: number, b: number) => {
		if (total[a] !== total[b]) return total[a]! - total[b]!;
		for (let i = a * dims, j = b * dims, end = i + dims; i < end; i++, j++)
			if (rounded[i] !== rounded[j]) return rounded[i]! - rounded[j]!;
		return 0;
	};
	const sorted = inOrderOf(total);
	// Those of the same total, by their numbers.
	for (let from = 0; from < count;) {
		let to = from + 1;
		while (to < count && total[sorted[to]!] === total[sorted[from]!]) to++;
		if (to - from > 1) sorted.subarray(from, to).sort((a, b) => compare(a, b) || a - b);
		from = to;
	}
	const leaders: number[] = [];
	const leaderOf = new Uint32Array(count);
	const weights = new Uint32Array(count);
	for (const p of sorted) {
		if (leaders.length === 0 || compare(leaders.at(-1)!, p) !== 0) leaders.push(p);
		leaderOf[p] = leaders.length - 1;
		weights[leaders.length - 1]!++;
	}
	return { leaders, leaderOf, weights };
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
	const sums = Array.from({ length: orbits }, () => new Float64Array(leaders.length));
	leaders.forEach((p, l) => {
		for (let d = 0; d < dims; d++) sums[orbit[d]!]![l]! += Math.abs(values[p * dims + d]!);
	});
	return {
		/** By orbit and leader, mm. */
		sums,
		/** How far sums may be apart where no number is off by more than its limit, by orbit. */
		reach(limits: Float64Array, out = new Float64Array(orbits)): Float64Array {
			out.fill(0);
			for (let d = 0; d < dims; d++) out[orbit[d]!]! += limits[d]!;
			return out;
		}
	};
}

/** A way across the grid: what it is measured by, where it begins, how wide its fields are, mm, and how many it has. */
interface Axis {
	readonly sums: Float64Array;
	readonly least: number;
	readonly width: number;
	readonly fields: number;
}

/** Fields of the grid a leader at most: sizes far apart make fields wider, not more. */
const FIELDS_PER_LEADER = 4;

/** Leaders that no type has yet, in a grid of the two sums that tell them apart best. */
class Untaken {
	private readonly sums: readonly Float64Array[];
	private readonly x: Axis;
	private readonly y: Axis;
	/** First of each field in `items`, and up to where those lie that may be untaken. */
	private readonly start: Uint32Array;
	private readonly end: Uint32Array;
	private readonly items: Uint32Array;
	private readonly taken: Uint8Array;

	/** `reach`: how far is usually looked, by orbit. */
	constructor({ sums }: ReturnType<typeof orbitSums>, reach: Float64Array) {
		const count = sums[0]!.length;
		this.sums = sums;
		this.taken = new Uint8Array(count);
		const ranges = sums.map((list, o) => {
			let [least, most] = [Infinity, -Infinity];
			for (const s of list) [least, most] = [Math.min(least, s), Math.max(most, s)];
			return { sums: list, least, length: most - least, fields: (most - least) / reach[o]!, reach: reach[o]! };
		});
		const best = [...ranges.keys()].sort((a, b) => ranges[b]!.fields - ranges[a]!.fields || a - b);
		// One sum alone stands for both.
		const [x, y] = [ranges[best[0]!]!, ranges[best[1] ?? best[0]!]!];
		let times = 2;
		const axis = ({ sums, least, length, reach }: typeof x): Axis => {
			const width = times * reach;
			return { sums, least, width, fields: count === 0 ? 1 : Math.floor(length / width) + 1 };
		};
		while (axis(x).fields * axis(y).fields > FIELDS_PER_LEADER * count + 1) times *= 2;
		[this.x, this.y] = [axis(x), axis(y)];
		this.start = new Uint32Array(this.x.fields * this.y.fields + 1);
		const field = Uint32Array.from({ length: count }, (_, l) =>
			this.fieldAt(this.along(this.x, l), this.along(this.y, l))
		);
		for (const f of field) this.start[f + 1]!++;
		for (let f = 1; f < this.start.length; f++) this.start[f]! += this.start[f - 1]!;
		this.end = this.start.slice(0, -1);
		this.items = new Uint32Array(count);
		field.forEach((f, l) => (this.items[this.end[f]!++] = l));
	}

	/** Which field along an axis a leader lies in, or what is so far off it; never beyond the ends. */
	private along({ sums, least, width, fields }: Axis, l: number, off = 0): number {
		return Math.min(fields - 1, Math.max(0, Math.floor((sums[l]! + off - least) / width)));
	}
	private fieldAt = (x: number, y: number) => x * this.y.fields + y;

	isTaken = (l: number) => this.taken[l] === 1;
	take(l: number): void {
		this.taken[l] = 1;
	}

	/** Visits those whose sums are all within reach of a leader's. */
	within(l: number, reach: Float64Array, visit: (leader: number) => void): void {
		const { x, y } = this;
		const [reachX, reachY] = [reach[this.sums.indexOf(x.sums)]!, reach[this.sums.indexOf(y.sums)]!];
		const [y0, y1] = [this.along(y, l, -reachY), this.along(y, l, reachY)];
		const x1 = this.along(x, l, reachX);
		for (let fx = this.along(x, l, -reachX); fx <= x1; fx++)
			for (let fy = y0; fy <= y1; fy++) this.visitField(this.fieldAt(fx, fy), l, reach, visit);
	}

	/** Those that have been taken go out of the field on the way. */
	private visitField(field: number, l: number, reach: Float64Array, visit: (leader: number) => void): void {
		const { sums, taken, items } = this;
		const to = this.end[field]!;
		let kept = this.start[field]!;
		for (let f = kept; f < to; f++) {
			const k = items[f]!;
			if (taken[k] === 1) continue;
			items[kept++] = k;
			let o = 0;
			while (o < sums.length && Math.abs(sums[o]![k]! - sums[o]![l]!) <= reach[o]!) o++;
			if (o === sums.length) visit(k);
		}
		this.end[field] = kept;
	}
}
