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

/**
 * Keeps the buffers of arrays that nobody needs any more and hands them out again: touching fresh
 * memory for the first time costs more than computing what goes into it.
 */
export class ArrayPool implements ArraySource {
	private free: ArrayBuffer[] = [];
	/** Buffers of this pool that are in use; others are none of its business. */
	private readonly lent = new WeakSet<ArrayBuffer>();

	float64(length: number): Float64Array {
		return new Float64Array(this.take(length * 8), 0, length);
	}

	uint32(length: number): Uint32Array {
		return new Uint32Array(this.take(length * 4), 0, length);
	}

	int32(length: number): Int32Array {
		return new Int32Array(this.take(length * 4), 0, length);
	}

	/** Takes back every array of this pool within a plain value, but for buffers that somebody still holds. Nobody may use the others after this. */
	recycle(value: unknown, held: ReadonlySet<ArrayBuffer>): void {
		for (const buffer of buffersWithin(value)) {
			if (held.has(buffer) || !this.lent.delete(buffer)) continue;
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
		const buffer = best < 0 ? new ArrayBuffer(bytes) : this.free.splice(best, 1)[0]!;
		if (buffer.byteLength >= LEAST_BYTES) this.lent.add(buffer);
		return buffer;
	}
}

/** The buffers of all arrays within a plain value, added to those found. What stands in many places, as kits do, is looked through once. O(arrays). */
export function buffersWithin(
	value: unknown,
	found = new Set<ArrayBuffer>(),
	seen = new Set<object>()
): Set<ArrayBuffer> {
	if (ArrayBuffer.isView(value)) found.add(value.buffer as ArrayBuffer);
	else if (typeof value === 'object' && value !== null && !seen.has(value)) {
		seen.add(value);
		for (const part of value instanceof Map ? value.values() : Object.values(value))
			if (typeof part === 'object') buffersWithin(part, found, seen);
	}
	return found;
}
