import { geometrySize } from '../project/estimate.ts';
import type { Model } from '../project/pipeline.ts';
import { HOST_TABLES } from '../schedule/faceTable.ts';
import { ZygasterError } from '../errors.ts';
import { group } from '../units/print.ts';
import type { Format } from './format.ts';
import { WRITERS } from './writers.ts';

/** How much there is to be written. */
interface Counts {
	readonly cells: number;
	/** Cells, edges, nodes, paths and bays that carry kits. */
	readonly hosts: number;
	readonly pieces: number;
	readonly triangles: number;
}

/** Bytes for each that there is, as measured on models of 2,000 to 20,000 cells with 3 to 6 pieces a cell. */
const BYTES: Readonly<Record<Exclude<Format, 'set'>, Partial<Counts>>> = {
	json: {},
	csv: { cells: 95 },
	edges: { hosts: 60 },
	nodes: { cells: 100 },
	paths: {},
	bays: {},
	parts: { pieces: 140 },
	corners: { hosts: 200 },
	cutlist: { pieces: 35 },
	quantities: {},
	tables: { cells: 60 },
	xlsx: { pieces: 210 },
	rows: { pieces: 255 },
	summary: {},
	ifc: { pieces: 1700, triangles: 25 },
	glb: { triangles: 27.5 },
	obj: { triangles: 58 },
	stl: { triangles: 50 },
	ply: { triangles: 40 },
	'3mf': { triangles: 16 },
	step: {},
	space: { cells: 560 },
	dxf: { cells: 550 },
	svg: { cells: 210 },
	cuts: { pieces: 450 },
	cutsvg: { pieces: 200 },
	pdf: { cells: 170 }
};
/** What is in every file, whatever the model. */
const BASE_BYTES = 20_000;
/** What compression leaves of the files of a set. */
const PACKED = 0.3;

function countsOf({ faces, schedule }: Pick<Model, 'faces' | 'schedule'>): Counts {
	const sum = (values: Iterable<number>) => {
		let total = 0;
		for (const value of values) total += value;
		return total;
	};
	const placed = faces.flatMap((f) => f.placements.flatMap((p) => p.parts.map((part) => ({ part, hosts: p.hosts }))));
	return {
		cells: sum(faces.map((f) => f.cells.count)),
		hosts: sum(schedule.flatMap(({ tables }) => HOST_TABLES.map((t) => tables[t].count))),
		pieces: sum(placed.map(({ part }) => sum(part.pieces))),
		triangles: sum(placed.map(({ part, hosts }) => geometrySize(part.geometry, hosts.length).triangles))
	};
}

/** Likely bytes of files of a model by format, of a set by its files: within twice and half of what they come to, where they are large. O(pieces). */
export function likelySizes(
	model: Pick<Model, 'faces' | 'schedule'>
): (format: Format, files?: readonly Format[]) => number {
	const counts = countsOf(model);
	const sizeOf = (format: Exclude<Format, 'set'>) =>
		(Object.keys(counts) as (keyof Counts)[]).reduce(
			(bytes, name) => bytes + (BYTES[format][name] ?? 0) * counts[name],
			BASE_BYTES
		);
	return (format, files = []) =>
		format === 'set'
			? files.reduce((bytes, f) => bytes + (f === 'set' ? 0 : sizeOf(f) * PACKED), BASE_BYTES)
			: sizeOf(format);
}

/** Throws a ZygasterError with code `too-large` for a file that would likely have more than `most` bytes. */
export function refuseLargeFile(
	model: Pick<Model, 'faces' | 'schedule'>,
	format: Format,
	files: readonly Format[],
	most: number
): void {
	const size = likelySizes(model)(format, files);
	if (size > most)
		throw new ZygasterError(
			'too-large',
			`“${WRITERS[format].label}” would have about ${group(size / 1e6, 0)} MB; at most ${group(most / 1e6, 0)} MB are made here. Right would be only some of the faces, or another format.`
		);
}
