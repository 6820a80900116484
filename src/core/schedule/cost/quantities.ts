import { readingsOf } from '../../readings/faceReadings.ts';
import { NO_CELL } from '../../tiling/cells.ts';
import { NO_ROW } from '../faceTable.ts';
import { openingRows } from '../own/openings.ts';
import { Rows, type RowFace, type RowWorld } from '../own/rows.ts';
import { LINEAR, ONE_SIDED, partsOf } from '../parts.ts';
import { pieceMeshes } from '../pieceMesh.ts';
import { pricedPiece, Pricing } from './priceOf.ts';
import type { Rate } from './schema.ts';
import { leastRectangle } from './sheets.ts';

/** By what quantities are added up. */
export const TAKEN_BY = [
	'total',
	'face',
	'storey',
	'zone',
	'material',
	'role',
	'kit',
	'rate',
	'joint',
	'border',
	'opening',
	'sheet'
] as const;
export type TakenBy = (typeof TAKEN_BY)[number];

/** What they are added up by, in words. */
export const TAKEN_WORDS: Readonly<Record<TakenBy, string>> = {
	total: 'Total',
	face: 'Face',
	storey: 'Storey',
	zone: 'Zone',
	material: 'Material',
	role: 'Role',
	kit: 'Kit',
	rate: 'Rate',
	joint: 'Joints',
	border: 'Borders',
	opening: 'Openings',
	sheet: 'Sheets'
};

/** What some pieces come to: mm, mm2, mm3, kg and the project's currency. */
export interface Quantities {
	readonly by: TakenBy;
	readonly name: string;
	readonly pieces: number;
	/** Of bars, blades and joints; of openings all around. */
	readonly length: number;
	readonly area: number;
	/** Surface of materials with a finish: of sheets, plates and strips both sides, of all else all around. */
	readonly coated: number;
	readonly volume: number;
	readonly weight: number;
	/** Of sheets: the least rectangles that pieces are cut from. */
	readonly rectangles?: number;
	/** Of sheets how many there are at least. Of rates: what is paid for in the rate's unit, waste included. */
	readonly amount?: number;
	readonly unit?: string;
	/** Nothing of joints, borders, openings and sheets, which have no price of their own. */
	readonly cost?: number;
}

export interface QuantityTable {
	readonly rows: readonly Quantities[];
	/** Rates that hold for no piece, or for pieces that have none of what they are priced by. */
	readonly warnings: readonly string[];
	/** Pieces that are larger than a sheet. */
	readonly larger: readonly string[];
}

/** What rows are called that have no word. */
const WITHOUT: Readonly<Partial<Record<TakenBy, string>>> = { storey: 'No storey', zone: 'In no zone' };
const WORDS = ['face', 'storey', 'zone', 'material', 'role', 'kit'] as const;

type Sums = { -readonly [Key in keyof Omit<Quantities, 'by' | 'name' | 'unit' | 'rectangles'>]-?: number };
const nothing = (): Sums => ({ pieces: 0, length: 0, area: 0, coated: 0, volume: 0, weight: 0, amount: 0, cost: 0 });

/**
 * Everything that pieces come to, in all and by face, storey, zone, material, role, kit and rate; and the joints between
 * clad cells and along their borders, with the volume of sealant. O(pieces).
 */
export function quantitiesOf(faces: readonly RowFace[], world: RowWorld): QuantityTable {
	const rows = new Rows(faces, 'parts', world);
	const pricing = new Pricing(world.costs.rates);
	const finished = new Set(world.materials.filter((m) => m.finish).map((m) => m.id));
	const sums = new Map<string, Sums>();
	const sumOf = (by: TakenBy, name: string) => {
		const key = `${by}\n${name}`;
		const there = sums.get(key) ?? nothing();
		sums.set(key, there);
		return there;
	};
	const words = WORDS.map((by) => ({ by, words: rows.word(by)! }));
	const type = rows.word('type')!;
	const byRate = new Map<Rate, Sums & { empty: number }>();
	let row = 0;
	for (const face of faces) {
		const table = partsOf(face);
		for (let r = 0; r < table.count; r++, row++) {
			const { part } = table.parts[table.part[r]!]!;
			const piece = pricedPiece(table, r, type.words[type.index[row]!]!);
			const coated = finished.has(piece.material) ? piece.area * (ONE_SIDED.has(part.kind) ? 2 : 1) : 0;
			const prices = pricing.pricesOf(piece);
			const cost = prices.reduce((sum, p) => sum + p.cost, 0);
			const add = (to: Sums, paid: number) => {
				to.pieces++;
				to.length += LINEAR.has(part.kind) ? piece.length : 0;
				to.area += piece.area;
				to.coated += coated;
				to.volume += piece.volume;
				to.weight += piece.weight;
				to.cost += paid;
			};
			add(sumOf('total', ''), cost);
			for (const { by, words: column } of words) add(sumOf(by, column.words[column.index[row]!]!), cost);
			for (const { rate, amount, cost: paid } of prices) {
				const to = byRate.get(rate) ?? { ...nothing(), empty: 0 };
				byRate.set(rate, to);
				add(to, paid);
				to.amount += amount;
				if (!(amount > 0)) to.empty++;
			}
		}
	}
	const found: Quantities[] = [];
	for (const by of TAKEN_BY) {
		const own = [...sums].filter(([key]) => key.startsWith(`${by}\n`));
		// Faces as they stand in the project, all else by its name.
		if (by !== 'face') own.sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }));
		for (const [key, { amount: _, ...sum }] of own)
			found.push({ by, name: key.slice(by.length + 1) || (WITHOUT[by] ?? 'All pieces'), ...sum });
	}
	for (const rate of world.costs.rates) {
		const { empty: _, ...sum } = byRate.get(rate) ?? { ...nothing(), empty: 0 };
		found.push({ by: 'rate', name: nameOfRate(rate, world.materials), unit: rate.per, ...sum });
	}
	const sheets = sheetsOf(faces, world);
	return {
		rows: [...found, ...jointsOf(faces, world.costs.sealant), ...openingsOf(faces), ...sheets.rows],
		larger: sheets.larger,
		warnings: world.costs.rates.flatMap((rate) => {
			const sum = byRate.get(rate);
			const name = nameOfRate(rate, world.materials);
			if (!sum) return [`No piece is paid by “${name}”.`];
			return sum.empty
				? [`“${name}” is priced by ${rate.per}, of which ${sum.empty} of its ${sum.pieces} pieces have none.`]
				: [];
		})
	};
}

/** A rate by its heading and what it is narrowed to. */
export function nameOfRate(
	{ heading, role, material, kit, type }: Rate,
	materials: readonly { readonly id: string; readonly name?: string }[]
): string {
	const of = [type, kit, materials.find((m) => m.id === material)?.name ?? material, role].filter(Boolean);
	return of.length ? `${heading}: ${of.join(', ')}` : heading;
}

/** Lengths of edges between two clad cells, and of those with one, face by face; with the sealant that goes in. */
function* jointsOf(faces: readonly RowFace[], section: number): Generator<Quantities> {
	for (const by of ['joint', 'border'] as const)
		for (const face of faces) {
			const { rowOf } = face.schedule.tables.panels;
			const { edgeCells, edgeCount } = face.cells;
			const lengths = readingsOf(face).column('edge.length');
			let [length, pieces] = [0, 0];
			for (let e = 0; e < edgeCount; e++) {
				const clad = [edgeCells[e * 2]!, edgeCells[e * 2 + 1]!].filter((c) => c !== NO_CELL && rowOf[c] !== NO_ROW);
				if (clad.length !== (by === 'joint' ? 2 : 1)) continue;
				length += lengths[e]!;
				pieces++;
			}
			if (pieces)
				yield {
					by,
					name: face.name,
					pieces,
					length,
					area: 0,
					coated: 0,
					volume: by === 'joint' ? length * section : 0,
					weight: 0
				};
		}
}

/** Openings with all their copies: how many, how long around and how large on their face. */
function* openingsOf(faces: readonly RowFace[]): Generator<Quantities> {
	for (const face of faces) {
		const rows = openingRows(face);
		for (const opening of face.openings) {
			const copies = rows.filter((r) => r.opening === opening);
			if (copies.length === 0) continue;
			const sum = (of: 'around' | 'area') => copies.reduce((total, { figures }) => total + figures[of], 0);
			yield {
				by: 'opening',
				name: `${opening.name}, ${face.name}`,
				pieces: copies.length,
				length: sum('around'),
				area: sum('area'),
				coated: 0,
				volume: 0,
				weight: 0
			};
		}
	}
}

/** Sheets by material and thickness: their least rectangles, and how many of the project's sheets these fill at least. O(triangles of thin pieces). */
function sheetsOf(
	faces: readonly RowFace[],
	{ materials, costs: { sheet } }: RowWorld
): Pick<QuantityTable, 'rows' | 'larger'> {
	const [length, width] = sheet;
	const names = new Map(materials.map((m) => [m.id, m.name]));
	const sums = new Map<string, Omit<Sums, 'cost' | 'length' | 'amount'> & { rectangles: number; larger: number }>();
	for (const face of faces) {
		const table = partsOf(face);
		const { area, volume, weight } = table.columns;
		const meshes = table.parts.map(({ part }) => (ONE_SIDED.has(part.kind) ? pieceMeshes(part) : undefined));
		for (let r = 0; r < table.count; r++) {
			const mesh = meshes[table.part[r]!]?.(table.placed[r]!, table.element[r]!);
			const rectangle = mesh && leastRectangle(mesh);
			if (!rectangle || !(area![r]! > 0)) continue;
			const { material } = table.parts[table.part[r]!]!.part;
			const name = `${names.get(material) ?? material}, ${(volume![r]! / area![r]!).toFixed(1)} mm`;
			const sum = sums.get(name) ?? { pieces: 0, area: 0, coated: 0, volume: 0, weight: 0, rectangles: 0, larger: 0 };
			sums.set(name, sum);
			sum.pieces++;
			sum.area += area![r]!;
			sum.volume += volume![r]!;
			sum.weight += weight![r]!;
			sum.rectangles += rectangle[0] * rectangle[1];
			if (rectangle[0] > Math.max(length, width) || rectangle[1] > Math.min(length, width)) sum.larger++;
		}
	}
	const sorted = [...sums].sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }));
	return {
		rows: sorted.map(([name, { larger: _, ...sum }]) => ({
			by: 'sheet',
			name,
			length: 0,
			amount: Math.ceil(sum.rectangles / (length * width)),
			unit: 'sheet',
			...sum
		})),
		larger: sorted.flatMap(([name, { larger, pieces }]) =>
			larger ? [`${larger} of the ${pieces} pieces of ${name} are larger than a sheet of ${length} × ${width} mm.`] : []
		)
	};
}
