/**
 * Where stages take their large arrays from. The contents of a fresh or reused array are not defined:
 * a stage writes every element.
 */
export interface ArraySource {
	float64(length: number): Float64Array;
	uint32(length: number): Uint32Array;
	int32(length: number): Int32Array;
	uint8(length: number): Uint8Array;
	/** Says that nobody uses arrays of this source any more, such as those of an intermediate result; which need not be said. */
	spare(...arrays: readonly Bulk[]): void;
}

type Bulk = Float64Array | Uint32Array | Int32Array | Uint8Array;

/** New arrays each time, for hosts that run a project once. */
export const FRESH_ARRAYS: ArraySource = {
	float64: (length) => new Float64Array(length),
	uint32: (length) => new Uint32Array(length),
	int32: (length) => new Int32Array(length),
	uint8: (length) => new Uint8Array(length),
	spare: () => undefined
};

/** The first elements of an array of a source in one that has no room for more; the array itself where these are all. */
export function firstOf<T extends Bulk>(arrays: ArraySource, array: T, length: number): T {
	if (array.length === length) return array;
	const first = like(arrays, array, length);
	first.set(array.subarray(0, length));
	arrays.spare(array);
	return first as T;
}

function like(arrays: ArraySource, array: Bulk, length: number): Bulk {
	if (array instanceof Float64Array) return arrays.float64(length);
	if (array instanceof Uint32Array) return arrays.uint32(length);
	return array instanceof Int32Array ? arrays.int32(length) : arrays.uint8(length);
}

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
		const spare = (array: Bulk) => {
			const at = buffers.findIndex((buffer) => buffer === array.buffer);
			if (at >= 0) this.giveBack(buffers.splice(at, 1));
		};
		return {
			buffers,
			float64: (length) => new Float64Array(take(length * 8), 0, length),
			uint32: (length) => new Uint32Array(take(length * 4), 0, length),
			int32: (length) => new Int32Array(take(length * 4), 0, length),
			uint8: (length) => new Uint8Array(take(length), 0, length),
			spare: (...arrays) => arrays.forEach(spare)
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
