import { FRESH_ARRAYS, type ArraySource } from '../arrays.ts';
import { compileKit, type CompileOptions } from '../kit/compileKit.ts';
import { takesCorners } from '../kit/corners.ts';
import { evaluateKit } from '../kit/evaluate.ts';
import type { HostColumns, HostKind, HostShape } from '../kit/hosts.ts';
import type { EachPiece, KitProgram } from '../kit/program.ts';
import type { Failure, KitResult, PartColumns, PartGeometry } from '../kit/result.ts';
import type { Kit, PartStep } from '../kit/schema.ts';
import type { SolidPort } from '../kit/solids.ts';
import { settleValues, type GivenValues, type KitValues } from '../kit/values.ts';
import { isSpecial, type CellTable } from '../tiling/cells.ts';
import { hostsOf, type HostFace, type HostTable } from './faceHosts.ts';
import { joinPlacements } from './joined/joinPlacements.ts';
import { keptProgram } from './keptPrograms.ts';

/** Density in kg/m3 by material id. */
export type Densities = Readonly<Record<string, number>>;

/** One part of a kit on many hosts, with its weight. */
export interface PlacedPart {
	readonly name: string;
	/** Of the step that makes it. */
	readonly kind: PartStep['kind'];
	readonly role: string;
	readonly material: string;
	/** A text of the user's, with the kit's own texts put in. */
	readonly label: string;
	readonly scheduled: boolean;
	readonly geometry: PartGeometry;
	/** mm2, mm and mm3, one a host, and how many pieces. */
	readonly area: Float64Array;
	readonly length: Float64Array;
	readonly volume: Float64Array;
	readonly pieces: Float64Array;
	/** What each of a host's pieces has of it, where a host has several. */
	readonly each?: EachPiece;
	/** kg/mm3 */
	readonly density: number;
}

/** Whether pieces of a part are cut from delivered bars. */
export const isBar = ({ kind }: Pick<PlacedPart, 'kind'>): boolean => kind === 'bar' || kind === 'blades';

/** The values that a kit has been placed with. */
export interface PlacedValues {
	/** By parameter: mm, radians, plain numbers and numbers of choices, where they are the same on all hosts. */
	readonly alike: Readonly<Record<string, number>>;
	/** By parameter and row of the placement, where they differ. */
	readonly columns: Readonly<Record<string, Float64Array>>;
	/** Texts, materials and choices in words. */
	readonly texts: Readonly<Record<string, string>>;
	/** Parameters that somebody has given a value. */
	readonly given: ReadonlySet<string>;
}

/** A kit on hosts of one shape of a face. */
export interface Placement {
	readonly kit: Kit;
	readonly hostKind: HostKind;
	/** By row: cell, edge or node of the face, or path. */
	readonly hosts: Uint32Array;
	/** By row: which of a node's edges the piece is for, counted from 1. */
	readonly spokes?: Uint32Array;
	/** The rows are pieces of hosts that another placement has. */
	readonly inner: boolean;
	/** Nothing of what stands within another kit. */
	readonly values?: PlacedValues;
	readonly parts: readonly PlacedPart[];
}

/** Whether its hosts are cells, or pieces of cells. */
export const standsOnCells = ({ hostKind }: Pick<Placement, 'hostKind'>) => hostKind === 'cell' || hostKind === 'box';

/** Cells that a kit is not made for. */
export interface Misfit {
	readonly corners: number;
	readonly cells: Uint32Array;
}

export interface Placed {
	readonly placements: readonly Placement[];
	readonly misfits: readonly Misfit[];
	readonly failures: readonly Failure[];
	/** On how many hosts a parameter's formula was held back. */
	readonly clamped: ReadonlyMap<string, number>;
}

/** What placing needs besides the face. */
export interface PlaceOptions extends Pick<CompileOptions, 'library' | 'modules'> {
	readonly densities: Densities;
	readonly solids?: SolidPort | undefined;
	readonly arrays?: ArraySource;
	/** Hosts that are meant, rising; all that the kit is made for when left out. */
	readonly hosts?: Uint32Array;
	/** Values that differ from host to host, in the order of `hosts`. */
	readonly columns?: Readonly<Record<string, Float64Array>>;
	/** Values that differ along paths, by the numbers of their points. */
	readonly points?: Readonly<Record<string, Float64Array>> | undefined;
	/** Names the kit with all that it is compiled with: programs are used again where the name is the same; none are kept without. */
	readonly compiled?: string | undefined;
}

/** Cells of so many corners often have sides that are shorter than an inset is wide. */
const SHORT_SIDED = 5;
/** Hosts that are tried again one by one, since that takes far longer than all at once. */
const MOST_AGAIN = 2000;

/**
 * Places a kit on every host of a face: one placement for each number of points that occurs, and one for each cell
 * that is cut, dented or too short-sided for the others' way. Throws a ZygasterError with code `kit` where the kit
 * itself is at fault. O(hosts).
 */
export function placeKit(kit: Kit, given: GivenValues, face: HostFace, options: PlaceOptions): Placed {
	const { cells } = face;
	const settled = settleValues(kit, given);
	const all = hostsOf(face, kit.host);
	const table = {
		...all,
		...(options.hosts ? { wanted: options.hosts } : {}),
		...(options.points ? { pointValues: options.points } : {})
	};
	const columns = Object.entries(options.columns ?? {});
	const varying = new Set(columns.map(([name]) => name));
	const rows = varying.size ? rowsOf(table) : undefined;
	const asked = new Set([...settled.given, ...varying]);
	const programs = new Map<string, KitProgram>();
	const programFor = (shape: HostShape) => {
		const key = JSON.stringify(shape);
		const known = programs.get(key);
		if (known) return known;
		const compile = () => compileKit(kit, shape, { ...options, given: asked, varying, texts: settled.texts });
		const { compiled, solids } = options;
		const program = compiled
			? keptProgram([compiled, solids !== undefined, shape, [...asked], [...varying], settled.texts], compile)
			: compile();
		programs.set(key, program);
		return program;
	};
	const valuesOn = ({ ids }: HostColumns): KitValues =>
		rows
			? {
					...settled.values,
					...Object.fromEntries(columns.map(([name, c]) => [name, Float64Array.from(ids, (id) => c[rows[id]!]!)]))
				}
			: settled.values;
	const run = (shape: HostShape, hosts: HostColumns) =>
		evaluateKit(programFor(shape), valuesOn(hosts), hosts, {
			arrays: options.arrays ?? FRESH_ARRAYS,
			...(options.solids ? { solids: options.solids } : {})
		});
	const alone = (cell: number, corners: number) => {
		const holes = cells.trim?.holes.get(cell) ?? [];
		return run(
			{ kind: table.kind, corners, single: { holes: holes.map((h) => h.length) } },
			{ ...table, ids: Uint32Array.of(cell), holes }
		);
	};
	const results: KitResult[] = [];
	const misfits: Misfit[] = [];
	for (const { corners, hosts, closed, single } of groupHosts(table, cells)) {
		if (!takesCorners(kit.host, corners)) {
			misfits.push({ corners, cells: hosts });
			continue;
		}
		const result = single
			? alone(hosts[0]!, corners)
			: run({ kind: table.kind, corners, ...(closed ? { closed } : {}) }, { ...table, ids: hosts });
		results.push(
			...(table.kind === 'cell' && !single && corners >= SHORT_SIDED
				? mend(result, (cell) => alone(cell, corners))
				: [result])
		);
	}
	const { placements, failures } = joinPlacements(
		results.flatMap((result) => placementsOf(result, table.kind, settled.texts, options.densities, false))
	);
	const valued = (placement: Placement): Placement => ({
		...placement,
		values: {
			alike: settled.values,
			columns: Object.fromEntries(
				columns.map(([name, c]) => [name, Float64Array.from(placement.hosts, (id) => c[rows![id]!]!)])
			),
			texts: settled.texts,
			given: asked
		}
	});
	return {
		placements: placements.map((p) => (p.inner ? p : valued(p))),
		misfits,
		failures: joined([...results.flatMap((r) => r.failures), ...failures]),
		clamped: addedUp(results.map((r) => r.clamped))
	};
}

/** By element: which of the wanted it is. */
function rowsOf({ wanted, cornerStart }: HostTable): Uint32Array {
	const rows = new Uint32Array(cornerStart.length);
	wanted.forEach((id, row) => (rows[id] = row));
	return rows;
}

/** Tries the hosts that failed each by itself, where sides too short for an inset vanish; those that fail again are left. */
function mend(result: KitResult, alone: (cell: number) => KitResult): KitResult[] {
	if (result.failures.reduce((n, f) => n + f.hosts.length, 0) > MOST_AGAIN) return [result];
	const mended: KitResult[] = [];
	const failures = result.failures.map((failure) => ({
		...failure,
		hosts: failure.hosts.filter((cell) => {
			const again = alone(cell);
			if (again.hosts.length > 0) mended.push(again);
			return again.hosts.length === 0;
		})
	}));
	return [{ ...result, failures: failures.filter((f) => f.hosts.length > 0) }, ...mended];
}

/** Failures of the same step for the same reason as one. */
function joined(failures: readonly Failure[]): Failure[] {
	const all = new Map<string, Failure[]>();
	for (const failure of failures) {
		const key = `${failure.step}|${failure.reason}`;
		const alike = all.get(key);
		if (alike) alike.push(failure);
		else all.set(key, [failure]);
	}
	return [...all.values()].map((alike) => ({ ...alike[0]!, hosts: concatenated(alike.map((f) => f.hosts)) }));
}

/** Lists one after the other, as one. */
function concatenated(lists: readonly Uint32Array[]): Uint32Array {
	const all = new Uint32Array(lists.reduce((n, list) => n + list.length, 0));
	let at = 0;
	for (const list of lists) {
		all.set(list, at);
		at += list.length;
	}
	return all;
}

/** Counts by name of several runs together. */
export function addedUp(counts: readonly ReadonlyMap<string, number>[]): Map<string, number> {
	const all = new Map<string, number>();
	for (const [name, count] of counts.flatMap((c) => [...c])) all.set(name, (all.get(name) ?? 0) + count);
	return all;
}

/** Everything that a run has made, with that of inner steps. */
export function placementsOf(
	result: KitResult,
	hostKind: HostKind,
	texts: Readonly<Record<string, string>>,
	densities: Densities,
	inner: boolean
): Placement[] {
	const own = {
		kit: result.program.kit,
		hostKind,
		hosts: result.hosts,
		...(result.spokes ? { spokes: result.spokes } : {}),
		inner,
		parts: result.parts.map((part) => placedPart(part, texts, densities, result.program.kit))
	};
	const within = result.inner.flatMap((r) =>
		placementsOf(
			r,
			hostKind,
			r.program.kit === result.program.kit ? texts : { ...settleValues(r.program.kit, {}).texts, ...r.program.texts },
			densities,
			true
		)
	);
	return inner && own.parts.length === 0 ? within : [own, ...within];
}

function placedPart(
	{ step, ...columns }: PartColumns,
	texts: Readonly<Record<string, string>>,
	densities: Densities,
	kit: Kit
): PlacedPart {
	const asked = kit.parameters.find((p) => p.quantity === 'material' && p.name === step.material);
	const material = asked ? (texts[asked.name] ?? String(asked.default)) : step.material;
	return {
		...columns,
		name: step.name,
		kind: step.kind,
		role: step.role,
		material,
		label: (step.label ?? '').replace(/\{(\w+)\}/g, (_, name: string) => texts[name] ?? name),
		scheduled: step.scheduled,
		density: (densities[material] ?? 0) / 1e9
	};
}

interface HostGroup {
	readonly corners: number;
	readonly hosts: Uint32Array;
	/** Paths that meet themselves. */
	readonly closed: boolean;
	/** One cell with a shape of its own. */
	readonly single: boolean;
}

/** Elements grouped by their number of points, fewest first, open ones before closed ones; then the cut and dented cells, each by itself. */
function groupHosts({ kind, wanted, cornerStart, closed }: HostTable, cells: CellTable): HostGroup[] {
	const ofCells = kind === 'cell' || kind === 'box';
	const skip = kind === 'node' ? 1 : 0;
	const cornersOf = (c: number) => cornerStart[c + 1]! - cornerStart[c]! - skip;
	const groupOf = (c: number) => cornersOf(c) * 2 + (closed?.[c] ?? 0);
	const singles: number[] = [];
	const special = ofCells && (cells.trim !== undefined || cells.dented !== undefined);
	/** By group: how many, then where its next one goes. */
	const counts: number[] = [];
	for (let k = 0; k < wanted.length; k++) {
		const c = wanted[k]!;
		if (special && isSpecial(cells, c)) singles.push(c);
		else {
			const group = groupOf(c);
			counts[group] = (counts[group] ?? 0) + 1;
		}
	}
	const apart = new Set(singles);
	const groups = counts.flatMap((count, group): HostGroup[] => {
		const alike = { corners: group >> 1, closed: (group & 1) === 1, single: false };
		if (count === wanted.length) return [{ ...alike, hosts: wanted.slice() }];
		const hosts = new Uint32Array(count);
		let k = 0;
		for (const c of wanted) if (groupOf(c) === group && !apart.has(c)) hosts[k++] = c;
		return [{ ...alike, hosts }];
	});
	return [
		...groups,
		...singles.map((c) => ({ corners: cornersOf(c), closed: false, hosts: Uint32Array.of(c), single: true }))
	];
}
