/** Triangles of one body, anticlockwise seen from outside. */
export interface Mesh {
	/** Stride 3. */
	readonly positions: Float64Array;
	/** Three points a triangle. */
	readonly triangles: Uint32Array;
}

/** Areas of all triangles, added up. */
export function meshArea({ positions, triangles }: Mesh): number {
	let twice = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
		const [ux, uy, uz] = [positions[b]! - positions[a]!, positions[b + 1]! - positions[a + 1]!, positions[b + 2]! - positions[a + 2]!];
		const [vx, vy, vz] = [positions[c]! - positions[a]!, positions[c + 1]! - positions[a + 1]!, positions[c + 2]! - positions[a + 2]!];
		twice += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
	}
	return twice / 2;
}

/** Volume of a closed mesh, by the divergence theorem; below 0 when it is inside out. */
export function meshVolume({ positions, triangles }: Mesh): number {
	let sixfold = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
		sixfold +=
			positions[a]! * (positions[b + 1]! * positions[c + 2]! - positions[b + 2]! * positions[c + 1]!) +
			positions[a + 1]! * (positions[b + 2]! * positions[c]! - positions[b]! * positions[c + 2]!) +
			positions[a + 2]! * (positions[b]! * positions[c + 1]! - positions[b + 1]! * positions[c]!);
	}
	return sixfold / 6;
}
