import { createSurface, type Surface, type SurfaceInput } from '../../src/core/geometry/surface.ts';

type Row = [number, number, number][];

/** Unit circle's quarter arcs as an exact rational quadratic: Piegl & Tiller, ch. 7. */
const CIRCLE = [
	[1, 0],
	[1, 1],
	[0, 1],
	[-1, 1],
	[-1, 0],
	[-1, -1],
	[0, -1],
	[1, -1],
	[1, 0]
] as const;
const CIRCLE_KNOTS = [0, 0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 4];
const circleWeight = (k: number) => (k % 2 ? Math.cos(Math.PI / 4) : 1);

/** Full turn of a profile [radius, z] about the z axis; the outside faces away from the axis. */
export function revolve(
	profile: readonly (readonly [number, number])[],
	degree: number,
	knots: readonly number[],
	weights: readonly number[] = profile.map(() => 1)
): Surface {
	return createSurface({
		degreeU: 2,
		degreeV: degree,
		knotsU: CIRCLE_KNOTS,
		knotsV: knots,
		points: profile.map(([r, z]) => CIRCLE.map(([x, y]): [number, number, number] => [x * r, y * r, z])),
		weights: profile.map((_, v) => CIRCLE.map((__, u) => circleWeight(u) * weights[v]!))
	});
}

/** Straight profile from (r1, 0) to (r2, height): a cone frustum, or a cylinder. */
export const frustum = (r1: number, r2: number, height: number) =>
	revolve(
		[
			[r1, 0],
			[r2, height]
		],
		1,
		[0, 0, 1, 1]
	);

/** Zone of a sphere about the origin between two latitudes, in radians. */
export function sphereZone(radius: number, from: number, to: number): Surface {
	const half = (to - from) / 2;
	const apex = radius / Math.cos(half);
	const at = (angle: number, r: number) => [r * Math.cos(angle), r * Math.sin(angle)] as const;
	return revolve(
		[at(from, radius), at(from + half, apex), at(to, radius)],
		2,
		[0, 0, 0, 1, 1, 1],
		[1, Math.cos(half), 1]
	);
}

/** The hyperbolic paraboloid z = kxy over a rectangle a x b about the origin. */
export function hypar(k: number, a: number, b: number): Surface {
	const at = (x: number, y: number): [number, number, number] => [x, y, k * x * y];
	return createSurface({
		degreeU: 1,
		degreeV: 1,
		knotsU: [0, 0, 1, 1],
		knotsV: [0, 0, 1, 1],
		points: [
			[at(-a / 2, -b / 2), at(a / 2, -b / 2)],
			[at(-a / 2, b / 2), at(a / 2, b / 2)]
		]
	});
}

/** A flat rectangle in the plane z = 0. */
export const rectangle = (width: number, height: number) => hypar(0, width, height);

/** One Bezier curve carried along another: a surface of translation. */
export function translation(across: Row, along: Row): Surface {
	const bezier = (n: number) => [...new Array(n).fill(0), ...new Array(n).fill(1)] as number[];
	return createSurface({
		degreeU: across.length - 1,
		degreeV: along.length - 1,
		knotsU: bezier(across.length),
		knotsV: bezier(along.length),
		points: along.map((d) => across.map((c) => [c[0] + d[0], c[1] + d[1], c[2] + d[2]] as const))
	});
}

/** A wavy bicubic surface with uneven knots; `seed` moves its points, `rational` gives it weights. */
export function wavy(seed: number, rational: boolean): Surface {
	const noise = (k: number) => Math.abs(Math.sin(seed * 12.9898 + k * 78.233) * 43758.5453) % 1;
	const points = [0, 1, 2, 3, 4, 5].map((v) =>
		[0, 1, 2, 3, 4].map((u): [number, number, number] => [
			u * 3000 + 600 * noise(u * 7 + v),
			v * 2500 + 600 * noise(u + v * 11 + 50),
			2500 * noise(u * 3 + v * 5 + 99)
		])
	);
	const input: SurfaceInput = {
		degreeU: 3,
		degreeV: 3,
		knotsU: [0, 0, 0, 0, 0.35, 1, 1, 1, 1],
		knotsV: [0, 0, 0, 0, 0.3, 0.8, 1, 1, 1, 1],
		points
	};
	if (!rational) return createSurface(input);
	return createSurface({
		...input,
		weights: points.map((row, v) => row.map((_, u) => 0.5 + noise(u * 13 + v * 17 + 7)))
	});
}

/** Two plates, each 3000 wide and 6000 deep along y, that meet at a right angle over x = 3000. */
export const bent = () =>
	createSurface({
		degreeU: 1,
		degreeV: 1,
		knotsU: [0, 0, 0.5, 1, 1],
		knotsV: [0, 0, 1, 1],
		points: [0, 6000].map((y) => [[0, y, 0] as const, [3000, y, 0] as const, [3000, y, 3000] as const])
	});
