import { utf8ToBytes } from '@noble/hashes/utils.js';
import type { Sink } from './sink.ts';

const LAST_ASCII = 127;
const ZERO = 48;
const MINUS = 45;
const POINT = 46;
/** Longest number: sign, 309 digits, point and decimals. */
export const MOST_NUMBER_BYTES = 330;
const POWERS = [1, 10, 100, 1000, 10_000, 100_000, 1_000_000, 10_000_000];

/** The digits of 00 to 99, as two bytes at once, the first one low. */
const PAIRS = Uint16Array.from({ length: 100 }, (_, k) => ((ZERO + (k % 10)) << 8) + ZERO + Math.floor(k / 10));

/** Bytes that are gathered before they go to the sink. */
const CHUNK = 1 << 18;

const FEW = 12;

/** Writes text and fixed-point numbers as bytes without making strings, and hands them on piece after piece. */
export class ByteWriter {
	private bytes = new Uint8Array(CHUNK);
	private view = new DataView(this.bytes.buffer);
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
		const { length } = bytes;
		this.reserve(length);
		// A call for a few bytes takes longer than they do.
		if (length < FEW) for (let k = 0; k < length; k++) this.bytes[this.length + k] = bytes[k]!;
		else this.bytes.set(bytes, this.length);
		this.length += length;
	}

	/** One ASCII character. */
	ascii(code: number): void {
		this.reserve(1);
		this.bytes[this.length++] = code;
	}

	/** A whole number from 0 of at least `digits` digits, padded with zeros. */
	whole(value: number, digits = 1): void {
		const at = this.begin(MOST_NUMBER_BYTES);
		this.end(putWhole(this.view, at, value, digits));
	}

	/** A number with up to 6 `decimals` after the point, rounded half up from its size; nothing for NaN. */
	fixed(value: number, decimals: number): void {
		const at = this.begin(MOST_NUMBER_BYTES);
		this.end(putFixed(this.view, at, value, decimals));
	}

	/** Makes room for `most` bytes, which others then put into `room` from here on; `end` says how far they came. */
	begin(most: number): number {
		this.reserve(most);
		return this.length;
	}

	get room(): DataView {
		return this.view;
	}

	end(at: number): void {
		this.length = at;
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
		this.view = new DataView(this.bytes.buffer);
	}
}

/** Largest integer that engines divide as such. */
const MOST_SMALL = 0x7fffffff;

/** Puts a whole number from 0 of at least `least` digits, padded with zeros; answers where it ends. */
export function putWhole(room: DataView, at: number, value: number, least: number): number {
	if (value > MOST_SMALL) return putLarge(room, at, value, least, 0);
	const small = value | 0;
	const count = digitsOf(small);
	return putDigits(room, at, small, count < least ? least : count);
}

/** Puts a number with up to 6 decimals, rounded half up from its size, nothing for NaN; answers where it ends. */
export function putFixed(room: DataView, start: number, value: number, decimals: number): number {
	if (value !== value) return start;
	const size = Math.abs(value) * POWERS[decimals]!;
	if (size >= MOST_SMALL) {
		if (value < 0) room.setUint8(start, MINUS);
		return putLarge(room, value < 0 ? start + 1 : start, Math.round(size), decimals + 1, decimals);
	}
	// Rounded without a branch, which would go either way as often.
	const below = size | 0;
	const scaled = below + (((size - below) * 2) | 0);
	let at = start;
	if (value < 0 && scaled > 0) room.setUint8(at++, MINUS);
	const whole = wholeOf(scaled, decimals);
	at = putDigits(room, at, whole, digitsOf(whole));
	if (decimals === 0) return at;
	room.setUint8(at, POINT);
	return putDigits(room, at + 1, scaled - whole * POWERS[decimals]!, decimals);
}

/** What stands before the point; divisions by numbers that are known are quick. */
function wholeOf(scaled: number, decimals: number): number {
	switch (decimals) {
		case 0:
			return scaled;
		case 1:
			return (scaled / 10) | 0;
		case 2:
			return (scaled / 100) | 0;
		case 3:
			return (scaled / 1000) | 0;
		case 4:
			return (scaled / 10_000) | 0;
		default:
			return (scaled / POWERS[decimals]!) | 0;
	}
}

/** Puts so many digits of an integer, from the end, two a division; answers where they end. */
function putDigits(room: DataView, at: number, value: number, count: number): number {
	const end = at + count;
	let rest = value;
	let place = end - 2;
	for (; place >= at; place -= 2) {
		const next = (rest / 100) | 0;
		room.setUint16(place, PAIRS[rest - next * 100]!, true);
		rest = next;
	}
	if (place === at - 1) room.setUint8(at, ZERO + rest);
	return end;
}

/** How many digits an integer from 0 to `MOST_SMALL` has. */
const digitsOf = (value: number): number =>
	value < 10_000
		? value < 100
			? value < 10
				? 1
				: 2
			: value < 1000
				? 3
				: 4
		: value < 100_000_000
			? value < 1_000_000
				? value < 100_000
					? 5
					: 6
				: value < 10_000_000
					? 7
					: 8
			: value < 1_000_000_000
				? 9
				: 10;

/** At least `least` digits of a whole number of any size, with a point before the last `decimals` of them. */
function putLarge(room: DataView, at: number, value: number, least: number, decimals: number): number {
	let count = least;
	for (let power = POWERS[least]!; power <= value; power *= 10) count++;
	const end = at + count + (decimals > 0 ? 1 : 0);
	const point = decimals > 0 ? end - decimals - 1 : -1;
	let rest = value;
	for (let place = end - 1; place >= at; place--) {
		if (place === point) {
			room.setUint8(place, POINT);
			continue;
		}
		const next = Math.floor(rest / 10);
		room.setUint8(place, ZERO + rest - next * 10);
		rest = next;
	}
	return end;
}
