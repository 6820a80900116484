import { inRuns } from '../../placement/rules/conditions.ts';
import { readingsOf, type MeasuredFace, type ReadingName } from '../../readings/faceReadings.ts';
import { cellsAround } from '../../tiling/marks.ts';
import { pricedPiece, Pricing } from '../cost/priceOf.ts';
import type { Costs } from '../cost/schema.ts';
import { HOST_TABLES, HOST_WORDS, markOf, NO_ROW, type HostTableName } from '../faceTable.ts';
import type { RulePlacement } from '../kitsOf.ts';
import { hostsOn, partKeys, type FaceWithKeys, type HostKeys } from '../hostKeys.ts';
import { LINEAR, pieceMarks, partsOf, placedParts } from '../parts.ts';
import { faceOfRow, startsOf } from '../query.ts';
import { NO_TYPE, typesOf } from '../types/pieceTypes.ts';
import type { TypeSettings } from '../types/schema.ts';
import type { Kit } from '../../kit/schema.ts';
import { columnsOf, MEASURED, type RowColumn, type RowSource } from './columns.ts';
import { figureOn, isKitValue, kitColumns, parameterOf, wordOn } from './kitValues.ts';
import { cellsAtOpening, openingRows, type FaceWithOpenings, type OpeningRow } from './openings.ts';

/** A face whose rows are listed. */
export type RowFace = FaceWithKeys & MeasuredFace & FaceWithOpenings & { readonly name: string };

/** What of a project stands in rows beside what is made of it. */
export interface RowWorld {
	/** Names of rules by their ids; by nothing what is set by hand. */
	readonly rules: ReadonlyMap<string, string>;
	readonly materials: readonly { readonly id: string; readonly name: string; readonly finish?: string | undefined }[];
	readonly zones: readonly {
		readonly name: string;
		readonly parts: readonly {
			readonly face: string;
			readonly runs: readonly (readonly [number, number, number])[];
		}[];
	}[];
	readonly levels: readonly { readonly name: string; readonly height: number }[];
	readonly costs: Costs;
	readonly types: TypeSettings;
	readonly kits: readonly Pick<Kit, 'name' | 'parameters'>[];
}

/** Words of rows, each once. */
export interface Words {
	readonly words: readonly string[];
	/** By row, into `words`. */
	readonly index: Uint32Array;
}

/** What stands for no storey and no zone. */
const NONE = '';

/** The rows of a table over all faces. A column is put together when somebody asks for it, once. */
export class Rows {
	readonly of: RowSource;
	readonly count: number;
	/** What can be asked for by name. */
	readonly columns: Readonly<Record<string, RowColumn>>;
	/** First row of each face, and the number of all. */
	readonly starts: Uint32Array;
	private readonly faces: readonly RowFace[];
	private readonly world: RowWorld;
	private readonly words = new Map<string, Words>();
	private readonly figures = new Map<string, Float64Array>();
	private hosts: readonly HostKeys[] | undefined;
	private keys: readonly string[] | undefined;

	constructor(faces: readonly RowFace[], of: RowSource, world: RowWorld) {
		this.faces = faces;
		this.of = of;
		this.world = world;
		this.columns = { ...columnsOf(of), ...(of === 'openings' ? {} : kitColumns(world.kits)) };
		this.starts = startsOf(
			faces.map((face) => {
				if (of === 'openings') return { count: openingRows(face).length };
				return of === 'parts' ? partsOf(face) : face.schedule.tables[of];
			})
		);
		this.count = this.starts.at(-1)!;
	}

	/** Whether rows of these faces in such a world would show the very same. */
	showsAlike(faces: readonly RowFace[], world: RowWorld): boolean {
		const { rules, ...rest } = world;
		const own = this.world;
		return (
			faces.length === this.faces.length &&
			faces.every((face, f) => face === this.faces[f]) &&
			Object.entries(rest).every(([name, value]) => value === own[name as keyof RowWorld]) &&
			rules.size === own.rules.size &&
			[...rules].every(([id, rule]) => own.rules.get(id) === rule)
		);
	}

	/** Which face, and which row of it. */
	place(row: number): { readonly face: number; readonly at: number } {
		const face = faceOfRow(this.starts, row);
		return { face, at: row - this.starts[face]! };
	}

	/** The rows that belong to cells: of edges and nodes those that are named by them, openings at them; rising. O(rows of their faces). */
	at(cells: readonly { readonly face: number; readonly cell: number }[]): number[] {
		const rows: number[] = [];
		for (const f of [...new Set(cells.map((c) => c.face))].sort((a, b) => a - b)) {
			const face = this.faces[f];
			if (!face) continue;
			const wanted = new Set(cells.filter((c) => c.face === f).map((c) => c.cell));
			const isAt = this.isAtCells(face, wanted);
			for (let r = this.starts[f]!; r < this.starts[f + 1]!; r++) if (isAt(r - this.starts[f]!)) rows.push(r);
		}
		return rows;
	}

	/** What each row is known by, as long as its face and its place there are. O(rows), once. */
	keyOf(row: number): string {
		this.keys ??= this.faces.flatMap((face, f) => {
			const { of } = this;
			if (of === 'openings')
				return openingRows(face).map(({ opening, copy }) => `${face.key} opening ${opening.id} ${copy}`);
			if (of === 'parts') return partKeys(face, this.hostKeys()[f]!);
			const { count } = face.schedule.tables[of];
			return Array.from(
				{ length: count },
				(_, r) => `${face.key} ${HOST_WORDS[of]} ${this.hostKeys()[f]!.keyOf(of, r)}`
			);
		});
		return this.keys[row]!;
	}

	/** A column of words; nothing where there is none of that name. */
	word(name: string): Words | undefined {
		const known = this.words.get(name);
		if (known) return known;
		if (!Object.hasOwn(this.columns, name) || this.columns[name]!.quantity) return undefined;
		const made = this.makeWords(name);
		this.words.set(name, made);
		return made;
	}

	/** A column of figures in mm, mm2, mm3, radians and kg; nothing where there is none of that name. */
	figure(name: string): Float64Array | undefined {
		const known = this.figures.get(name);
		if (known) return known;
		if (!Object.hasOwn(this.columns, name) || !this.columns[name]!.quantity) return undefined;
		const made =
			name === 'cost' ? this.makeCosts() : isKitValue(name) ? this.makeKitFigures(name) : this.makeFigures(name);
		this.figures.set(name, made);
		return made;
	}

	private hostKeys(): readonly HostKeys[] {
		return (this.hosts ??= this.faces.map(hostsOn));
	}

	/** Puts a column together face by face. */
	private eachFace(write: (face: RowFace, f: number, from: number, count: number) => void): void {
		this.faces.forEach((face, f) => write(face, f, this.starts[f]!, this.starts[f + 1]! - this.starts[f]!));
	}

	private makeFigures(name: string): Float64Array {
		const out = new Float64Array(this.count);
		const kind = MEASURED[this.of as keyof typeof MEASURED];
		this.eachFace((face, _, from, count) => {
			if (this.of === 'openings')
				return openingRows(face).forEach(({ figures }, r) => (out[from + r] = figures[name as keyof typeof figures]));
			const table = this.of === 'parts' ? partsOf(face) : face.schedule.tables[this.of];
			if (name === 'barLength') {
				const { parts, part, columns } = partsOf(face);
				for (let r = 0; r < count; r++) if (LINEAR.has(parts[part[r]!]!.part.kind)) out[from + r] = columns.length![r]!;
				return;
			}
			const column = table.columns[name];
			if (column) return out.set(column.subarray(0, count), from);
			const values = readingsOf(face).column(`${kind}.${name}` as ReadingName);
			for (let r = 0; r < count; r++) out[from + r] = values[table.host[r]!]!;
		});
		return out;
	}

	/** A parameter of the kits that rows are of; of hosts the first kit's that has it. */
	private makeKitFigures(name: string): Float64Array {
		const out = new Float64Array(this.count).fill(NaN);
		const quantity = this.columns[name]!.quantity!;
		this.eachKitValue(
			(placement) => figureOn(placement, parameterOf(name), quantity),
			(row, value) => Number.isNaN(out[row]!) && (out[row] = value)
		);
		return out;
	}

	/** Goes through the values of a parameter where there are any, those of the first rule first. */
	private eachKitValue<Value>(
		valueOn: (placement: RulePlacement) => (row: number) => Value,
		put: (row: number, value: Value) => void
	): void {
		this.eachFace((face, _, from, count) => {
			if (this.of === 'parts') {
				const { parts, part, placed } = partsOf(face);
				const values = parts.map(({ placement }) => valueOn(placement));
				for (let r = 0; r < count; r++) put(from + r, values[part[r]!]!(placed[r]!));
				return;
			}
			const seen = new Set<RulePlacement>();
			for (const { placement, table, hostRow } of placedParts(face)) {
				if (table !== this.of || seen.has(placement)) continue;
				seen.add(placement);
				const value = valueOn(placement);
				hostRow.forEach((row, h) => row !== NO_ROW && put(from + row, value(h)));
			}
		});
	}

	private makeCosts(): Float64Array {
		const pricing = new Pricing(this.world.costs.rates);
		const type = this.word('type')!;
		const out = new Float64Array(this.count);
		this.eachFace((face, _, from, count) => {
			const table = partsOf(face);
			for (let r = 0; r < count; r++)
				out[from + r] = pricing.costOf(pricedPiece(table, r, type.words[type.index[from + r]!]!));
		});
		return out;
	}

	private makeWords(name: string): Words {
		const gathered = new Gathered(this.count);
		if (isKitValue(name)) {
			for (let r = 0; r < this.count; r++) gathered.put(r, NONE);
			this.eachKitValue(
				(placement) => wordOn(placement, parameterOf(name)),
				(row, value) => value && gathered.words[gathered.index[row]!] === NONE && gathered.put(row, value)
			);
			return gathered;
		}
		this.eachFace((face, f, from, count) => {
			const wordAt = this.wordOf(name, face, f);
			for (let r = 0; r < count; r++) gathered.put(from + r, wordAt(r));
		});
		return gathered;
	}

	/** The word of each row of a face. */
	private wordOf(name: string, face: RowFace, f: number): (row: number) => string {
		const { of, world } = this;
		switch (name) {
			case 'face':
				return () => face.name;
			case 'storey': {
				const levels = [...world.levels].sort((a, b) => a.height - b.height);
				return (r) => {
					const z = this.heightOf(face, f, r);
					const below = levels.filter((l) => l.height <= z).at(-1);
					return below?.name ?? (levels.length && !Number.isNaN(z) ? `Below ${levels[0]!.name}` : NONE);
				};
			}
			case 'zone': {
				const zones = this.zonesOf(face);
				const cellAt = this.cellOf(face);
				return (r) => zones[cellAt(r)] ?? NONE;
			}
		}
		if (of === 'openings') return openingWord(openingRows(face), name as 'mark' | 'opening');
		if (of !== 'parts') {
			if (name === 'mark') return (r) => markOf(face.schedule, of, r);
			if (name === 'role')
				return (r) => face.cells.roles?.[face.cells.role?.[face.schedule.tables[of].host[r]!] ?? 0] ?? '';
			const { words, index } = face.schedule.tables[of].words[name]!;
			return (r) => words[index[r]!]!;
		}
		const table = partsOf(face);
		switch (name) {
			case 'mark': {
				const marks = pieceMarks(face);
				return (r) => marks[r]!;
			}
			case 'hostMark':
				return (r) => markOf(face.schedule, HOST_TABLES[table.hostTable[r]!]!, table.host[r]!);
			case 'hostKind':
				return (r) => HOST_WORDS[HOST_TABLES[table.hostTable[r]!]!];
			case 'rule':
				return (r) => world.rules.get(table.parts[table.part[r]!]!.placement.rule) ?? '';
			case 'shape':
				return (r) => table.parts[table.part[r]!]!.part.kind;
			case 'kit':
				return (r) => table.parts[table.part[r]!]!.kit.name;
			case 'material': {
				const names = new Map(world.materials.map((m) => [m.id, m.name]));
				const { words, index } = table.words.material!;
				return (r) => names.get(words[index[r]!]!) ?? words[index[r]!]!;
			}
			case 'type': {
				const { types, typeOf } = typesOf(this.faces, world.types);
				const own = typeOf[f]!;
				return (r) => (own[r] === NO_TYPE ? NONE : types[own[r]!]!.mark);
			}
			default: {
				const { words, index } = table.words[name]!;
				return (r) => words[index[r]!]!;
			}
		}
	}

	/** The middle of a row's host above the ground, mm. */
	private heightOf(face: RowFace, f: number, r: number): number {
		if (this.of === 'openings') {
			const { sill, head } = openingRows(face)[r]!.figures;
			return (sill + head) / 2;
		}
		const { table, row } = this.hostOf(face, r);
		return this.hostKeys()[f]!.middleOf(table, row)[2]!;
	}

	/** Whether a row of a face belongs to any of its cells that are wanted. */
	private isAtCells(face: RowFace, wanted: ReadonlySet<number>): (row: number) => boolean {
		if (this.of === 'openings')
			return (r) => cellsAtOpening(face, openingRows(face)[r]!).some((cell) => wanted.has(cell));
		const cellAt = this.cellOf(face);
		return (r) => wanted.has(cellAt(r));
	}

	/** The table and row of what a row stands on. */
	private hostOf(face: RowFace, r: number): { readonly table: HostTableName; readonly row: number } {
		if (this.of === 'openings') throw new Error('Openings stand on no host');
		if (this.of !== 'parts') return { table: this.of, row: r };
		const { hostTable, host } = partsOf(face);
		return { table: HOST_TABLES[hostTable[r]!]!, row: host[r]! };
	}

	/** The cell that a row belongs to: of edges and nodes the one that they are named by; -1 for paths. */
	private cellOf(face: RowFace): (row: number) => number {
		const { tables } = face.schedule;
		const { cells } = face;
		const nodes = tables.nodes.count ? cellsAround(cells, new Set(tables.nodes.host)) : undefined;
		return (r) => {
			const { table, row } = this.hostOf(face, r);
			const element = tables[table].host[row]!;
			if (table === 'panels' || table === 'bays') return element;
			if (table === 'edges') return cells.edgeCells[element * 2]!;
			return table === 'nodes' ? (nodes!.get(element)?.[0] ?? -1) : -1;
		};
	}

	/** By cell: the first zone that it is in. */
	private zonesOf({ key, cells }: RowFace): (string | undefined)[] {
		const out: (string | undefined)[] = new Array(cells.count);
		for (const { name, parts } of this.world.zones)
			for (const { face, runs } of parts) {
				if (face !== key) continue;
				inRuns(cells, runs).forEach((within, c) => within && (out[c] ??= name));
			}
		return out;
	}
}

const openingWord =
	(rows: readonly OpeningRow[], name: 'mark' | 'opening') =>
	(r: number): string =>
		name === 'mark' ? rows[r]!.mark : rows[r]!.opening.name;

/** Words as they come, each kept once. */
class Gathered implements Words {
	readonly words: string[] = [];
	readonly index: Uint32Array;
	private readonly known = new Map<string, number>();

	constructor(count: number) {
		this.index = new Uint32Array(count);
	}

	put(row: number, word: string): void {
		let at = this.known.get(word);
		if (at === undefined) {
			at = this.words.push(word) - 1;
			this.known.set(word, at);
		}
		this.index[row] = at;
	}
}
