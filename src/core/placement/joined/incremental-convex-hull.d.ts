declare module 'incremental-convex-hull' {
	/** Triangles of the hull of points in space, wound either way; the first four must not lie in a plane. Exact in its decisions. */
	export default function incrementalConvexHull(
		points: readonly (readonly [number, number, number])[],
		randomize?: boolean
	): [number, number, number][];
}
