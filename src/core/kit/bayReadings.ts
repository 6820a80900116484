import { hypot, norm } from '../elementary/index.ts';
import { newell } from '../geometry/newell.ts';
import { CELL_READINGS } from '../readings/cellReadings.ts';
import type { ReadingDefinition } from '../readings/definition.ts';
import { measureCells } from '../readings/measureCells.ts';
import { bayBorder, type BaySize } from './baySize.ts';

/** Every reading of a bay. */
export const BAY_READINGS = {
	row: { ...CELL_READINGS.row, meaning: 'Of its first cell, at the lower left' },
	column: { ...CELL_READINGS.column, meaning: 'Of its first cell, at the lower left' },
	width: { label: 'Width', quantity: 'length', meaning: 'Along its lowest points' },
	height: { label: 'Height', quantity: 'length', meaning: 'Along its points at the left' },
	area: { label: 'Area', quantity: 'area', meaning: 'Of all its cells' },
	warp: { label: 'Warp', quantity: 'length', meaning: 'How far a point lies from the plane of its border, at most' },
	elevation: { label: 'Lowest point', quantity: 'length', meaning: 'Height of the lowest point above the ground' }
} as const satisfies Record<string, ReadingDefinition>;

/** What follows from the points of a bay alone: stride 3, row by row from the lower left, mm. */
export function readBay(points: Float64Array, size: BaySize) {
	const { across, up } = size;
	const wide = across + 1;
	const chain = (count: number, step: number) => {
		let length = 0;
		for (let k = 0; k < count; k++) {
			const [a, b] = [k * step * 3, (k + 1) * step * 3];
			length += hypot(points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!);
		}
		return length;
	};
	const border = bayBorder(size);
	const n = newell(points, border.length, (k) => border[k]! * 3);
	const length = norm(n);
	const middle = [0, 1, 2].map((c) => border.reduce((sum, k) => sum + points[k * 3 + c]! / border.length, 0));
	let [warp, elevation] = [0, Infinity];
	for (let p = 0; p < points.length; p += 3) {
		const off = [0, 1, 2].reduce((sum, c) => sum + (points[p + c]! - middle[c]!) * n[c]!, 0);
		warp = Math.max(warp, length > 0 ? Math.abs(off) / length : 0);
		elevation = Math.min(elevation, points[p + 2]!);
	}
	const corners = Uint32Array.from({ length: across * up * 4 }, (_, k) => {
		const cell = k >> 2;
		const first = Math.floor(cell / across) * wide + (cell % across);
		return first + [0, 1, wide + 1, wide][k & 3]!;
	});
	const { columns } = measureCells(
		{ position: points },
		{
			count: across * up,
			cornerStart: Uint32Array.from({ length: across * up + 1 }, (_, c) => c * 4),
			corners,
			row: new Uint32Array(across * up),
			column: new Uint32Array(across * up),
			edgeCount: 0,
			edgeNodes: new Uint32Array(),
			edgeCells: new Int32Array()
		}
	);
	return {
		width: chain(across, 1),
		height: chain(up, wide),
		area: columns.area.reduce((a, b) => a + b, 0),
		warp,
		elevation
	};
}
