import { withoutLowWord } from './words.ts';

/** Arc tangents of 1/2, 1, 3/2 and infinity, each with what its double leaves. */
const ATAN_HIGH = [4.6364760900080609e-1, 7.85398163397448278999e-1, 9.82793723247329054082e-1, Math.PI / 2] as const;
const ATAN_LOW = [
	2.26987774529616870924e-17, 3.06161699786838301793e-17, 1.39033110312309984516e-17, 6.12323399573676603587e-17
] as const;
/** 2^-29: the arc tangent of less is the tangent itself. */
const TINY = 1.862645149230957e-9;
const A0 = 3.33333333333329318027e-1;
const A1 = -1.99999999998764832476e-1;
const A2 = 1.42857142725034663711e-1;
const A3 = -1.1111110405462355788e-1;
const A4 = 9.09088713343650656196e-2;
const A5 = -7.69187620504482999495e-2;
const A6 = 6.66107313738753120669e-2;
const A7 = -5.83357013379057348645e-2;
const A8 = 4.97687799461593236017e-2;
const A9 = -3.6531572744216915527e-2;
const A10 = 1.62858201153657823623e-2;

/** The angle with this tangent, radians (`s_atan.c`). */
export function atan(tangent: number): number {
	if (Number.isNaN(tangent)) return NaN;
	const size = Math.abs(tangent);
	const sign = tangent < 0 ? -1 : 1;
	if (size >= 7.378697629483821e19) return sign * (ATAN_HIGH[3] + ATAN_LOW[3]);
	let x = size;
	let piece = -1;
	if (size < 0.4375) {
		if (size < TINY) return tangent;
	} else if (size < 1.1875) {
		if (size < 0.6875) {
			piece = 0;
			x = (2 * size - 1) / (2 + size);
		} else {
			piece = 1;
			x = (size - 1) / (size + 1);
		}
	} else if (size < 2.4375) {
		piece = 2;
		x = (size - 1.5) / (1 + 1.5 * size);
	} else {
		piece = 3;
		x = -1 / size;
	}
	const z = x * x;
	const w = z * z;
	const odd = z * (A0 + w * (A2 + w * (A4 + w * (A6 + w * (A8 + w * A10)))));
	const even = w * (A1 + w * (A3 + w * (A5 + w * (A7 + w * A9))));
	if (piece < 0) return sign * (x - x * (odd + even));
	return sign * (ATAN_HIGH[piece]! - (x * (odd + even) - ATAN_LOW[piece]! - x));
}

/** 2^60: ways steeper than this are upright. */
const STEEP = 1152921504606846976;
const PI_LOW = 1.2246467991473532e-16;

/** The angle of the way (x, y), from -pi to pi, radians (`e_atan2.c`). */
export function atan2(y: number, x: number): number {
	if (Number.isNaN(x) || Number.isNaN(y)) return NaN;
	const left = x < 0 || (x === 0 && 1 / x < 0);
	if (y === 0) return left ? (1 / y < 0 ? -Math.PI : Math.PI) : y;
	const below = y < 0;
	if (Math.abs(x) === Infinity) {
		const angle = Math.abs(y) === Infinity ? (left ? (3 * Math.PI) / 4 : Math.PI / 4) : left ? Math.PI : 0;
		return below ? -angle : angle;
	}
	const ratio = Math.abs(y / x);
	if (ratio > STEEP) return below ? -Math.PI / 2 : Math.PI / 2;
	const z = left && ratio < 1 / STEEP ? 0 : atan(ratio);
	if (!left) return below ? -z : z;
	return below ? z - PI_LOW - Math.PI : Math.PI - (z - PI_LOW);
}

const PIO2_HIGH = Math.PI / 2;
const PIO2_LOW = 6.12323399573676603587e-17;
const PIO4_HIGH = 7.85398163397448278999e-1;

/** (asin(x) - x) / x for x squared up to a quarter. */
function rational(t: number): number {
	const p =
		t *
		(1.66666666666666657415e-1 +
			t *
				(-3.25565818622400915405e-1 +
					t *
						(2.01212532134862925881e-1 +
							t * (-4.00555345006794114027e-2 + t * (7.91534994289814532176e-4 + t * 3.4793310759602116757e-5)))));
	const q =
		1 +
		t *
			(-2.40339491173441421878 +
				t * (2.02094576023350569471 + t * (-6.8828397160545329303e-1 + t * 7.70381505559019352791e-2)));
	return p / q;
}

/** The angle with this sine, radians; not a number beyond -1 and 1 (`e_asin.c`). */
export function asin(sine: number): number {
	const size = Math.abs(sine);
	if (!(size <= 1)) return NaN;
	if (size === 1) return sine * PIO2_HIGH + sine * PIO2_LOW;
	if (size < 0.5) return size < 7.450580596923828e-9 ? sine : sine + sine * rational(sine * sine);
	const t = (1 - size) * 0.5;
	const s = Math.sqrt(t);
	let angle: number;
	if (size >= 0.975) angle = PIO2_HIGH - (2 * (s + s * rational(t)) - PIO2_LOW);
	else {
		const w = withoutLowWord(s);
		const c = (t - w * w) / (s + w);
		const p = 2 * s * rational(t) - (PIO2_LOW - 2 * c);
		angle = PIO4_HIGH - (p - (PIO4_HIGH - 2 * w));
	}
	return sine > 0 ? angle : -angle;
}

/** The angle with this cosine, radians; not a number beyond -1 and 1 (`e_acos.c`). */
export function acos(cosine: number): number {
	const size = Math.abs(cosine);
	if (!(size <= 1)) return NaN;
	if (size === 1) return cosine > 0 ? 0 : Math.PI + 2 * PIO2_LOW;
	if (size < 0.5) {
		if (size < 6.938893903907228e-18) return PIO2_HIGH + PIO2_LOW;
		return PIO2_HIGH - (cosine - (PIO2_LOW - cosine * rational(cosine * cosine)));
	}
	const z = (1 - size) * 0.5;
	const s = Math.sqrt(z);
	const r = rational(z);
	if (cosine < 0) return Math.PI - 2 * (s + (r * s - PIO2_LOW));
	const short = withoutLowWord(s);
	const c = (z - short * short) / (s + short);
	return 2 * (short + (r * s + c));
}
