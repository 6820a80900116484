import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import type { ByteWriter } from '../byteWriter.ts';

const DIGITS = utf8ToBytes('0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$');
const QUOTE = 39;
/** Its characters, between quotes. */
const LENGTH = 24;

/** What belongs to one thing and wants a globally unique id of its own. */
export const PART = {
	itself: 0,
	own: 1,
	ownTo: 2,
	quantities: 3,
	quantitiesTo: 4,
	common: 5,
	commonTo: 6,
	aggregates: 7,
	code: 8
};

/** Used for one name after the other: to make one takes longer than to hash a name. */
const working = sha256.create();
const digest = new Uint8Array(working.outputLen);
const scratch = new Uint8Array(256);
const LAST_ASCII = 127;

/** A name as UTF-8, which holds until the next one. */
function bytesOf(name: string): Uint8Array {
	if (name.length > scratch.length) return utf8ToBytes(name);
	for (let k = 0; k < name.length; k++) {
		const code = name.charCodeAt(k);
		if (code > LAST_ASCII) return utf8ToBytes(name);
		scratch[k] = code;
	}
	return scratch.subarray(0, name.length);
}

/** Makes the global ids of things within a `scope`, such as a project, by their names. */
export function globalIdsIn(scope: string): (name: string) => GlobalIds {
	const begun = sha256.create().update(utf8ToBytes(`${scope} `));
	return (name) => {
		begun._cloneInto(working).update(bytesOf(name)).digestInto(digest);
		return new GlobalIds(digest.slice(0, 16));
	};
}

/**
 * 128 bits that a name always has, as the 22 characters of a globally unique id in IFC (ISO 16739-1, IfcGloballyUniqueId):
 * the first character holds two bits, the others six. `part` tells apart what belongs to one thing.
 */
export class GlobalIds {
	private readonly bytes: Uint8Array;

	constructor(bytes: Uint8Array) {
		this.bytes = bytes;
	}

	/** Writes the id of a part as a text of ISO 10303-21. */
	put(out: ByteWriter, part: number): void {
		const { bytes } = this;
		let at = out.begin(LENGTH);
		const { room } = out;
		const digit = (value: number) => room.setUint8(at++, DIGITS[value & 63]!);
		room.setUint8(at++, QUOTE);
		digit(bytes[0]! >> 6);
		digit(bytes[0]!);
		// Three bytes are four characters.
		for (let k = 1; k < bytes.length; k += 3) {
			const three = (bytes[k]! << 16) | (bytes[k + 1]! << 8) | bytes[k + 2]!;
			const told = k + 3 < bytes.length ? three : three ^ part;
			digit(told >> 18);
			digit(told >> 12);
			digit(told >> 6);
			digit(told);
		}
		room.setUint8(at++, QUOTE);
		out.end(at);
	}
}
