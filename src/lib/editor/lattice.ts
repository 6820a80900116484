/** Lines across and up that a face is shown with, at most. */
const MOST_LINES = 24;

/** Some lines across and up a grid of points, as pairs of neighbouring points; stride 3. */
export function latticeLines(
	{ columns, rows, closedAcross }: { columns: number; rows: number; closedAcross: boolean },
	points: Float64Array
): Float32Array {
	const lines: number[] = [];
	const pair = (...places: readonly (readonly [column: number, row: number])[]) => {
		for (const [i, j] of places) {
			const o = (j * columns + (i % columns)) * 3;
			lines.push(points[o]!, points[o + 1]!, points[o + 2]!);
		}
	};
	const across = closedAcross ? columns : columns - 1;
	const evenly = (last: number) => {
		const count = Math.min(MOST_LINES, last);
		return Array.from({ length: count + 1 }, (_, k) => Math.round((last * k) / count));
	};
	for (const j of evenly(rows - 1)) for (let i = 0; i < across; i++) pair([i, j], [i + 1, j]);
	for (const i of evenly(across)) for (let j = 0; j + 1 < rows; j++) pair([i, j], [i, j + 1]);
	return Float32Array.from(lines);
}
