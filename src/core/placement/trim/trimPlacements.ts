import { ZygasterError } from '../../errors.ts';
import { meshVolume, type Mesh } from '../../kit/mesh.ts';
import { finishLoose, newLoose } from '../../kit/outputs.ts';
import { plateMesh } from '../../kit/plates.ts';
import type { LooseSink } from '../../kit/program.ts';
import type { Failure, PartGeometry } from '../../kit/result.ts';
import type { SolidPort } from '../../kit/solids.ts';
import { transformed } from '../../kit/unitBodies.ts';
import { meshArea } from '../../mesh/triangleMesh.ts';
import type { HostFace } from '../faceHosts.ts';
import { isBar, type PlacedPart, type Placement } from '../place.ts';
import { borderLength, closedOf, compactMesh, connectedPieces, isClosed, lookingAt, widthSeen } from './meshPieces.ts';
import { fineLevel, joinedMesh } from '../joined/joinedMesh.ts';
import { takenOff, type TakenOff } from './takenOff.ts';
import { trimBar, trimBody } from './trimBody.ts';
import { trimSheet } from './trimSheet.ts';

/** What has come of placements that were trimmed. */
export interface Trimmed {
	readonly placements: readonly Placement[];
	/** Pieces that are left out since they are too small. */
	readonly leftOut: number;
	readonly failures: readonly Failure[];
}

/** What trimming needs besides the placements. */
export interface TrimOptions {
	/** The face with its cells cut, and with those that are trimmed whole. */
	readonly cut: HostFace;
	readonly whole: HostFace;
	/** mm */
	readonly least: number;
	readonly solids: SolidPort | undefined;
}

/**
 * Takes off the parts of a kit that stands on whole cells what openings have taken off the cells: plates, sheets and
 * bodies along the cut, bars square to themselves. What is narrower than the least piece, or of bars shorter, is left
 * out. Quantities go with what is left.
 */
export function trimPlacements(placements: readonly Placement[], options: TrimOptions): Trimmed {
	const { cut, whole, solids } = options;
	if (!solids) throw new ZygasterError('kit', 'Parts cannot be trimmed here, since the solids package is not loaded.');
	const known = new Map<number, TakenOff>();
	const takenOf = (cell: number) => {
		const taken = known.get(cell) ?? takenOff(cut, whole, cell);
		known.set(cell, taken);
		return taken;
	};
	let leftOut = 0;
	const failures: Failure[] = [];
	const trimmed = placements.map((placement) => ({
		...placement,
		parts: placement.parts.map((part) => {
			const made = trimPart(part, placement.hosts, takenOf, options.least, solids);
			leftOut += made.leftOut;
			if (made.failed.length)
				failures.push({
					step: part.name,
					reason: 'it cannot be trimmed, since it is no closed body; right would be a sheet, or a body without gaps',
					hosts: Uint32Array.from(made.failed)
				});
			return made.part;
		})
	}));
	return { placements: trimmed, leftOut, failures };
}

/** A piece with how much of each kind of quantity it has, in what its part's mesh is measured by. */
interface Measured {
	readonly mesh: Mesh;
	readonly area: number;
	readonly volume: number;
	readonly length: number;
	/** Something was taken off it. */
	readonly cut: boolean;
}

type PartMade = { part: PlacedPart; leftOut: number; failed: number[] };

function trimPart(
	part: PlacedPart,
	hosts: Uint32Array,
	takenOf: (cell: number) => TakenOff,
	least: number,
	solids: SolidPort
): PartMade {
	const columns = {
		area: part.area.slice(),
		length: part.length.slice(),
		volume: part.volume.slice(),
		pieces: part.pieces.slice()
	};
	const byRow: Measured[][] = [];
	const failed: number[] = [];
	let leftOut = 0;
	meshesByRow(part.geometry, hosts.length).forEach((meshes, row) => {
		const taken = takenOf(hosts[row]!);
		try {
			const before = isBar(part)
				? wholeBars(part, row, meshes)
				: meshes.map((m) => measureWhole(part, closedOf(m) ?? m, taken));
			const trimmed = isBar(part)
				? trimBars(before, part.pieces[row] === 1, taken, solids)
				: before.flatMap((m) => trimOther(part, m, taken, solids));
			const after = trimmed.filter((m) => !m.cut || (isBar(part) ? m.length : widthSeen(m.mesh, taken.frame)) >= least);
			leftOut += trimmed.length - after.length;
			byRow.push(after);
			for (const name of ['area', 'volume', 'length'] as const) columns[name][row]! *= shareLeft(before, after, name);
			if (trimmed.some((m) => m.cut) || after.length < trimmed.length || !trimmed.length)
				columns.pieces[row] = after.length;
		} catch (cause) {
			if (cause instanceof ZygasterError) throw cause;
			byRow.push([]);
			failed.push(hosts[row]!);
			for (const column of Object.values(columns)) column[row] = 0;
		}
	});
	return { part: { ...part, ...columns, ...eachOf(byRow, columns), geometry: looseOf(byRow) }, leftOut, failed };
}

/** Parts whose area is that of their face, and whose length that of its outline. */
const isFilled = ({ kind }: PlacedPart) =>
	kind === 'plate' || kind === 'sheet' || kind === 'ribbon' || kind === 'screen';

const sumOf = (list: readonly Measured[], name: 'area' | 'volume' | 'length') =>
	list.reduce((sum, m) => sum + m[name], 0);

function shareLeft(
	before: readonly Measured[],
	after: readonly Measured[],
	name: 'area' | 'volume' | 'length'
): number {
	const all = sumOf(before, name);
	return all === 0 ? 0 : sumOf(after, name) / all;
}

function measureWhole(part: PlacedPart, mesh: Mesh, { frame }: TakenOff): Measured {
	if (!isClosed(mesh)) {
		const area = meshArea(mesh);
		return { mesh, area, volume: area, length: borderLength(mesh), cut: false };
	}
	const front = isFilled(part) ? lookingAt(mesh, frame.normal) : mesh;
	const length = isFilled(part) ? borderLength(front) : 0;
	return { mesh, area: meshArea(front), volume: meshVolume(mesh), length, cut: false };
}

/** A fill may fall into several pieces; any other body stays one. */
function trimOther(part: PlacedPart, whole: Measured, taken: TakenOff, solids: SolidPort): Measured[] {
	const cut = isClosed(whole.mesh)
		? trimBody(whole.mesh, taken, solids)?.map((mesh) => ({ ...measureWhole(part, mesh, taken), cut: true }))
		: trimSheet(whole.mesh, taken)?.map(({ mesh, outline: length }) => {
				const area = meshArea(mesh);
				return { mesh, area, volume: area, length, cut: true };
			});
	if (!cut) return [whole];
	return isFilled(part) || cut.length < 2 ? cut : [together(cut)];
}

/** The straight pieces of a host's bars, each with the length that the schedule tells. */
function wholeBars({ each, length }: PlacedPart, row: number, meshes: readonly Mesh[]): Measured[] {
	const bars = meshes.flatMap(connectedPieces);
	const volumes = bars.map(meshVolume);
	const all = volumes.reduce((a, b) => a + b, 0);
	return bars.map((mesh, k) => ({
		mesh,
		area: volumes[k]!,
		volume: volumes[k]!,
		length: each?.count === bars.length ? each.length[row * each.count + k]! : (length[row]! * volumes[k]!) / all,
		cut: false
	}));
}

/** Bars cut back; where they stand for one bent bar, those that still meet are one. */
function trimBars(bars: readonly Measured[], asOne: boolean, taken: TakenOff, solids: SolidPort): Measured[] {
	const runs: Measured[][] = [];
	/** Whether the bar before goes on to the end that the next one begins at. */
	let goesOn = false;
	for (const bar of bars) {
		const { length, pieces } = trimBar(bar.mesh, taken, solids);
		// What the schedule's length has beyond the axis is at the two ends, as at mitres.
		const atEnd = (bar.length - length) / 2;
		for (const { mesh, from, to, cutFrom, cutTo } of pieces) {
			const volume = meshVolume(mesh);
			const long = to - from + (cutFrom ? 0 : atEnd) + (cutTo ? 0 : atEnd);
			const piece = mesh === bar.mesh ? bar : { mesh, area: volume, volume, length: long, cut: true };
			if (asOne && goesOn && !cutFrom) runs.at(-1)!.push(piece);
			else runs.push([piece]);
			goesOn = !cutTo;
		}
		goesOn &&= pieces.length > 0;
	}
	return runs.map((parts) => (parts.length === 1 ? parts[0]! : together(parts)));
}

/** Several meshes as one piece. */
function together(parts: readonly Measured[]): Measured {
	const starts = parts.map((_, k) => parts.slice(0, k).reduce((n, p) => n + p.mesh.positions.length / 3, 0));
	return {
		mesh: {
			positions: Float64Array.from(parts.flatMap(({ mesh }) => [...mesh.positions])),
			triangles: Uint32Array.from(parts.flatMap(({ mesh }, k) => Array.from(mesh.triangles, (t) => t + starts[k]!)))
		},
		area: sumOf(parts, 'area'),
		volume: sumOf(parts, 'volume'),
		length: sumOf(parts, 'length'),
		cut: parts.some((p) => p.cut)
	};
}

/** The pieces of a part's geometry, row by row. */
function meshesByRow(geometry: PartGeometry, rows: number): Mesh[][] {
	const out: Mesh[][] = Array.from({ length: rows }, () => []);
	switch (geometry.kind) {
		case 'pattern': {
			const { points, pointsPerHost, present, triangles } = geometry;
			for (let row = 0; row < rows; row++)
				if (present?.[row] !== 0)
					out[row]!.push(
						compactMesh(points.subarray(row * pointsPerHost * 3, (row + 1) * pointsPerHost * 3), triangles)
					);
			break;
		}
		case 'instances':
			geometry.rows.forEach((row, k) => out[row]!.push(transformed(geometry.mesh, geometry.transforms, k * 12)));
			break;
		case 'joined': {
			// Cut one by one; what is cut is no longer one body.
			const one = (bar: number) => ({
				...geometry,
				ends: geometry.ends.slice(bar * 6, bar * 6 + 6),
				radius: geometry.radius.slice(bar, bar + 1)
			});
			geometry.rows.forEach((row, bar) => out[row]!.push(joinedMesh(one(bar), fineLevel(geometry))));
			break;
		}
		case 'fitted':
			for (const { triangles, positions, rows: list } of geometry.sets) {
				const size = positions.length / list.length;
				list.forEach((row, k) => out[row]!.push({ triangles, positions: positions.slice(k * size, (k + 1) * size) }));
			}
			break;
		case 'plates':
			geometry.rows.forEach((row, k) => out[row]!.push(plateMesh(geometry, k)));
			break;
		case 'loose': {
			const { positions, triangles, positionStart, triangleStart } = geometry;
			geometry.rows.forEach((row, k) =>
				out[row]!.push({
					positions: positions.slice(positionStart[k], positionStart[k + 1]),
					triangles: triangles.slice(triangleStart[k], triangleStart[k + 1])
				})
			);
		}
	}
	return out;
}

function looseOf(byRow: readonly (readonly Measured[])[]): PartGeometry {
	const sink: LooseSink = newLoose();
	byRow.forEach((pieces, row) => {
		for (const { mesh } of pieces) {
			sink.rows.push(row);
			sink.positionStart.push(sink.positions.length);
			sink.triangleStart.push(sink.triangles.length);
			for (const x of mesh.positions) sink.positions.push(x);
			for (const t of mesh.triangles) sink.triangles.push(t);
		}
	});
	return finishLoose(sink, sink.rows.uint32(), undefined);
}

/** What each piece has of its host's quantities. */
function eachOf(
	byRow: readonly (readonly Measured[])[],
	{ length, pieces }: { readonly length: Float64Array; readonly pieces: Float64Array }
): Pick<PlacedPart, 'each'> {
	const count = pieces.reduce((a, b) => Math.max(a, b), 0);
	if (count < 2) return {};
	const each = { count, length: new Float64Array(byRow.length * count), share: new Float64Array(byRow.length * count) };
	byRow.forEach((list, row) => {
		// Several that count as one piece have all of it.
		const own = pieces[row] === list.length ? list : [together(list)];
		const [all, long] = [sumOf(own, 'volume'), sumOf(own, 'length')];
		own.forEach((m, k) => {
			each.share[row * count + k] = all === 0 ? 1 / own.length : m.volume / all;
			each.length[row * count + k] = long === 0 ? 0 : (length[row]! * m.length) / long;
		});
	});
	return { each };
}
