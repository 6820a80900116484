/** How bars are bought and cut, mm. */
export interface Stock {
	/** Lengths that bars are delivered in. */
	readonly lengths: readonly number[];
	/** What a cut takes away. */
	readonly kerf: number;
	/** What is cut off both ends of a delivered bar together, before anything else. */
	readonly trim: number;
}

/** A delivered bar with what is cut from it. */
export interface StockBar {
	readonly length: number;
	/** Numbers of the pieces, the longest first. */
	readonly pieces: readonly number[];
	/** What is left, mm; kerfs and trim are gone from it. */
	readonly rest: number;
}

export interface CutList {
	readonly bars: readonly StockBar[];
	/** Pieces that are longer than the longest bar less its trim. */
	readonly tooLong: readonly number[];
	/** No plan can do with less delivered length than this, mm. */
	readonly atLeast: number;
}

/** Steps of the search for a better plan, at most. */
const MOST_STEPS = 200_000;

/**
 * Cuts pieces from delivered bars. Two plans are made, pieces going the longest first into the fullest bar that has room, or
 * each bar being filled as full as can be before the next; the better one is then bettered by trying all ways to fill bars, as far
 * as a fixed number of steps goes, so that small lists come out with the fewest bars. At last every bar is taken as short as it may
 * be. (Best fit decreasing: Johnson 1974; minimum bin slack: Gupta & Ho 1999; both memory.) `lengths` are of the pieces, mm.
 */
export function cutList(lengths: ArrayLike<number>, stock: Stock): CutList {
	const longest = Math.max(...stock.lengths);
	const room = longest - stock.trim + stock.kerf;
	const all = Array.from({ length: lengths.length }, (_, k) => k);
	const sizeOf = (k: number) => lengths[k]! + stock.kerf;
	const tooLong = all.filter((k) => sizeOf(k) > room);
	const pieces = all.filter((k) => sizeOf(k) <= room).sort((a, b) => lengths[b]! - lengths[a]! || a - b);
	const sizes = pieces.map(sizeOf);
	const total = sizes.reduce((a, b) => a + b, 0);
	const plans = [bestFit(sizes, room), fullBars(sizes, room)];
	let best = plans.reduce((a, b) => (b.length < a.length ? b : a));
	const fewest = Math.ceil((total - EPS_SHARE * room) / room);
	if (best.length > fewest) best = search(sizes, room, best, fewest);
	const rising = [...stock.lengths].sort((a, b) => a - b);
	const bars = best.map((bar): StockBar => {
		const used = bar.reduce((sum, k) => sum + sizes[k]!, 0) - stock.kerf;
		const length = rising.find((l) => l - stock.trim >= used)!;
		return { length, pieces: bar.map((k) => pieces[k]!), rest: length - stock.trim - used };
	});
	return { bars, tooLong, atLeast: pieces.length ? Math.max(total - stock.kerf, 0) + stock.trim : 0 };
}

/** Rounding of sums of lengths, as a share of a bar. */
const EPS_SHARE = 1 / 1_000_000;

function bestFit(sizes: readonly number[], room: number): number[][] {
	const bars: { left: number; pieces: number[] }[] = [];
	sizes.forEach((size, k) => {
		let found: (typeof bars)[number] | undefined;
		for (const bar of bars) if (bar.left >= size && (!found || bar.left < found.left)) found = bar;
		if (!found) bars.push((found = { left: room, pieces: [] }));
		found.left -= size;
		found.pieces.push(k);
	});
	return bars.map((b) => b.pieces);
}

/** Each bar with the longest piece that is left, and with those others that leave the least of it. */
function fullBars(sizes: readonly number[], room: number): number[][] {
	let left = sizes.map((_, k) => k);
	const bars: number[][] = [];
	let steps = MOST_STEPS;
	while (left.length) {
		const first = left[0]!;
		const others = left.slice(1);
		let [best, rest] = [[] as number[], room - sizes[first]!];
		const fill = (from: number, free: number, taken: number[]): void => {
			if (free < rest || taken.length === 0) [best, rest] = [[...taken], free];
			let last = -1;
			for (let k = firstWithin(others, sizes, from, free); k < others.length && steps > 0 && rest > 0; k++) {
				const size = sizes[others[k]!]!;
				steps--;
				// Equal pieces are tried once.
				if (size === last) continue;
				last = size;
				taken.push(others[k]!);
				fill(k + 1, free - size, taken);
				taken.pop();
			}
		};
		fill(0, rest, []);
		const bar = new Set([first, ...best]);
		bars.push([...bar]);
		left = left.filter((k) => !bar.has(k));
		// What is left over of the steps is shared by the bars to come.
		steps = Math.max(steps, MOST_STEPS / 100);
	}
	return bars;
}

/** The first of pieces, which fall in size, from a place on that is no longer than what is free. */
function firstWithin(pieces: readonly number[], sizes: readonly number[], from: number, free: number): number {
	let [low, high] = [from, pieces.length];
	while (low < high) {
		const middle = (low + high) >> 1;
		if (sizes[pieces[middle]!]! > free) low = middle + 1;
		else high = middle;
	}
	return low;
}

/** Looks for a plan with fewer bars, piece by piece into every bar that differs, as far as the steps go. */
function search(sizes: readonly number[], room: number, known: number[][], fewest: number): number[][] {
	let best = known;
	let steps = MOST_STEPS;
	const bars: { left: number; pieces: number[] }[] = [];
	const total = sizes.reduce((a, b) => a + b, 0);
	const place = (k: number, placed: number): void => {
		if (steps-- <= 0 || best.length === fewest || bars.length >= best.length) return;
		if (k === sizes.length) {
			best = bars.map((b) => [...b.pieces]);
			return;
		}
		const free = bars.reduce((sum, b) => sum + b.left, 0);
		if (bars.length + Math.ceil((total - placed - free) / room - EPS_SHARE) >= best.length) return;
		const tried = new Set<number>();
		for (const bar of bars) {
			if (bar.left < sizes[k]! || tried.has(bar.left)) continue;
			tried.add(bar.left);
			bar.left -= sizes[k]!;
			bar.pieces.push(k);
			place(k + 1, placed + sizes[k]!);
			bar.pieces.pop();
			bar.left += sizes[k]!;
		}
		if (bars.length + 1 < best.length) {
			bars.push({ left: room - sizes[k]!, pieces: [k] });
			place(k + 1, placed + sizes[k]!);
			bars.pop();
		}
	};
	// Deep lists would take more room than there is for so many calls within each other.
	if (sizes.length <= MOST_SEARCHED) place(0, 0);
	return best;
}
const MOST_SEARCHED = 400;
