import { base64 } from '@scure/base';

/** Digits that a number has at least. */
const DIGITS = 3;
const markOf = (letter: string, number: number) => `${letter}-${String(number).padStart(DIGITS, '0')}`;
const numberIn = (mark: string) => Number(mark.slice(mark.indexOf('-') + 1));
const letterIn = (mark: string) => mark.slice(0, mark.indexOf('-'));

/** 32 bits of what a piece is known by (FNV-1a of its UTF-16 units: Fowler, Noll and Vo). */
export function hashOfKey(key: string): number {
	let hash = 0x811c9dc5;
	for (let k = 0; k < key.length; k++) hash = Math.imul(hash ^ key.charCodeAt(k), 0x01000193);
	return hash >>> 0;
}

/** By mark what the type's pieces are known by, as text: rising hashes, 4 bytes each, the lowest byte first. */
export function fixNumbers(
	marks: readonly string[],
	hashesOf: (type: number) => Iterable<number>
): Record<string, string> {
	return Object.fromEntries(
		marks.map((mark, t) => {
			const hashes = Uint32Array.from(hashesOf(t)).sort();
			const bytes = new DataView(new ArrayBuffer(hashes.length * 4));
			hashes.forEach((hash, k) => bytes.setUint32(k * 4, hash, true));
			return [mark, base64.encode(new Uint8Array(bytes.buffer))];
		})
	);
}

function* hashesIn(text: string): Iterable<number> {
	const bytes = base64.decode(text);
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	for (let k = 0; k + 4 <= bytes.byteLength; k += 4) yield view.getUint32(k, true);
}

/**
 * Marks for types, given by their letters. A type keeps the fixed number whose pieces it has, as long as it has more than half
 * of those that are still there; those without one get the next numbers that were never used, in order. O(pieces).
 */
export function numberTypes(
	letters: readonly string[],
	fixed: Readonly<Record<string, string>>,
	hashesOf: (type: number) => Iterable<number>
): string[] {
	const marks: (string | undefined)[] = letters.map(() => undefined);
	const last = new Map<string, number>();
	const old = Object.keys(fixed);
	const before = new Map<number, number>();
	old.forEach((mark, m) => {
		last.set(letterIn(mark), Math.max(last.get(letterIn(mark)) ?? 0, numberIn(mark)));
		for (const hash of hashesIn(fixed[mark]!)) before.set(hash, m);
	});
	if (old.length) {
		const living = new Uint32Array(old.length);
		const shared: { type: number; mark: number; pieces: number }[] = [];
		letters.forEach((letter, type) => {
			const counts = new Map<number, number>();
			for (const hash of hashesOf(type)) {
				const mark = before.get(hash);
				if (mark !== undefined) counts.set(mark, (counts.get(mark) ?? 0) + 1);
			}
			for (const [mark, pieces] of counts) {
				living[mark]! += pieces;
				if (letterIn(old[mark]!) === letter) shared.push({ type, mark, pieces });
			}
		});
		// A type that has most of two keeps the number of which it has more.
		shared.sort((a, b) => b.pieces - a.pieces || a.mark - b.mark);
		for (const { type, mark, pieces } of shared) if (pieces * 2 > living[mark]!) marks[type] ??= old[mark]!;
	}
	return letters.map((letter, t) => {
		const kept = marks[t];
		if (kept) return kept;
		const number = (last.get(letter) ?? 0) + 1;
		last.set(letter, number);
		return markOf(letter, number);
	});
}
