/** Even random numbers from 0 to less than 1, the same ones for the same seed. Source: mulberry32, T. Ettinger, public domain (from memory). */
export function randomFrom(seed: number): () => number {
	let state = seed >>> 0;
	return () => {
		state = (state + 0x6d2b79f5) >>> 0;
		let t = Math.imul(state ^ (state >>> 15), 1 | state);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
	};
}

/** An even random number from 0 to less than 1 for some whole numbers, the same one for the same seed and numbers: the mixing steps of mulberry32, number by number. */
export function randomAt(seed: number, ...numbers: readonly number[]): number {
	let state = mixed(seed >>> 0);
	for (const n of numbers) state = mixed((Math.imul(state ^ (n | 0), 0x85ebca6b) + 0x6d2b79f5) >>> 0);
	return state / 4_294_967_296;
}

function mixed(state: number): number {
	let t = Math.imul(state ^ (state >>> 15), 1 | state);
	t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
	return (t ^ (t >>> 14)) >>> 0;
}
