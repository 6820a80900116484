/** Triangles that share their vertices, mm. */
export interface TriangleMesh {
	/** Stride 3. */
	readonly positions: Float64Array;
	/** Three vertex indices a triangle, anticlockwise from outside. */
	readonly triangles: Uint32Array;
	/** Face of the file that each triangle belongs to, where the file tells. */
	readonly faceOf?: Uint32Array;
}

/** `neighbours` where a side of a triangle has no triangle beyond. */
export const NO_TRIANGLE = -1;

/** Map from pairs of whole numbers to whole numbers, in typed arrays: open addressing, linear probing. */
export class PairMap {
	private readonly keys: Int32Array;
	private readonly values: Int32Array;
	private readonly mask: number;

	/** For up to `most` pairs. */
	constructor(most: number) {
		let size = 16;
		while (size < most * 2) size *= 2;
		this.keys = new Int32Array(size * 2).fill(-1);
		this.values = new Int32Array(size);
		this.mask = size - 1;
	}

	/** The value of a pair, or `fallback`. */
	get(a: number, b: number, fallback = -1): number {
		const slot = this.find(a, b);
		return this.keys[slot * 2] === -1 ? fallback : this.values[slot]!;
	}

	set(a: number, b: number, value: number): void {
		const slot = this.find(a, b);
		this.keys[slot * 2] = a;
		this.keys[slot * 2 + 1] = b;
		this.values[slot] = value;
	}

	private find(a: number, b: number): number {
		let hash = Math.imul(a, 0x9e3779b1) + Math.imul(b, 0x85ebca6b);
		hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
		let slot = (hash ^ (hash >>> 13)) & this.mask;
		while (this.keys[slot * 2] !== -1 && (this.keys[slot * 2] !== a || this.keys[slot * 2 + 1] !== b))
			slot = (slot + 1) & this.mask;
		return slot;
	}
}

/**
 * The triangle beyond each side: entry `t * 3 + k` is the other one at the side from corner `k` to the
 * next, run the opposite way; NO_TRIANGLE at a border. Sides run alike by two triangles, or shared by
 * more than two, have none. O(triangles).
 */
export function neighboursOf(triangles: Uint32Array): { neighbours: Int32Array; tangled: number } {
	const count = triangles.length;
	const sides = new PairMap(count);
	const TANGLED = -2;
	for (let s = 0; s < count; s++) {
		const [a, b] = sideOf(triangles, s);
		sides.set(a, b, sides.get(a, b) === -1 ? s : TANGLED);
	}
	const neighbours = new Int32Array(count).fill(NO_TRIANGLE);
	let tangled = 0;
	for (let s = 0; s < count; s++) {
		const [a, b] = sideOf(triangles, s);
		const own = sides.get(a, b);
		const other = sides.get(b, a);
		if (own === TANGLED || other === TANGLED) tangled++;
		else if (other >= 0) neighbours[s] = Math.floor(other / 3);
	}
	return { neighbours, tangled };
}

/** Vertices at the ends of side `s` = `t * 3 + k`. */
export function sideOf(triangles: Uint32Array, s: number): [number, number] {
	return [triangles[s]!, triangles[s % 3 === 2 ? s - 2 : s + 1]!];
}

/** Twice the area vector of triangle `t`. */
export function areaVector({ positions, triangles }: TriangleMesh, t: number): [number, number, number] {
	return areaVectorOf(positions, triangles[t * 3]!, triangles[t * 3 + 1]!, triangles[t * 3 + 2]!);
}

/** Twice the area vector of the triangle between three vertices. */
export function areaVectorOf(p: Float64Array, i: number, j: number, k: number): [number, number, number] {
	const [a, b, c] = [i * 3, j * 3, k * 3];
	const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
	const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
	return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}

/** Area of a mesh, mm2. */
export function meshArea({ positions: p, triangles }: TriangleMesh): number {
	let twice = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const a = triangles[t]! * 3;
		const b = triangles[t + 1]! * 3;
		const c = triangles[t + 2]! * 3;
		const ax = p[a]!;
		const ay = p[a + 1]!;
		const az = p[a + 2]!;
		const ux = p[b]! - ax;
		const uy = p[b + 1]! - ay;
		const uz = p[b + 2]! - az;
		const vx = p[c]! - ax;
		const vy = p[c + 1]! - ay;
		const vz = p[c + 2]! - az;
		const x = uy * vz - uz * vy;
		const y = uz * vx - ux * vz;
		const z = ux * vy - uy * vx;
		twice += Math.sqrt(x * x + y * y + z * z);
	}
	return twice / 2;
}

/** Six times the volume that the triangles enclose with the origin; positive when they face outwards. */
export function signedVolume({ positions: p, triangles }: TriangleMesh): number {
	let sum = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const a = triangles[t]! * 3;
		const b = triangles[t + 1]! * 3;
		const c = triangles[t + 2]! * 3;
		sum +=
			p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) +
			p[a + 1]! * (p[b + 2]! * p[c]! - p[b]! * p[c + 2]!) +
			p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!);
	}
	return sum;
}
