import { cos, norm, sin } from '../../elementary/index.ts';

export type Direction = readonly [number, number, number];

/** Triangles of a ball of radius 1 about the origin. */
export interface Geodesic {
	readonly points: readonly Direction[];
	/** Indices of `points`, anticlockwise seen from outside. */
	readonly triangles: readonly (readonly [number, number, number])[];
}

/** Digits that tell two points of a ball of radius 1 apart. */
const DIGITS = 9;

/**
 * An icosahedron with one vertex at the top whose sides are divided into `frequency` parts, with all points brought out
 * onto the ball. Source: Kenner, Geodesic Math and How to Use It, class I, method 1 (from memory).
 */
export function geodesic(frequency: number): Geodesic {
	const points: Direction[] = [];
	const found = new Map<string, number>();
	const add = (p: Direction): number => {
		const size = norm(p);
		const at: Direction = [p[0] / size, p[1] / size, p[2] / size];
		const key = at.map((x) => x.toFixed(DIGITS).replace(/^-(0\.0+)$/, '$1')).join(' ');
		const there = found.get(key);
		if (there !== undefined) return there;
		found.set(key, points.length);
		return points.push(at) - 1;
	};
	const triangles: [number, number, number][] = [];
	for (const [a, b, c] of icosahedron()) {
		const at = (i: number, j: number): number => {
			const k = frequency - i - j;
			return add([0, 1, 2].map((x) => (a[x]! * k + b[x]! * i + c[x]! * j) / frequency) as unknown as Direction);
		};
		for (let j = 0; j < frequency; j++)
			for (let i = 0; i + j < frequency; i++) {
				triangles.push([at(i, j), at(i + 1, j), at(i, j + 1)]);
				if (i + j + 1 < frequency) triangles.push([at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
			}
	}
	return { points, triangles };
}

/** Its twenty sides, anticlockwise from outside: five about the top, ten between, five about the foot. */
function icosahedron(): [Direction, Direction, Direction][] {
	const height = 1 / Math.sqrt(5);
	const ring = (z: number, turn: number) =>
		Array.from({ length: 5 }, (_, k): Direction => {
			const angle = ((k + turn) * 2 * Math.PI) / 5;
			return [2 * height * cos(angle), 2 * height * sin(angle), z];
		});
	const [upper, lower] = [ring(height, 0), ring(-height, 0.5)];
	const [top, foot]: [Direction, Direction] = [
		[0, 0, 1],
		[0, 0, -1]
	];
	return upper.flatMap((a, k): [Direction, Direction, Direction][] => {
		const [b, c, d] = [upper[(k + 1) % 5]!, lower[k]!, lower[(k + 1) % 5]!];
		return [
			[top, a, b],
			[a, c, b],
			[b, c, d],
			[foot, d, c]
		];
	});
}
