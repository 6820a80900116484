import { pointOn } from '../../geometry/pointOn.ts';
import type { MeasuredFace } from '../../readings/faceReadings.ts';
import { developmentOf, FlatFinder, flattenPlaces, type ChartedFace } from '../../settingout/development.ts';
import { FaceLines } from '../../tiling/openings/faceLine.ts';
import type { LaidOpening } from '../../tiling/openings/layOpening.ts';
import { areaOnFace, followed, lengthOnFace, sizeOnFace } from '../../tiling/openings/onFace.ts';
import { ringArea, ringLength, type Ring } from '../../tiling/openings/rings.ts';
import type { TableDefinition } from '../tables.ts';

/** The rows of openings: one a copy. Borders are none. */
export const OPENING_TABLE = {
	label: 'Openings',
	one: 'opening',
	many: 'openings',
	mark: 'Its name, and which of its copies it is',
	words: { opening: { label: 'Opening', meaning: 'Its name, which its copies share' } },
	columns: {
		copy: { label: 'Copy', quantity: 'count', meaning: 'Counted from 1', total: 'none', decimals: 0 },
		width: {
			label: 'Width',
			quantity: 'length',
			meaning:
				'Across, as it was drawn; of what is projected, laid flat, or seen square to a face that does not unroll',
			total: 'none',
			decimals: 1
		},
		height: { label: 'Height', quantity: 'length', meaning: 'Up, in the same way', total: 'none', decimals: 1 },
		around: { label: 'Around', quantity: 'length', meaning: 'Of its line on the face', total: 'sum', decimals: 1 },
		area: { label: 'Area', quantity: 'area', meaning: 'Of the face within its line', total: 'sum', decimals: 4 },
		across: {
			label: 'Across',
			quantity: 'length',
			meaning: 'Of its middle from the start of the face, laid flat',
			total: 'none',
			decimals: 1
		},
		up: {
			label: 'Up',
			quantity: 'length',
			meaning: 'Of its middle from the lower side of the face, laid flat',
			total: 'none',
			decimals: 1
		},
		sill: { label: 'Lowest', quantity: 'length', meaning: 'Of its line above the ground', total: 'none', decimals: 1 },
		head: { label: 'Highest', quantity: 'length', meaning: 'Of its line above the ground', total: 'none', decimals: 1 }
	}
} as const satisfies TableDefinition;

/** A face whose openings are listed. */
export interface FaceWithOpenings extends Pick<MeasuredFace, 'nodes' | 'cells'> {
	readonly openings: readonly LaidOpening[];
	/** Left out only of faces without openings. */
	readonly charted: ChartedFace;
}

export interface OpeningRow {
	readonly opening: LaidOpening;
	/** From 0. */
	readonly copy: number;
	readonly mark: string;
	readonly figures: Readonly<Record<keyof typeof OPENING_TABLE.columns, number>>;
}

/** Laid openings never change. */
const known = new WeakMap<readonly LaidOpening[], readonly OpeningRow[]>();

/** The openings of a face, in their order. O(points of their lines), once. */
export function openingRows({
	openings,
	charted
}: Pick<FaceWithOpenings, 'openings' | 'charted'>): readonly OpeningRow[] {
	const there = known.get(openings);
	if (there) return there;
	const rows = openings
		.filter((o) => o.role === 'opening')
		.flatMap((opening) =>
			opening.rings.map((ring, copy): OpeningRow => ({
				opening,
				copy,
				mark: opening.rings.length > 1 ? `${opening.name} ${copy + 1}` : opening.name,
				figures: { copy: copy + 1, ...figuresOf(charted, opening, copy), ...heightsOf(charted, ring) }
			}))
		);
	known.set(openings, rows);
	return rows;
}

function figuresOf(charted: ChartedFace, { rings, size, around }: LaidOpening, copy: number) {
	const ring = rings[copy]!;
	const [x0, y0, x1, y1] = boxOf(ring);
	const place = { across: (x0 + x1) / 2, up: (y0 + y1) / 2 };
	const own = around?.[copy] ?? 0;
	if (own === 0 && developmentOf(charted).unrolls) {
		const [width, height] = size ?? [x1 - x0, y1 - y0];
		return { width, height, around: ringLength(ring), area: ringArea(ring), ...place };
	}
	const line = new FaceLines(charted).lineAt(followed(ring, own));
	const [width, height] = size ?? sizeOnFace(charted, line);
	return { width, height, around: lengthOnFace(charted, line), area: areaOnFace(charted, line), ...place };
}

/** Where its line is lowest and highest on the face; nothing where no point of it is on the face. */
function heightsOf(charted: ChartedFace, ring: Ring): { sill: number; head: number } {
	const finder = new FlatFinder(developmentOf(charted));
	let [sill, head] = [Infinity, -Infinity];
	for (const [x, y] of ring) {
		const at = finder.find(x, y);
		if (!at) continue;
		const z = pointOn(charted.surface, at.u, at.v).position[2]!;
		[sill, head] = [Math.min(sill, z), Math.max(head, z)];
	}
	return sill <= head ? { sill, head } : { sill: NaN, head: NaN };
}

function boxOf(points: Iterable<readonly [number, number]>): [number, number, number, number] {
	const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const [x, y] of points) {
		box[0] = Math.min(box[0], x);
		box[1] = Math.min(box[1], y);
		box[2] = Math.max(box[2], x);
		box[3] = Math.max(box[3], y);
	}
	return box;
}

/** Nodes laid flat, once for all openings of a face. */
const flats = new WeakMap<FaceWithOpenings['nodes'], Float64Array>();

/** The cells whose box meets that of an opening with its frame: those that it has cut, and those right beside. O(corners). */
export function cellsAtOpening({ charted, nodes, cells }: FaceWithOpenings, { opening, copy }: OpeningRow): number[] {
	const flat = flats.get(nodes) ?? flattenPlaces(developmentOf(charted), nodes);
	flats.set(nodes, flat);
	const { count, cornerStart, corners, places = corners } = cells;
	const [x0, y0, x1, y1] = boxOf(opening.framed[copy]!);
	const found: number[] = [];
	for (let c = 0; c < count; c++) {
		const line = Array.from(places.subarray(cornerStart[c], cornerStart[c + 1]), (p): [number, number] => [
			flat[p * 2]!,
			flat[p * 2 + 1]!
		]);
		const box = boxOf(line);
		if (box[0] <= x1 && box[2] >= x0 && box[1] <= y1 && box[3] >= y0) found.push(c);
	}
	return found;
}
