/** Multipliers of the hash: the golden ratio and a prime, both odd. */
const [FIRST, SECOND] = [0x9e3779b1, 0x85ebca6b];

/** Numbers by pairs of finite numbers, whose hash is open addressing over their bits: no text is made of them. 0 and -0 are the same. */
export class PairTable {
	private readonly bits = new Float64Array(2);
	private readonly words = new Uint32Array(this.bits.buffer);
	/** By place: the pair, stride 2. */
	private pairs = new Float64Array(32);
	/** By place: one more than the number there; 0 where there is none. */
	private numbers = new Uint32Array(16);
	private count = 0;

	/** The number of a pair; -1 where there is none. */
	get(a: number, b: number): number {
		return this.numbers[this.placeOf(a, b)]! - 1;
	}

	/** Forgets all pairs, and keeps the room for as many. */
	clear(): void {
		this.numbers.fill(0);
		this.count = 0;
	}

	/** Gives a pair a whole number from 0. */
	set(a: number, b: number, number: number): void {
		const place = this.placeOf(a, b);
		if (this.numbers[place] === 0 && ++this.count * 2 > this.numbers.length) {
			this.grow();
			this.put(this.placeOf(a, b), a, b, number);
		} else this.put(place, a, b, number);
	}

	private put(place: number, a: number, b: number, number: number): void {
		this.pairs[place * 2] = a;
		this.pairs[place * 2 + 1] = b;
		this.numbers[place] = number + 1;
	}

	/** Where a pair is, or would be. */
	private placeOf(a: number, b: number): number {
		const { bits, words, pairs, numbers } = this;
		bits[0] = a + 0;
		bits[1] = b + 0;
		let hash = Math.imul(Math.imul(words[0]! ^ (words[1]! >>> 7), FIRST) ^ words[1]!, SECOND);
		hash = Math.imul(hash ^ (hash >>> 15) ^ words[2]! ^ (words[3]! >>> 7), FIRST) ^ words[3]!;
		hash = Math.imul(hash ^ (hash >>> 13), SECOND);
		const mask = numbers.length - 1;
		let place = (hash ^ (hash >>> 16)) & mask;
		while (numbers[place] !== 0 && (pairs[place * 2] !== a || pairs[place * 2 + 1] !== b)) place = (place + 1) & mask;
		return place;
	}

	private grow(): void {
		const { pairs, numbers } = this;
		this.pairs = new Float64Array(pairs.length * 2);
		this.numbers = new Uint32Array(numbers.length * 2);
		for (let k = 0; k < numbers.length; k++)
			if (numbers[k] !== 0) {
				const [a, b] = [pairs[k * 2]!, pairs[k * 2 + 1]!];
				this.put(this.placeOf(a, b), a, b, numbers[k]! - 1);
			}
	}
}
