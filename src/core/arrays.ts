/**
 * Where stages take their large arrays from. The contents of a fresh or reused array are not defined:
 * a stage writes every element.
 */
export interface ArraySource {
	float64(length: number): Float64Array;
	uint32(length: number): Uint32Array;
	int32(length: number): Int32Array;
}

/** New arrays each time, for hosts that run a project once. */
export const FRESH_ARRAYS: ArraySource = {
	float64: (length) => new Float64Array(length),
	uint32: (length) => new Uint32Array(length),
	int32: (length) => new Int32Array(length)
};

/** Smaller arrays are not worth keeping. */
const LEAST_BYTES = 16_384;
/** A buffer serves a request of at least this share of its size. */
const LEAST_FILL = 0.6;
/** Buffers kept at most; the oldest goes first. */
const MOST_BUFFERS = 256;

/** Arrays taken for one result, which go back to the pool together. */
export interface Lease extends ArraySource {
	readonly buffers: readonly ArrayBuffer[];
}

/**
 * Keeps the buffers of results that nobody holds any more and hands them out again: touching fresh
 * memory for the first time costs more than computing what goes into it.
 */
export class ArrayPool {
	private readonly free: ArrayBuffer[] = [];

	/** A source whose arrays belong to one result. */
	lease(): Lease {
		const buffers: ArrayBuffer[] = [];
		const take = (bytes: number) => {
			const buffer = this.take(bytes);
			if (buffer.byteLength >= LEAST_BYTES) buffers.push(buffer);
			return buffer;
		};
		return {
			buffers,
			float64: (length) => new Float64Array(take(length * 8), 0, length),
			uint32: (length) => new Uint32Array(take(length * 4), 0, length),
			int32: (length) => new Int32Array(take(length * 4), 0, length)
		};
	}

	/** Takes the buffers of a result back. Nobody may use its arrays after this. */
	giveBack(buffers: readonly ArrayBuffer[]): void {
		for (const buffer of buffers) {
			this.free.push(buffer);
			if (this.free.length > MOST_BUFFERS) this.free.shift();
		}
	}

	/** The smallest kept buffer that fits and is filled well, else a new one. */
	private take(bytes: number): ArrayBuffer {
		let best = -1;
		if (bytes >= LEAST_BYTES)
			for (let k = 0; k < this.free.length; k++) {
				const size = this.free[k]!.byteLength;
				if (size < bytes || bytes < size * LEAST_FILL) continue;
				if (best < 0 || size < this.free[best]!.byteLength) best = k;
			}
		return best < 0 ? new ArrayBuffer(bytes) : this.free.splice(best, 1)[0]!;
	}
}
