/** The golden section: multiples of it, less what is whole, are spread evenly and fall in step with no row of points. */
const SPREAD = (Math.sqrt(5) - 1) / 2;

/** Places in a list of `count`: all, or about `most` that are spread over it. */
export const spreadOver = (count: number, most: number): number[] =>
	count <= most
		? Array.from({ length: count }, (_, k) => k)
		: Array.from({ length: most }, (_, k) => Math.floor(((k * SPREAD) % 1) * count));
