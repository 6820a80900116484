/** Root of the squares added up: the length of a way (x, y) or (x, y, z). */
export function hypot(x: number, y: number, z = 0): number {
	return Math.sqrt(x * x + y * y + z * z);
}

/** The length of a vector of any number of coordinates. */
export function norm(vector: ArrayLike<number>): number {
	let sum = 0;
	for (let k = 0; k < vector.length; k++) sum += vector[k]! * vector[k]!;
	return Math.sqrt(sum);
}
