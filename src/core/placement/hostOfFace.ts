import { hypot } from '../elementary/index.ts';
import { messageOf, ZygasterError } from '../errors.ts';
import type { KitHost } from '../kit/schema.ts';
import type { TrialHost, TrialPoint } from '../kit/trialHosts.ts';
import { cellMark } from '../tiling/marks.ts';
import { hostsOf, type HostFace } from './faceHosts.ts';

/** A face with what its hosts are called. */
export interface NamedFace extends HostFace {
	readonly mark: string;
	readonly template: string;
}

/**
 * A host of a face as a trial host, moved to the origin and turned upright so that its outside looks along -y; nothing
 * where the face has no such element. Throws a ZygasterError with code `kit` where it has no hosts of the kind.
 */
export function hostOfFace(face: NamedFace, host: KitHost, element: number): TrialHost | undefined {
	let table: ReturnType<typeof hostsOf>;
	try {
		table = hostsOf(face, host);
	} catch (cause) {
		throw new ZygasterError('kit', messageOf(cause));
	}
	const id = table.wanted.includes(element) ? element : table.wanted[Math.floor(table.wanted.length / 2)];
	if (id === undefined) return undefined;
	const nodes = [...table.corners.subarray(table.cornerStart[id], table.cornerStart[id + 1])];
	const at = (positions: Float64Array) =>
		nodes.map((n): TrialPoint => [positions[n * 3]!, positions[n * 3 + 1]!, positions[n * 3 + 2]!]);
	const points = [...at(table.position), ...(table.upper ? at(table.upper) : [])];
	const label =
		table.kind === 'cell' || table.kind === 'box'
			? cellMark({ ...face, ...face.cells }, id)
			: `${face.mark} ${{ edge: 'edge', node: 'node', path: 'path', bay: 'bay' }[table.kind]} ${id + 1}`;
	return {
		id: 'project',
		label,
		kind: table.kind,
		points: upright(points, [table.normal[id * 3]!, table.normal[id * 3 + 1]!, table.normal[id * 3 + 2]!]),
		...(table.closed?.[id] ? { closed: true } : {}),
		...(host.kind === 'bay' ? { bay: { across: host.across, up: host.up } } : {})
	};
}

/** Points moved so that the first is at the origin, and turned so that `normal` becomes -y and what is up stays up. */
function upright(points: readonly TrialPoint[], normal: TrialPoint): TrialPoint[] {
	const level = hypot(normal[0], normal[1]);
	// Of a host that lies level any right will do.
	const right = level > 0 ? [-normal[1] / level, normal[0] / level, 0] : [1, 0, 0];
	const up = [
		normal[1] * right[2]! - normal[2] * right[1]!,
		normal[2] * right[0]! - normal[0] * right[2]!,
		normal[0] * right[1]! - normal[1] * right[0]!
	];
	const first = points[0]!;
	return points.map((p) => {
		const d = p.map((x, c) => x - first[c]!);
		const along = (axis: readonly number[]) => d[0]! * axis[0]! + d[1]! * axis[1]! + d[2]! * axis[2]!;
		return [along(right), -along(normal), along(up)] as const;
	});
}
