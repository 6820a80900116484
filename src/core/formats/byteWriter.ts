import { utf8ToBytes } from '@noble/hashes/utils.js';
import type { Sink } from './sink.ts';

const LAST_ASCII = 127;
const ZERO = 48;
const MINUS = 45;
const POINT = 46;
/** Longest number: sign, 309 digits, point and decimals. */
const MOST_NUMBER_BYTES = 330;
const POWERS = [1, 10, 100, 1000, 10_000, 100_000, 1_000_000, 10_000_000];

/** The digits of 00 to 99, two bytes each. */
const PAIRS = Uint8Array.from({ length: 200 }, (_, k) => ZERO + (k % 2 ? (k >> 1) % 10 : Math.floor(k / 20)));

/** Bytes that are gathered before they go to the sink. */
const CHUNK = 1 << 18;

const FEW = 64;

/** Writes text and fixed-point numbers as bytes without making strings, and hands them on piece after piece. */
export class ByteWriter {
	private bytes = new Uint8Array(CHUNK);
	private length = 0;
	private readonly sink: Sink;

	constructor(sink: Sink) {
		this.sink = sink;
	}

	/** Text as UTF-8. */
	text(text: string): void {
		this.reserve(text.length);
		const { bytes, length } = this;
		// Nearly all is plain ASCII, which needs no array of its own.
		for (let k = 0; k < text.length; k++) {
			const code = text.charCodeAt(k);
			if (code > LAST_ASCII) return this.raw(utf8ToBytes(text));
			bytes[length + k] = code;
		}
		this.length = length + text.length;
	}

	/** Bytes as they are. */
	raw(bytes: Uint8Array): void {
		this.reserve(bytes.length);
		// A call for a few bytes takes longer than they do.
		if (bytes.length < FEW) for (let k = 0; k < bytes.length; k++) this.bytes[this.length + k] = bytes[k]!;
		else this.bytes.set(bytes, this.length);
		this.length += bytes.length;
	}

	/** One ASCII character. */
	ascii(code: number): void {
		this.reserve(1);
		this.bytes[this.length++] = code;
	}

	/** A whole number from 0 of at least `digits` digits, padded with zeros. */
	whole(value: number, digits = 1): void {
		this.digits(value, digits, 0);
	}

	/** A number with up to 6 `decimals` after the point, rounded half up from its size; nothing for NaN. */
	fixed(value: number, decimals: number): void {
		if (value !== value) return;
		const scaled = Math.round(Math.abs(value) * POWERS[decimals]!);
		if (value < 0 && scaled > 0) this.ascii(MINUS);
		this.digits(scaled, decimals + 1, decimals);
	}

	/** At least `least` digits of a whole number, with a point before the last `decimals` of them. */
	private digits(value: number, least: number, decimals: number): void {
		this.reserve(MOST_NUMBER_BYTES);
		const { bytes } = this;
		let count = least;
		for (let power = POWERS[least]!; power <= value; power *= 10) count++;
		let end = this.length + count + (decimals > 0 ? 1 : 0);
		this.length = end;
		let rest = value;
		let left = count;
		// Integers divide much quicker; few numbers of a schedule are larger.
		for (; rest >= 0x7fffffff; left--) {
			if (decimals > 0 && count - left === decimals) bytes[--end] = POINT;
			const next = Math.floor(rest / 10);
			bytes[--end] = ZERO + rest - next * 10;
			rest = next;
		}
		let small = rest | 0;
		if (count - left < decimals) {
			for (let k = decimals - (count - left); k > 0; k--, left--) {
				const next = (small / 10) | 0;
				bytes[--end] = ZERO + small - next * 10;
				small = next;
			}
			bytes[--end] = POINT;
		} else if (decimals > 0 && count - left === decimals) bytes[--end] = POINT;
		// Two digits a division.
		for (; left > 1; left -= 2) {
			const next = (small / 100) | 0;
			const pair = (small - next * 100) * 2;
			bytes[--end] = PAIRS[pair + 1]!;
			bytes[--end] = PAIRS[pair]!;
			small = next;
		}
		if (left > 0) bytes[--end] = ZERO + small;
	}

	/** Hands on what is left. */
	finish(): void {
		if (this.length > 0) this.sink(this.bytes.subarray(0, this.length));
		this.length = 0;
	}

	private reserve(more: number): void {
		if (this.length + more <= this.bytes.length) return;
		this.finish();
		this.bytes = new Uint8Array(Math.max(CHUNK, more));
	}
}
