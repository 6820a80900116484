import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';

const DIGITS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';

/**
 * 128 bits that a name always has, as the 22 characters of a globally unique id in IFC (ISO 16739-1, IfcGloballyUniqueId):
 * the first character holds two bits, the others six. `of` tells apart what belongs to one thing.
 */
export class GlobalIds {
	private readonly bytes: Uint8Array;

	constructor(name: string) {
		this.bytes = sha256(utf8ToBytes(name)).subarray(0, 16);
	}

	of(part = 0): string {
		const { bytes } = this;
		let out = DIGITS[bytes[0]! >> 6]!;
		let [held, bits] = [bytes[0]! & 63, 6];
		for (let k = 1; k < 16; k++) {
			held = (held << 8) | (k === 15 ? bytes[k]! ^ part : bytes[k]!);
			bits += 8;
			while (bits >= 6) {
				bits -= 6;
				out += DIGITS[(held >> bits) & 63]!;
			}
			held &= (1 << bits) - 1;
		}
		return `'${out}'`;
	}
}
