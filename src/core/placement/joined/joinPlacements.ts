import type { Failure, JoinedGeometry } from '../../kit/result.ts';
import { group } from '../../units/print.ts';
import type { Placement, PlacedPart } from '../place.ts';
import { failedBars, joinedShares } from './joinedMesh.ts';

type JoinedPart = PlacedPart & { readonly geometry: JoinedGeometry };
const isJoined = (part: PlacedPart): part is JoinedPart => part.geometry.kind === 'joined';

/**
 * Round bars of one step as one body, whatever number of points their hosts have, with what each bar has of it. Bars
 * without room for their joints are left out and told. O(bars).
 */
export function joinPlacements(placements: readonly Placement[]): {
	readonly placements: readonly Placement[];
	readonly failures: readonly Failure[];
} {
	const bearing = placements.filter((p) => p.parts.some(isJoined));
	if (bearing.length === 0) return { placements, failures: [] };
	const failures: Failure[] = [];
	const settle = (placement: Placement): Placement => ({
		...placement,
		parts: placement.parts.map((part) => {
			if (!isJoined(part)) return part;
			const { part: settled, failure } = shared(part, placement.hosts);
			if (failure) failures.push(failure);
			return settled;
		})
	});
	const outer = bearing.filter((p) => !p.inner);
	const whole = outer.length > 1 ? [together(outer)] : [];
	const rest = placements.map((p) => (whole.length && outer.includes(p) ? withoutJoined(p) : p));
	return { placements: [...rest, ...whole].map(settle), failures };
}

const withoutJoined = (p: Placement): Placement => ({ ...p, parts: p.parts.filter((part) => !isJoined(part)) });

/** The joined parts of several placements of one kit, step by step, on all of their hosts. */
function together(placements: readonly Placement[]): Placement {
	const first = placements[0]!;
	const starts = placements.map((_, k) => placements.slice(0, k).reduce((n, p) => n + p.hosts.length, 0));
	const names = [...new Set(placements.flatMap((p) => p.parts.filter(isJoined).map((part) => part.name)))];
	const rows = placements.reduce((n, p) => n + p.hosts.length, 0);
	const parts = names.map((name): JoinedPart => {
		const found = placements.map((p) => p.parts.filter(isJoined).find((part) => part.name === name));
		const column = (of: 'area' | 'length' | 'volume' | 'pieces') => {
			const out = new Float64Array(rows);
			found.forEach((part, k) => part && out.set(part[of], starts[k]));
			return out;
		};
		const geometries = found.map((part) => part?.geometry);
		const model = found.find((part) => part)!;
		return {
			...model,
			area: column('area'),
			length: column('length'),
			volume: column('volume'),
			pieces: column('pieces'),
			geometry: {
				...model.geometry,
				ends: Float64Array.from(geometries.flatMap((g) => (g ? [...g.ends] : []))),
				radius: Float64Array.from(geometries.flatMap((g) => (g ? [...g.radius] : []))),
				rows: Uint32Array.from(geometries.flatMap((g, k) => (g ? Array.from(g.rows, (r) => r + starts[k]!) : [])))
			}
		};
	});
	return { ...first, hosts: Uint32Array.from(placements.flatMap((p) => [...p.hosts])), parts };
}

/** A joined part with what its bars have of the body, without those that have no room. */
function shared(part: JoinedPart, hosts: Uint32Array): { readonly part: JoinedPart; readonly failure?: Failure } {
	const { geometry } = part;
	const failed = failedBars(geometry);
	const gone = new Set(failed.map(({ bar }) => geometry.rows[bar]!));
	const kept = gone.size ? keepBars(geometry, (row) => !gone.has(row)) : geometry;
	const shares = joinedShares(kept);
	const rows = part.pieces.length;
	const sums = (values: Float64Array) => {
		const out = new Float64Array(rows);
		kept.rows.forEach((row, bar) => (out[row]! += values[bar]!));
		return out;
	};
	const settled: JoinedPart = {
		...part,
		geometry: kept,
		area: sums(shares.area),
		volume: sums(shares.volume),
		length: part.length.map((length, row) => (gone.has(row) ? 0 : length)),
		pieces: part.pieces.map((n, row) => (gone.has(row) ? 0 : n))
	};
	if (gone.size === 0) return { part: settled };
	const worst = failed.reduce((a, b) => (b.taken / b.length > a.taken / a.length ? b : a));
	return {
		part: settled,
		failure: {
			step: part.name,
			reason: `the joints at its ends take more than its length (at worst ${group(worst.taken, 0)} of ${group(worst.length, 0)} mm); right would be a smaller radius, less softness, or fewer bars at its nodes`,
			hosts: Uint32Array.from(gone, (row) => hosts[row]!).sort()
		}
	};
}

function keepBars(geometry: JoinedGeometry, stays: (row: number) => boolean): JoinedGeometry {
	const bars = [...geometry.rows.keys()].filter((bar) => stays(geometry.rows[bar]!));
	return {
		...geometry,
		ends: Float64Array.from(bars.flatMap((bar) => [...geometry.ends.subarray(bar * 6, bar * 6 + 6)])),
		radius: Float64Array.from(bars, (bar) => geometry.radius[bar]!),
		rows: Uint32Array.from(bars, (bar) => geometry.rows[bar]!)
	};
}
