/*
 * The algorithms of this folder are those of fdlibm:
 *
 * Copyright (C) 1993 by Sun Microsystems, Inc. All rights reserved.
 * Developed at SunPro, a Sun Microsystems, Inc. business. Permission to use, copy, modify, and distribute this
 * software is freely granted, provided that this notice is preserved.
 *
 * They use nothing but additions, multiplications, divisions and square roots of doubles, which IEEE 754 rounds in one
 * way only, so that every engine gives the same bits. `Math.sin` and its like are free to differ.
 */

const HIGH = new Uint8Array(Uint32Array.of(1).buffer)[0] === 1 ? 1 : 0;
const value = new Float64Array(1);
const words = new Int32Array(value.buffer);

/** The upper 32 bits of a double: sign, exponent and the first 20 bits of its fraction. */
export function highWord(x: number): number {
	value[0] = x;
	return words[HIGH]!;
}

/** The lower 32 bits of a double. */
export function lowWord(x: number): number {
	value[0] = x;
	return words[1 - HIGH]!;
}

/** The double with another upper half. */
export function withHighWord(x: number, high: number): number {
	value[0] = x;
	words[HIGH] = high;
	return value[0]!;
}

/** The double with its lower half set to 0. */
export function withoutLowWord(x: number): number {
	value[0] = x;
	words[1 - HIGH] = 0;
	return value[0]!;
}
