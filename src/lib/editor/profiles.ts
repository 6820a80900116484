import { evaluateCurve, segmentsOf } from '../../core/geometry/curve.ts';
import { isClosed, profileCurve, type DrawnProfile, type Profile } from '../../core/mass/profile.ts';

/** What a profile of each kind starts as. */
export const PROFILE_PRESETS: { readonly [K in Exclude<Profile['kind'], 'drawn'>]: Extract<Profile, { kind: K }> } = {
	circle: { kind: 'circle', radius: 8000 },
	ellipse: { kind: 'ellipse', radiusX: 10_000, radiusY: 6000 },
	rectangle: { kind: 'rectangle', width: 16_000, depth: 12_000, rounding: 0 },
	polygon: { kind: 'polygon', sides: 6, radius: 9000, rounding: 0 }
};

/** Points by which a smooth outline is taken over into a drawn line. */
const SMOOTH_POINTS = 8;

/** A drawn line near a profile: the corners of straight-sided ones, eight smooth points of round ones. */
export function drawnFrom(profile: Profile): DrawnProfile {
	if (profile.kind === 'drawn') return profile;
	const plain = 'rounding' in profile ? { ...profile, rounding: 0 } : profile;
	const { curve } = profileCurve(plain);
	const straight = curve.degree === 1;
	const count = straight ? segmentsOf(curve) : SMOOTH_POINTS;
	const at = straight ? curve.breaks.slice(0, count) : Float64Array.from({ length: count }, (_, k) => k / count);
	const { position } = evaluateCurve(curve, at);
	return {
		kind: 'drawn',
		closed: true,
		rounding: 'rounding' in profile ? profile.rounding : 0,
		points: Array.from({ length: count }, (_, k) => ({
			x: Math.round(position[k * 3]!),
			y: Math.round(position[k * 3 + 1]!),
			smooth: !straight,
			arc: 0
		}))
	};
}

/** Points along a profile, x and y in turn, dense enough to draw it; nothing where it is no sound line. */
export function profileOutline(profile: Profile): number[] | undefined {
	try {
		const { curve } = profileCurve(profile);
		const each = curve.degree === 1 ? 1 : 16;
		const at = [...curve.breaks].flatMap((b, k, all) =>
			k + 1 < all.length ? Array.from({ length: each }, (_, i) => b + ((all[k + 1]! - b) * i) / each) : [b]
		);
		const { position } = evaluateCurve(curve, at);
		return at.flatMap((_, k) => [position[k * 3]!, position[k * 3 + 1]!]);
	} catch {
		return undefined;
	}
}

/** An SVG path of a profile that fills a frame, y upwards. */
export function profileSketch(profile: Profile, width: number, height: number): string | undefined {
	const line = profileOutline(profile);
	if (!line) return undefined;
	const xs = line.filter((_, k) => k % 2 === 0);
	const ys = line.filter((_, k) => k % 2 === 1);
	const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
	const scale = Math.min((width - 16) / (x1 - x0 || 1), (height - 16) / (y1 - y0 || 1));
	const points = xs.map(
		(x, k) =>
			`${(width / 2 + (x - (x0 + x1) / 2) * scale).toFixed(1)} ${(height / 2 - (ys[k]! - (y0 + y1) / 2) * scale).toFixed(1)}`
	);
	return `M${points.join('L')}${isClosed(profile) ? 'Z' : ''}`;
}
