import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';

const DIGITS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';

/** What belongs to one thing and wants a globally unique id of its own. */
export const PART = {
	own: 1,
	ownTo: 2,
	quantities: 3,
	quantitiesTo: 4,
	common: 5,
	commonTo: 6,
	aggregates: 7,
	code: 8
};

/**
 * 128 bits that a name always has, as the 22 characters of a globally unique id in IFC (ISO 16739-1, IfcGloballyUniqueId):
 * the first character holds two bits, the others six. `of` tells apart what belongs to one thing.
 */
export class GlobalIds {
	/** The first 20 characters, and the last 12 bits. */
	private readonly head: string;
	private readonly tail: number;

	constructor(name: string) {
		const bytes = sha256(utf8ToBytes(name)).subarray(0, 16);
		let head = DIGITS[bytes[0]! >> 6]!;
		let [held, bits] = [bytes[0]! & 63, 6];
		for (let k = 1; head.length < 20; k++) {
			held = (held << 8) | bytes[k]!;
			for (bits += 8; bits >= 6 && head.length < 20;) {
				bits -= 6;
				head += DIGITS[(held >> bits) & 63]!;
			}
			held &= (1 << bits) - 1;
		}
		this.head = `'${head}`;
		this.tail = ((bytes[14]! & 15) << 8) | bytes[15]!;
	}

	of(part = 0): string {
		const last = this.tail ^ part;
		return `${this.head}${DIGITS[last >> 6]}${DIGITS[last & 63]}'`;
	}
}
