import { FRESH_ARRAYS, type ArrayPool, type ArraySource } from '../arrays.ts';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import canonicalize from 'canonicalize';

/** Hash of plain data: SHA-256 of its canonical JSON (RFC 8785). */
export function hashOf(inputs: unknown): string {
	return bytesToHex(sha256(utf8ToBytes(canonicalize(inputs) ?? '')));
}

/** What a stage has made from inputs of a hash, with the pool's buffers that it took for it. */
export interface Result<T = unknown> {
	readonly hash: string;
	readonly value: T;
	readonly buffers: readonly ArrayBuffer[];
}

/** What an owner has come to as a whole, with all that it was made from as text. */
interface Known {
	readonly text: string;
	readonly value: unknown;
}

/**
 * Remembers the latest result of each stage by a hash of its inputs, owner by owner: faces, and masses. With a pool, a result that nobody holds any more gives all of its arrays back at once; who makes something of results keeps
 * them in `holds`, so that there is nothing to look through and nothing to forget.
 */
export class Memo {
	/** By owner, then by place within it. */
	private readonly results = new Map<string, Map<string, Result>>();
	private readonly wholes = new Map<string, Known>();
	/** Results that are not the latest any more, but whose arrays somebody may hold. */
	private replaced: Result[] = [];
	private readonly pool: ArrayPool | undefined;

	constructor(pool?: ArrayPool) {
		this.pool = pool;
	}

	/** The result for these inputs; computed when not remembered. What `compute` makes holds no arrays of the pool but those of its source. */
	async get<T>(
		owner: string,
		place: string,
		hash: string,
		compute: (arrays: ArraySource) => T | Promise<T>
	): Promise<Result<T>> {
		const places = this.results.get(owner) ?? new Map<string, Result>();
		const kept = places.get(place);
		if (kept?.hash === hash) return kept as Result<T>;
		const lease = this.pool?.lease();
		const result = { hash, value: await compute(lease ?? FRESH_ARRAYS), buffers: lease?.buffers ?? [] };
		if (kept) this.replaced.push(kept);
		this.results.set(owner, places.set(place, result));
		return result;
	}

	/** Whether the result for these inputs is remembered. */
	has(owner: string, place: string, hash: string): boolean {
		return this.results.get(owner)?.get(place)?.hash === hash;
	}

	/** What an owner came to when it was made from the same text. */
	known<T>(owner: string, text: string): T | undefined {
		const there = this.wholes.get(owner);
		return there?.text === text ? (there.value as T) : undefined;
	}

	/** Remembers what an owner has come to; its places that were not used for it are forgotten. */
	keep(owner: string, text: string, value: unknown, used: ReadonlySet<string>): void {
		this.wholes.set(owner, { text, value });
		const places = this.results.get(owner);
		for (const [place, kept] of places ?? [])
			if (!used.has(place)) {
				places!.delete(place);
				this.replaced.push(kept);
			}
	}

	/** Forgets all owners but these, such as faces that were deleted. */
	keepOnly(owners: ReadonlySet<string>): void {
		for (const owner of this.wholes.keys()) if (!owners.has(owner)) this.wholes.delete(owner);
		for (const [owner, places] of this.results)
			if (!owners.has(owner)) {
				this.results.delete(owner);
				for (const kept of places.values()) this.replaced.push(kept);
			}
	}

	/** Call when a new model has taken the place of the one before: arrays of replaced results that it does not hold are used again. */
	recycle(model: { readonly faces: readonly { readonly holds: readonly Result[] }[] }): void {
		const held = new Set(model.faces.flatMap((face) => face.holds));
		const free = this.replaced.filter((result) => !held.has(result));
		this.replaced = this.pool ? this.replaced.filter((result) => held.has(result)) : [];
		for (const { buffers } of free) this.pool?.giveBack(buffers);
	}
}
