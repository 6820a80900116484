/** A typed array that grows, for results whose size is not known beforehand. */
export class Grow {
	private data: Float64Array;
	length = 0;

	constructor(capacity = 256) {
		this.data = new Float64Array(capacity);
	}

	push(value: number): void {
		if (this.length === this.data.length) this.reserve(1);
		this.data[this.length++] = value;
	}

	push3(x: number, y: number, z: number): void {
		if (this.length + 3 > this.data.length) this.reserve(3);
		this.data[this.length] = x;
		this.data[this.length + 1] = y;
		this.data[this.length + 2] = z;
		this.length += 3;
	}

	/** Room for so many more, from the offset that is returned. */
	take(count: number): number {
		if (this.length + count > this.data.length) this.reserve(count);
		this.length += count;
		return this.length - count;
	}

	/** The numbers so far, to be written through until the next one is added. */
	get values(): Float64Array {
		return this.data;
	}

	float64(): Float64Array {
		return this.data.slice(0, this.length);
	}

	uint32(): Uint32Array {
		const out = new Uint32Array(this.length);
		out.set(this.data.subarray(0, this.length));
		return out;
	}

	private reserve(more: number): void {
		const grown = new Float64Array(Math.max(this.data.length * 2, this.length + more));
		grown.set(this.data);
		this.data = grown;
	}
}
