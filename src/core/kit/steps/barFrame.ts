import { PARALLEL_SINE } from '../../tolerances.ts';
import type { Profile } from '../profile.ts';
import type { Block, Line } from '../program.ts';

/** What a bar is made of, on every host. */
export interface Frame {
	readonly line: Line;
	readonly profile: Profile;
	readonly slots: Readonly<Record<'across' | 'out' | 'turn' | 'start' | 'end' | 'deep', number>>;
	readonly out: (block: Pick<Block, 'columns'>, h: number) => number;
	readonly segments: number;
	readonly mitred: boolean;
	/** Its section is carried from piece to piece with the least turn, instead of looking to the host's outside. */
	readonly least: boolean;
}

export const SHORT = 'the bar is shorter than its ends cut off; right would be a longer line or a slimmer profile';

/**
 * Across, outwards and along of a line from one point to another, unit vectors with x × y = z; returns its
 * length. Outwards is the host's normal made square to the line.
 */
export function axesInPlace(
	axes: Float64Array,
	{ hosts, points, from }: Block,
	h: number,
	p: number,
	q: number
): number {
	const n = hosts.ids[from + h]! * 3;
	let dx = points[q]! - points[p]!;
	let dy = points[q + 1]! - points[p + 1]!;
	let dz = points[q + 2]! - points[p + 2]!;
	const length = Math.sqrt(dx * dx + dy * dy + dz * dz);
	dx /= length;
	dy /= length;
	dz /= length;
	let [nx, ny, nz] = [hosts.normal[n]!, hosts.normal[n + 1]!, hosts.normal[n + 2]!];
	const along = nx * dx + ny * dy + nz * dz;
	// A line along the normal has no outside of its own: any way square to it will do.
	if (Math.abs(along) > 1 - PARALLEL_SINE) [nx, ny, nz] = Math.abs(dz) < 0.9 ? [0, 0, 1] : [1, 0, 0];
	const off = nx * dx + ny * dy + nz * dz;
	nx -= off * dx;
	ny -= off * dy;
	nz -= off * dz;
	const size = Math.sqrt(nx * nx + ny * ny + nz * nz);
	nx /= size;
	ny /= size;
	nz /= size;
	axes[0] = ny * dz - nz * dy;
	axes[1] = nz * dx - nx * dz;
	axes[2] = nx * dy - ny * dx;
	axes[3] = nx;
	axes[4] = ny;
	axes[5] = nz;
	axes[6] = dx;
	axes[7] = dy;
	axes[8] = dz;
	return length;
}
