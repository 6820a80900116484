import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import canonicalize from 'canonicalize';

/** Results kept for each slot: the present one and the one before, so that an undo is free. */
const KEPT = 2;

interface Remembered {
	readonly hash: string;
	readonly value: unknown;
}

/** Hash of plain data: SHA-256 of its canonical JSON (RFC 8785). */
export function hashOf(inputs: unknown): string {
	return bytesToHex(sha256(utf8ToBytes(canonicalize(inputs) ?? '')));
}

/** Remembers the result of each stage by a hash of its inputs. */
export class Memo {
	private readonly slots = new Map<string, Remembered[]>();

	/** The value for these inputs; computed when not remembered. A slot is a stage and its place. */
	get<T>(slot: string, hash: string, compute: () => T): T {
		const kept = this.slots.get(slot) ?? [];
		const found = kept.find((r) => r.hash === hash);
		const latest = found ?? { hash, value: compute() };
		this.slots.set(slot, [latest, ...kept.filter((r) => r !== found)].slice(0, KEPT));
		return latest.value as T;
	}

	/** Forgets every slot whose name is not in use any more, such as those of a deleted face. */
	keepOnly(slots: ReadonlySet<string>): void {
		for (const name of this.slots.keys()) if (!slots.has(name)) this.slots.delete(name);
	}
}
