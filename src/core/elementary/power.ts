import { highWord, withHighWord, withoutLowWord } from './words.ts';

/** x times x: what `x ** 2` means, which engines are free to round otherwise. */
export const square = (x: number): number => x * x;

/** A whole power, 0 or more, by products. */
export function wholePower(x: number, power: number): number {
	let out = 1;
	for (let k = 0; k < power; k++) out *= x;
	return out;
}

const TWO_53 = 9007199254740992;
/** |z| below which 2^z is neither infinite nor 0. */
const MOST_EXPONENT = 1024;
const LEAST_EXPONENT = -1075;

/** x to the power y as `Math.pow` has it, but with the same bits everywhere (`e_pow.c`). */
export function pow(x: number, y: number): number {
	if (y === 0) return 1;
	if (Number.isNaN(x) || Number.isNaN(y)) return NaN;
	const size = Math.abs(x);
	if (!Number.isFinite(y)) return size === 1 ? NaN : size > 1 === y > 0 ? Infinity : 0;
	if (y === 1) return x;
	if (y === -1) return 1 / x;
	if (y === 2) return x * x;
	if (y === 0.5 && x > 0) return Math.sqrt(x);
	const whole = Number.isInteger(y);
	const odd = whole && Math.abs(y) < TWO_53 && Math.abs(y) % 2 === 1;
	const sign = odd && (x < 0 || Object.is(x, -0)) ? -1 : 1;
	if (size === 0 || size === Infinity || size === 1) {
		if (x === -1 && !whole) return NaN;
		return sign * (size === 1 ? 1 : (size === 0) === y < 0 ? Infinity : 0);
	}
	if (x < 0 && !whole) return NaN;
	const [high, low] = log2(size);
	// The product of y and both parts of the logarithm, in two parts again.
	const y1 = withoutLowWord(y);
	const tail = (y - y1) * high + y * low;
	const head = y1 * high;
	const z = tail + head;
	if (z >= MOST_EXPONENT) return sign * Infinity;
	if (z <= LEAST_EXPONENT) return sign * 0;
	return sign * exp2(head, tail, z);
}

const CP = 9.61796693925975554329e-1;
const CP_HIGH = 9.61796700954437255859e-1;
const CP_LOW = -7.02846165095275826516e-9;
const DP_HIGH = 5.84962487220764160156e-1;
const DP_LOW = 1.35003920212974897128e-8;

/** The binary logarithm of a number above 0, in a part of 32 bits and what that leaves. */
function log2(size: number): [number, number] {
	let x = size;
	let n = 0;
	// Numbers so small that they are stored with fewer bits.
	if (highWord(x) < 0x00100000) {
		x *= TWO_53;
		n -= 53;
	}
	let high = highWord(x);
	n += (high >> 20) - 1023;
	const fraction = high & 0x000fffff;
	high = fraction | 0x3ff00000;
	// Near which of 1 and 1.5 the number lies once whole powers of 2 are taken off.
	let near = 0;
	if (fraction > 0x3988e && fraction < 0xbb67a) near = 1;
	else if (fraction >= 0xbb67a) {
		n += 1;
		high -= 0x00100000;
	}
	x = withHighWord(x, high);
	const base = near === 1 ? 1.5 : 1;
	const u = x - base;
	const v = 1 / (x + base);
	const s = u * v;
	const sHigh = withoutLowWord(s);
	const tHigh = withHighWord(0, ((high >> 1) | 0x20000000) + 0x00080000 + (near << 18));
	const tLow = x - (tHigh - base);
	const sLow = v * (u - sHigh * tHigh - sHigh * tLow);
	let s2 = s * s;
	let r =
		s2 *
		s2 *
		(5.99999999999994648725e-1 +
			s2 *
				(4.28571428578550184252e-1 +
					s2 *
						(3.33333329818377432918e-1 +
							s2 * (2.72728123808534006489e-1 + s2 * (2.30660745775561754067e-1 + s2 * 2.06975017800338417784e-1)))));
	r += sLow * (sHigh + s);
	s2 = sHigh * sHigh;
	const t = withoutLowWord(3 + s2 + r);
	const rest = r - (t - 3 - s2);
	const p = sHigh * t;
	const q = sLow * t + rest * s;
	const pHigh = withoutLowWord(p + q);
	const pLow = q - (pHigh - p);
	const zHigh = CP_HIGH * pHigh;
	const zLow = CP_LOW * pHigh + pLow * CP + (near === 1 ? DP_LOW : 0);
	const dHigh = near === 1 ? DP_HIGH : 0;
	const first = withoutLowWord(zHigh + zLow + dHigh + n);
	return [first, zLow - (first - n - dHigh - zHigh)];
}

const LN2 = 6.93147180559945286227e-1;
const LN2_HIGH = 6.93147182464599609375e-1;
const LN2_LOW = -1.90465429995776804525e-9;

/** 2 to the power of `head + tail`, whose sum is z. */
function exp2(head: number, tail: number, z: number): number {
	const n = Math.abs(z) > 0.5 ? Math.floor(z + 0.5) : 0;
	const rest = head - n;
	const t = withoutLowWord(tail + rest);
	const u = t * LN2_HIGH;
	const v = (tail - (t - rest)) * LN2 + t * LN2_LOW;
	const w = u + v;
	const left = v - (w - u);
	const s = w * w;
	const c =
		w -
		s *
			(1.66666666666666019037e-1 +
				s *
					(-2.77777777770155933842e-3 +
						s * (6.61375632143793436117e-5 + s * (-1.6533902205465251539e-6 + s * 4.13813679705723846039e-8))));
	const r = (w * c) / (c - 2) - (left + w * left);
	return scaled(1 - (r - w), n);
}

/** x times 2^n, in two steps where one would leave the range. */
function scaled(x: number, n: number): number {
	const first = n < -1000 ? -1000 : n > 1000 ? 1000 : n;
	return x * powerOf2(first) * powerOf2(n - first);
}

const powerOf2 = (n: number) => withHighWord(0, (n + 1023) << 20);
