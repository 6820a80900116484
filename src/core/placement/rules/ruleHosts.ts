import { hypot } from '../../elementary/index.ts';
import { BAY_READINGS } from '../../kit/bayReadings.ts';
import type { BaySize } from '../../kit/baySize.ts';
import { BESIDE_READINGS, PATH_READINGS } from '../../kit/hostReadings.ts';
import type { KitHost } from '../../kit/schema.ts';
import { CELL_READINGS } from '../../readings/cellReadings.ts';
import type { ReadingDefinition } from '../../readings/definition.ts';
import { edgeKinds } from '../../readings/edgeKinds.ts';
import { EDGE_READINGS, NODE_READINGS } from '../../readings/lineReadings.ts';
import { readingsOf, type MeasuredFace, type ReadingName } from '../../readings/faceReadings.ts';
import { developmentOf, flattenPlaces, type ChartedFace } from '../../settingout/development.ts';
import { NO_CELL, outlinesOf } from '../../tiling/cells.ts';
import type { Point } from '../../geometry/curve.ts';
import { besideReadings, type MeetingFace } from '../besideFace.ts';
import { flattener } from '../fields/flatten.ts';
import { takesCorners } from '../../kit/corners.ts';
import { cellsAround, edgeOwner, nodeOwner } from '../../tiling/marks.ts';
import type { DrawnPaths } from '../drawn/drawPaths.ts';
import { baysOf, type Bays } from '../bays.ts';
import { ACROSS, DRAWN, drawnPathsOf, pathsOf, UP, type Paths } from '../paths.ts';
import { spokesOf, type Spokes } from '../spokes.ts';
import { countsOf, interleaved, listsOf, means, type Lists } from './hostLists.ts';
import type { SetHost } from './schema.ts';

/** A face that rules are worked out on. */
export interface RuledFace extends MeasuredFace {
	readonly charted: ChartedFace;
	readonly drawn?: DrawnPaths;
	/** Divided faces whose borders meet its own; known only where rules ask. */
	readonly neighbours?: readonly MeetingFace[];
}

/** What readings hosts of a set have. */
export const READINGS_OF_SET: Readonly<Record<SetHost, Readonly<Record<string, ReadingDefinition>>>> = {
	cell: CELL_READINGS,
	edge: { ...EDGE_READINGS, ...BESIDE_READINGS },
	node: NODE_READINGS,
	path: PATH_READINGS,
	bay: BAY_READINGS
};

/** What bays are where none is named. */
const ONE_CELL: BaySize = { across: 1, up: 1 };

/** Numbers of a host's key: row, column, piece, and side or corner. */
export const KEY_SIZE = 4;

/** Everything of a face that rules of a set can take. What it tells is worked out when it is asked for, once. */
export class RuleHosts {
	readonly kind: SetHost;
	readonly face: RuledFace;
	private readonly bay: BaySize;
	readonly count: number;
	private readonly known = new Map<string, unknown>();

	constructor(kind: SetHost, face: RuledFace, bay: BaySize = ONE_CELL) {
		this.kind = kind;
		this.face = face;
		this.bay = bay;
		const { cells, nodes } = face;
		this.count = {
			cell: () => cells.count,
			bay: () => cells.count,
			edge: () => cells.edgeCount,
			node: () => nodes.position.length / 3,
			path: () => Object.values(this.paths).reduce((n, paths) => n + paths.line.length, 0)
		}[kind]();
	}

	/** Themselves: fields that hang on cells can be worked out on them. */
	get onCells(): this {
		return this;
	}

	/** 0 where nothing can stand, as on nodes without edges; all can where left out. */
	get stands(): Uint8Array | undefined {
		return this.kind === 'node' ? this.spokes.used : this.kind === 'bay' ? this.bays.begins : undefined;
	}

	get spokes(): Spokes {
		return this.once('spokes', () => spokesOf(this.face));
	}

	/** The bays of the face; a host is the first cell of one. */
	get bays(): Bays {
		return baysOf(this.face, this.bay);
	}

	/** All lines of the setting-out, those across and behind them those up, and then the drawn paths. */
	get paths(): { readonly across: Paths; readonly up: Paths; readonly drawn: Paths } {
		return this.once('paths', () => ({
			across: pathsOf(this.face, 'across', 1),
			up: pathsOf(this.face, 'up', 1),
			drawn: drawnPathsOf(this.face)
		}));
	}

	/** Which of those paths a host is. */
	pathOf(h: number): { readonly paths: Paths; readonly at: number } {
		const { across, up, drawn } = this.paths;
		const [a, u] = [across.line.length, up.line.length];
		if (h < a) return { paths: across, at: h };
		return h < a + u ? { paths: up, at: h - a } : { paths: drawn, at: h - a - u };
	}

	/** By host: the path that it is drawn by; nothing for lines of the setting-out. */
	drawnBy(h: number): string | undefined {
		const { paths, at } = this.pathOf(h);
		return paths === this.paths.drawn ? this.face.drawn!.ids[at] : undefined;
	}

	/** A reading by host; nothing where hosts of the kind have no such reading. */
	reading(name: string): Float64Array | undefined {
		if (!Object.hasOwn(READINGS_OF_SET[this.kind], name)) return undefined;
		if (this.kind === 'bay') return this.bays.reading(name);
		if (Object.hasOwn(BESIDE_READINGS, name))
			return this.once('beside', () => besideReadings(this.face, this.face.neighbours ?? []))[
				name as keyof typeof BESIDE_READINGS
			];
		if (this.kind !== 'path') return readingsOf(this.face).column(`${this.kind}.${name}` as ReadingName);
		return this.once(`reading ${name}`, () => {
			return Float64Array.from(Object.values(this.paths).flatMap((paths) => [...paths.reading(name)!]));
		});
	}

	/** The nodes of each host. */
	get nodes(): Lists {
		return this.once('nodes', () => {
			const { cells } = this.face;
			switch (this.kind) {
				case 'cell': {
					const { cornerStart, corners } = outlinesOf(cells);
					return { start: cornerStart, items: corners };
				}
				case 'edge':
					return { start: Uint32Array.from({ length: this.count + 1 }, (_, e) => e * 2), items: cells.edgeNodes };
				case 'bay':
					return { start: this.bays.cornerStart, items: this.bays.corners };
				case 'node':
					return listsOf(Array.from({ length: this.count }, (_, n) => [n]));
				case 'path':
					return listsOf(
						Object.values(this.paths).flatMap(({ cornerStart, corners }) =>
							Array.from({ length: cornerStart.length - 1 }, (_, p) => [
								...corners.subarray(cornerStart[p], cornerStart[p + 1])
							])
						)
					);
			}
		});
	}

	/** The cells that each host is, lies between or touches. */
	get cells(): Lists {
		return this.once('cells', () => {
			const { count, edgeCells } = this.face.cells;
			if (this.kind === 'cell')
				return {
					start: Uint32Array.from({ length: count + 1 }, (_, c) => c),
					items: Uint32Array.from({ length: count }, (_, c) => c)
				};
			if (this.kind === 'bay')
				return listsOf(
					Array.from({ length: count }, (_, c) => (this.bays.begins[c] === 1 ? this.bays.cellsOf(c) : []))
				);
			if (this.kind === 'edge')
				return listsOf(
					Array.from({ length: this.count }, (_, e) =>
						[edgeCells[2 * e]!, edgeCells[2 * e + 1]!].filter((c) => c !== NO_CELL)
					)
				);
			const { start, items } = this.nodes;
			const around = this.cellsOfNodes;
			return listsOf(
				Array.from({ length: this.count }, (_, h) => [
					...new Set(
						(this.nodesDrawn(h) ?? [...items.subarray(start[h], start[h + 1])]).flatMap((n) => around.get(n) ?? [])
					)
				])
			);
		});
	}

	/** The nodes that a drawn path runs through; nothing for other hosts. */
	private nodesDrawn(h: number): readonly number[] | undefined {
		if (this.kind !== 'path') return undefined;
		const { paths, at } = this.pathOf(h);
		return paths.way[at] === DRAWN ? this.face.drawn!.nodes[at]! : undefined;
	}

	private get cellsOfNodes(): Map<number, number[]> {
		return this.once('around', () => cellsAround(this.face.cells, new Set(this.face.cells.corners)));
	}

	/** What numbers of nodes stand for: of paths points of drawn ones, too. */
	get points(): { readonly position: Float64Array; readonly normal: Float64Array } {
		const { drawn } = this.face;
		if (this.kind !== 'path' || !drawn?.count) return this.face.nodes;
		const { position, pointNormal: normal } = this.paths.drawn;
		return { position, normal };
	}

	/** The middle of each host, mm, stride 3: the mean of its nodes. */
	get centres(): Float64Array {
		return this.once('centres', () => {
			if (this.kind === 'cell') return interleaved(['x', 'y', 'z'].map((name) => this.reading(name)!));
			const { start, items } = this.nodes;
			const { position } = this.points;
			return means(start, 3, (k, c) => position[items[k]! * 3 + c]!);
		});
	}

	/** Unit outward normals, stride 3: of cells their own, of others the mean of their nodes'. */
	get normals(): Float64Array {
		return this.once('normals', () => {
			if (this.kind === 'cell') return this.face.readings.normal;
			const { start, items } = this.nodes;
			const { normal } = this.points;
			const mean = means(start, 3, (k, c) => normal[items[k]! * 3 + c]!);
			for (let o = 0; o < mean.length; o += 3) {
				const size = hypot(mean[o]!, mean[o + 1]!, mean[o + 2]!);
				if (size > 0) for (let c = 0; c < 3; c++) mean[o + c]! /= size;
			}
			return mean;
		});
	}

	/** Where the middle of each host lies flat, mm, stride 2. */
	get flat(): Float64Array {
		return this.once('flat', () => {
			const { cells, nodes, charted } = this.face;
			const { cornerStart, corners, places = corners } = cells;
			const flat = flattenPlaces(developmentOf(charted), nodes);
			const ofCells = means(cornerStart.subarray(0, cells.count + 1), 2, (k, c) => flat[places[k]! * 2 + c]!);
			if (this.kind === 'cell') return ofCells;
			// A node over a seam has two places: that of the first cell of the host counts for all of its nodes.
			const { start, items } = this.nodes;
			const around = this.cells;
			const out = new Float64Array(this.count * 2);
			let nearest: ReturnType<typeof flattener> | undefined;
			for (let h = 0; h < this.count; h++) {
				const own = [...items.subarray(start[h], start[h + 1])];
				const entries = [...around.items.subarray(around.start[h], around.start[h + 1])].map((cell) => {
					const list: number[] = [];
					for (let k = cornerStart[cell]!; k < cornerStart[cell + 1]!; k++) if (own.includes(corners[k]!)) list.push(k);
					return list;
				});
				if (this.nodesDrawn(h)) {
					nearest ??= flattener(charted);
					const [x, y] = nearest([[...this.centres.subarray(h * 3, h * 3 + 3)] as unknown as Point])[0]!;
					out.set([x, y], h * 2);
					continue;
				}
				const ends = this.kind === 'path' ? entries.flat() : (entries[0] ?? []);
				for (const c of [0, 1])
					out[h * 2 + c] = ends.reduce((sum, k) => sum + flat[places[k]! * 2 + c]!, 0) / Math.max(1, ends.length);
			}
			return out;
		});
	}

	/** What edges and nodes are named by: a cell, and its side or corner; none for a node without edges. Stride 2. */
	private get owners(): Int32Array {
		return this.once('owners', () => {
			const { cells } = this.face;
			const owners = new Int32Array(this.count * 2).fill(NO_CELL);
			for (let h = 0; h < this.count; h++) {
				const around = this.kind === 'node' ? this.cellsOfNodes.get(h) : undefined;
				if (this.kind === 'node' && !around) continue;
				const { cell, at } = around ? nodeOwner(cells, h, around) : edgeOwner(cells, h);
				owners[h * 2] = cell;
				owners[h * 2 + 1] = at;
			}
			return owners;
		});
	}

	/** What each host is known by, whatever else changes: row and column from 0, piece, and side or corner. Stride 4. */
	get keys(): Uint32Array {
		return this.once('keys', () => {
			const { cells } = this.face;
			const keys = new Uint32Array(this.count * KEY_SIZE);
			const put = (h: number, row: number, column: number, piece: number, at: number) => {
				keys[h * KEY_SIZE] = row;
				keys[h * KEY_SIZE + 1] = column;
				keys[h * KEY_SIZE + 2] = piece;
				keys[h * KEY_SIZE + 3] = at;
			};
			if (this.kind === 'path') {
				for (let h = 0; h < this.count; h++) {
					const { paths, at } = this.pathOf(h);
					put(h, paths.line[at]! - 1, 0, paths.piece[at]!, paths.way[at]!);
				}
				return keys;
			}
			const owners = this.kind === 'cell' || this.kind === 'bay' ? undefined : this.owners;
			for (let h = 0; h < this.count; h++) {
				const cell = owners ? owners[h * 2]! : h;
				if (cell !== NO_CELL)
					put(h, cells.row[cell]!, cells.column[cell]!, cells.trim?.piece[cell] ?? 0, owners ? owners[h * 2 + 1]! : 0);
			}
			return keys;
		});
	}

	/** Row or column, counted from 1 as marks count them: of cells their own, of edges and nodes that of their marks, of paths which line it is. */
	lineOf(which: 'row' | 'column'): Float64Array {
		if (this.kind === 'path') return this.reading('row')!;
		const ofCells = readingsOf(this.face).column(`cell.${which}`);
		if (this.kind === 'cell' || this.kind === 'bay') return ofCells;
		return this.once(which, () =>
			Float64Array.from({ length: this.count }, (_, h) => ofCells[this.owners[h * 2]!] ?? NaN)
		);
	}

	/** How many corners hosts have: each number once. */
	private get cornerCounts(): readonly number[] {
		return this.once('corner counts', () => countsOf(this.nodes.start));
	}

	/** Whether a kit is made for each host, as far as its kind tells; `ALL_FIT` where it is made for all of them. */
	fits(host: KitHost, trims = false): (h: number) => boolean {
		switch (host.kind) {
			case 'cell':
			case 'box': {
				const { start } = this.nodes;
				const wholes = trims ? this.face.cells.trim?.wholes : undefined;
				if (!wholes && this.cornerCounts.every((corners) => takesCorners(host, corners))) return ALL_FIT;
				return (h) => takesCorners(host, wholes?.get(h)?.corners.length ?? start[h + 1]! - start[h]!);
			}
			case 'edge': {
				if (host.on === 'middles' && !host.edges.length) return (h) => this.face.cells.edgeCells[2 * h + 1] !== NO_CELL;
				if (!host.edges.length) return () => true;
				const kinds = this.once('kinds', () => edgeKinds(this.face.nodes, this.face.cells));
				const names: readonly string[] = EDGE_READINGS.kind.kinds;
				const wanted: readonly string[] = host.on === 'middles' ? host.edges.filter((e) => e !== 'border') : host.edges;
				return (h) => wanted.includes(names[kinds[h]!]!);
			}
			case 'bay':
				return (h) => host.across === this.bay.across && host.up === this.bay.up && this.bays.begins[h] === 1;
			case 'node': {
				const { border } = this.spokes;
				return (h) => host.nodes === 'all' || (border[h] === 1) === (host.nodes === 'border');
			}
			case 'path': {
				const { start } = this.nodes;
				return (h) => {
					const { paths, at } = this.pathOf(h);
					if (host.points !== undefined && start[h + 1]! - start[h]! !== host.points) return false;
					if (paths.way[at] === DRAWN) return true;
					return paths.way[at] === (host.along === 'across' ? ACROSS : UP) && (paths.line[at]! - 1) % host.every === 0;
				};
			}
		}
	}

	private once<T>(name: string, make: () => T): T {
		if (!this.known.has(name)) this.known.set(name, make());
		return this.known.get(name) as T;
	}
}

/** Holds for every host. */
export const ALL_FIT = (): boolean => true;

/** The set that kits of a host can stand in. */
export const setHostOf = (host: Pick<KitHost, 'kind'>): SetHost => (host.kind === 'box' ? 'cell' : host.kind);
