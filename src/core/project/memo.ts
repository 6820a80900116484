import { buffersWithin, FRESH_ARRAYS, type ArrayPool, type ArraySource } from '../arrays.ts';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import canonicalize from 'canonicalize';

interface Remembered {
	readonly hash: string;
	readonly value: unknown;
}

/** Hash of plain data: SHA-256 of its canonical JSON (RFC 8785). */
export function hashOf(inputs: unknown): string {
	return bytesToHex(sha256(utf8ToBytes(canonicalize(inputs) ?? '')));
}

/**
 * Remembers the latest result of each stage by a hash of its inputs. With a pool of arrays, results that
 * have been replaced give theirs back once the host says that the model made of them is not used any more.
 */
export class Memo {
	private readonly slots = new Map<string, Remembered>();
	/** Results replaced since the last `recycle`, or still held then, by slot. */
	private readonly replaced = new Map<string, unknown[]>();
	private readonly pool: ArrayPool | undefined;

	constructor(pool?: ArrayPool) {
		this.pool = pool;
	}

	/** Where stages take their arrays from. */
	get arrays(): ArraySource {
		return this.pool ?? FRESH_ARRAYS;
	}

	/**
	 * The value for these inputs; computed when not remembered. A slot is a stage and its place.
	 * A value holds no arrays of the pool that another slot’s value holds too: they go back with it.
	 */
	get<T>(slot: string, hash: string, compute: () => T): T {
		const kept = this.slots.get(slot);
		if (kept?.hash === hash) return kept.value as T;
		const value = compute();
		this.slots.set(slot, { hash, value });
		if (kept) this.replace(slot, kept.value);
		return value;
	}

	private replace(slot: string, value: unknown): void {
		const waiting = this.replaced.get(slot);
		if (waiting) waiting.push(value);
		else this.replaced.set(slot, [value]);
	}

	/** Forgets every slot that is not in use any more, such as those of a deleted face. */
	keepOnly(used: (slot: string) => boolean): void {
		for (const [name, { value }] of this.slots)
			if (!used(name)) {
				this.slots.delete(name);
				this.replace(name, value);
			}
	}

	/**
	 * Call when a new model has taken the place of the one before: arrays of replaced results are used again, but for
	 * those that `model` or a remembered result still holds. A face whose division does not fit keeps its last good
	 * model, and with it arrays of results that have been replaced since; these wait until nobody holds them.
	 */
	recycle(model: unknown): void {
		if (!this.pool) return this.replaced.clear();
		const [held, seen] = [new Set<ArrayBuffer>(), new Set<object>()];
		buffersWithin(model, held, seen);
		for (const { value } of this.slots.values()) buffersWithin(value, held, seen);
		for (const [slot, values] of this.replaced) {
			const waiting = values.filter((value) => [...buffersWithin(value)].some((buffer) => held.has(buffer)));
			for (const value of values) this.pool.recycle(value, held);
			if (waiting.length) this.replaced.set(slot, waiting);
			else this.replaced.delete(slot);
		}
	}
}
