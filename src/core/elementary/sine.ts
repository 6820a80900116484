import { withoutLowWord } from './words.ts';

/** pi/2 in three pieces of 33 bits, each with what is left after it (`__ieee754_rem_pio2`). */
const TWO_OVER_PI = 2 / Math.PI;
const PIO2_1 = 1.5707963267341256;
const PIO2_1T = 6.077100506506192e-11;
const PIO2_2 = 6.07710050630396e-11;
const PIO2_2T = 2.02226624879595063154e-21;
const PIO2_3 = 2.0222662487111664558e-21;
const PIO2_3T = 8.47842766036889956997e-32;

/** Angles above this are brought below it first by whole turns of the double 2 pi; a facade has none. */
const LARGE = 1e6;

/** What is left of the angle reduced last, in two parts; whoever calls `reduce` reads both at once. */
let head = 0;
let tail = 0;
/** Shares of an angle below which its rest has lost so many bits that the next piece of pi/2 counts. */
const LOST_16_BITS = 1 / 65_536;
const LOST_49_BITS = 1 / 562_949_953_421_312;

/** Takes quarter turns off an angle (Cody & Waite) and returns how many, from 0 to 3. */
function reduce(angle: number): number {
	const x = Math.abs(angle) > LARGE ? angle % (2 * Math.PI) : angle;
	const size = Math.abs(x);
	const n = Math.round(x * TWO_OVER_PI);
	let r = x - n * PIO2_1;
	let w = n * PIO2_1T;
	head = r - w;
	if (Math.abs(head) < size * LOST_16_BITS) {
		let t = r;
		w = n * PIO2_2;
		r = t - w;
		w = n * PIO2_2T - (t - r - w);
		head = r - w;
		if (Math.abs(head) < size * LOST_49_BITS) {
			t = r;
			w = n * PIO2_3;
			r = t - w;
			w = n * PIO2_3T - (t - r - w);
			head = r - w;
		}
	}
	tail = r - head - w;
	return n & 3;
}

const S1 = -1.66666666666666324348e-1;
const S2 = 8.33333333332248946124e-3;
const S3 = -1.98412698298579493134e-4;
const S4 = 2.75573137070700676789e-6;
const S5 = -2.50507602534068634195e-8;
const S6 = 1.58969099521155010221e-10;

/** Sine of x + y, |x| at most pi/4 and y its tail (`__kernel_sin`). */
function kernelSin(x: number, y: number): number {
	const z = x * x;
	const w = z * z;
	const r = S2 + z * (S3 + z * S4) + z * w * (S5 + z * S6);
	const v = z * x;
	return x - (z * (0.5 * y - v * r) - y - v * S1);
}

const C1 = 4.16666666666666019037e-2;
const C2 = -1.38888888888741095749e-3;
const C3 = 2.48015872894767294178e-5;
const C4 = -2.75573143513906633035e-7;
const C5 = 2.0875723212981748279e-9;
const C6 = -1.13596475577881948265e-11;

/** Cosine of x + y, |x| at most pi/4 and y its tail (`__kernel_cos`). */
function kernelCos(x: number, y: number): number {
	const z = x * x;
	let w = z * z;
	const r = z * (C1 + z * (C2 + z * C3)) + w * w * (C4 + z * (C5 + z * C6));
	const half = 0.5 * z;
	w = 1 - half;
	return w + (1 - w - half + (z * r - x * y));
}

const T0 = 3.33333333333334091986e-1;
const T1 = 1.33333333333201242699e-1;
const T2 = 5.39682539762260521377e-2;
const T3 = 2.18694882948595424599e-2;
const T4 = 8.86323982359930005737e-3;
const T5 = 3.59207910759131235356e-3;
const T6 = 1.45620945432529025516e-3;
const T7 = 5.88041240820264096874e-4;
const T8 = 2.46463134818469906812e-4;
const T9 = 7.817944429395570923e-5;
const T10 = 7.14072491382608190305e-5;
const T11 = -1.85586374855275456654e-5;
const T12 = 2.59073051863633712884e-5;
const PIO4 = 7.85398163397448278999e-1;
const PIO4_TAIL = 3.06161699786838301793e-17;
/** From here on the tangent is taken from the angle's complement. */
const NEAR_PIO4 = 0.67434;

/** Tangent of x + y for `odd` 0, -1 over it for 1 (`__kernel_tan`). */
function kernelTan(angle: number, rest: number, odd: number): number {
	let x = angle;
	let y = rest;
	const negative = angle < 0;
	const big = Math.abs(x) >= NEAR_PIO4;
	if (big) {
		if (negative) {
			x = -x;
			y = -y;
		}
		x = PIO4 - x + (PIO4_TAIL - y);
		y = 0;
	}
	const z = x * x;
	const w = z * z;
	let r = T1 + w * (T3 + w * (T5 + w * (T7 + w * (T9 + w * T11))));
	let v = z * (T2 + w * (T4 + w * (T6 + w * (T8 + w * (T10 + w * T12)))));
	let s = z * x;
	r = y + z * (s * (r + v) + y);
	r += T0 * s;
	const sum = x + r;
	if (big) {
		v = odd === 0 ? 1 : -1;
		return (negative ? -1 : 1) * (v - 2 * (x - ((sum * sum) / (sum + v) - r)));
	}
	if (odd === 0) return sum;
	// -1 / (x + r), exactly enough.
	const short = withoutLowWord(sum);
	v = r - (short - x);
	const a = -1 / sum;
	const t = withoutLowWord(a);
	s = 1 + t * short;
	return t + a * (s + t * v);
}

/** 2^-27: sine and tangent of less are the angle itself. */
const TINY = 7.450580596923828e-9;

/** Angles up to pi/4 need no reduction. */
const small = (x: number) => Math.abs(x) <= PIO4;

/** Sine of an angle in radians, to within one unit of the last place (below a million radians). */
export function sin(x: number): number {
	if (Math.abs(x) < TINY) return x;
	if (small(x)) return kernelSin(x, 0);
	if (!Number.isFinite(x)) return NaN;
	const quarter = reduce(x);
	const value = quarter & 1 ? kernelCos(head, tail) : kernelSin(head, tail);
	return quarter & 2 ? -value : value;
}

/** Cosine of an angle in radians, to within one unit of the last place (below a million radians). */
export function cos(x: number): number {
	if (small(x)) return kernelCos(x, 0);
	if (!Number.isFinite(x)) return NaN;
	const quarter = reduce(x);
	const value = quarter & 1 ? kernelSin(head, tail) : kernelCos(head, tail);
	return quarter === 1 || quarter === 2 ? -value : value;
}

/** Tangent of an angle in radians, to within one unit of the last place (below a million radians). */
export function tan(x: number): number {
	if (Math.abs(x) < TINY) return x;
	if (small(x)) return kernelTan(x, 0, 0);
	if (!Number.isFinite(x)) return NaN;
	const quarter = reduce(x);
	return kernelTan(head, tail, quarter & 1);
}
