import { cos, sin } from '../../elementary/index.ts';
import { dot, minus, pointAt, scaled } from '../../geometry/vectors.ts';
import type { Point } from '../../geometry/curve.ts';
import { COINCIDENT_MM, SMOOTH_JOIN_SINE } from '../../tolerances.ts';
import type { Builder } from '../builder.ts';
import { clipMesh } from '../clipMesh.ts';
import { meshVolume, type Mesh } from '../mesh.ts';
import type { Block, PartPlan } from '../program.ts';
import { barTriangles } from '../profile.ts';
import { eachSound, markFailed } from '../sound.ts';
import { axesInPlace, SHORT, type Frame } from './barFrame.ts';

/** How much longer than needed a bar is before its ends are cut, mm. */
const ALLOWANCE = 1;

/**
 * Bars along edges whose ends are cut to the planes halfway to every other bar at their nodes: both bars lie on either side
 * of the same plane, so that mitres meet whatever their sections are. An end without others is square.
 */
export function mitredBars(b: Builder, { line, profile, slots, out }: Frame): PartPlan['geometry'] {
	const code = b.fault(SHORT);
	const { mask } = b;
	const n = profile.count;
	const flat = new Float64Array(n * 2);
	const axes = new Float64Array(9);
	const triangles = Uint32Array.from(barTriangles(profile, 0, n));
	const cut = (block: Block, h: number): Mesh | undefined => {
		const { hosts, points, stride, from, columns } = block;
		const value = (slot: number) => columns[slot]![h]!;
		const p = (from + h) * stride + line.first * 3;
		const long = axesInPlace(axes, block, h, p, p + 3);
		const [x, y, way] = [pointAt(axes, 0), pointAt(axes, 3), pointAt(axes, 6)];
		profile.points(columns, h, flat);
		const [c, s] = [cos(value(slots.turn)), sin(value(slots.turn))];
		const section = Array.from({ length: n }, (_, k) => {
			const [u, v] = [flat[k * 2]!, flat[k * 2 + 1]!];
			return [u * c - v * s + value(slots.across), u * s + v * c + out(block, h)] as const;
		});
		// Its corners, the middles of its sides and the axis tell which planes cut it.
		const places = [
			...section,
			...section.map(([u, v], k) => {
				const [p, q] = section[(k + 1) % n]!;
				return [(u + p) / 2, (v + q) / 2] as const;
			}),
			[0, 0] as const
		];
		const element = hosts.ids[from + h]!;
		const ends = ([0, 1] as const).map((end) => {
			const own = end === 0 ? way : scaled(way, -1);
			const more = value(end === 0 ? slots.start : slots.end);
			const at = pointAt(points, p + end * 3);
			const planes = (hosts.ways?.(element, end) ?? []).flatMap((other) => {
				const across = minus(own, other);
				const size = Math.sqrt(dot(across, across));
				// Bars that run the same way have no plane between them.
				if (size < SMOOTH_JOIN_SINE) return [];
				const normal = scaled(across, 1 / size);
				// The plane moves outwards along the bar by what the bar is longer.
				return [{ normal, at: minus(at, scaled(own, more)) }];
			});
			if (!planes.length) return { planes, begin: more };
			/** By plane and place of the section: where the bar may begin there, measured from the node into it. */
			const starts = planes.map(({ normal }) => {
				const along = dot(normal, own);
				const [dx, dy] = [-dot(normal, x) / along, -dot(normal, y) / along];
				return places.map(([u, v]) => u * dx + v * dy);
			});
			// Planes that cut off nothing which others leave, as that of the bar straight on, are left out.
			const cutting = planes.filter((_, k) =>
				places.some((_, p) => starts.every((s, other) => other === k || s[p]! < starts[k]![p]! - COINCIDENT_MM))
			);
			const first = Math.min(...places.map((_, p) => Math.max(...starts.map((s) => s[p]!))));
			return { planes: cutting.length ? cutting : planes.slice(0, 1), begin: more - first + ALLOWANCE };
		});
		const positions = new Float64Array(n * 6);
		section.forEach(([u, v], k) => {
			for (let e = 0; e < 2; e++)
				for (let a = 0; a < 3; a++)
					positions[(e * n + k) * 3 + a] =
						points[p + a]! + u * x[a]! + v * y[a]! + way[a]! * (e === 0 ? -ends[0]!.begin : long + ends[1]!.begin);
		});
		let mesh: Mesh | undefined = { positions, triangles };
		if (long + ends[0]!.begin + ends[1]!.begin <= 0) mesh = undefined;
		for (const { planes } of ends) for (const { at, normal } of planes) mesh = mesh && clipMesh(mesh, at, normal);
		return mesh;
	};
	return {
		kind: 'loose',
		generate(block, out, { area, length, volume, pieces }) {
			eachSound(block, mask, (h) => {
				const mesh = cut(block, h);
				const drawn = mesh ? meshVolume(mesh) : 0;
				if (!mesh || !(drawn > 0)) return markFailed(block, h, mask, code);
				const row = block.from + h;
				out.rows.push(row);
				out.positionStart.push(out.positions.length);
				out.triangleStart.push(out.triangles.length);
				for (const value of mesh.positions) out.positions.push(value);
				for (const t of mesh.triangles) out.triangles.push(t);
				profile.points(block.columns, h, flat);
				// Cut planes through a straight bar leave the mean length times the section.
				const mean = drawn / ringsArea(flat, profile.loops);
				length[row] = extentAlong(mesh, pointAt(axes, 6));
				area[row] = mean * profile.around(block.columns, h);
				volume[row] = mean * profile.section(block.columns, h);
				pieces[row] = 1;
			});
		}
	};
}

/** Area within loops of points, those of holes running the other way, mm2. */
function ringsArea(flat: Float64Array, loops: readonly number[]): number {
	let [area, first] = [0, 0];
	for (const n of loops) {
		for (let k = 0; k < n; k++) {
			const [a, b] = [(first + k) * 2, (first + ((k + 1) % n)) * 2];
			area += (flat[a]! * flat[b + 1]! - flat[b]! * flat[a + 1]!) / 2;
		}
		first += n;
	}
	return Math.abs(area);
}

/** From the first to the last of a mesh along a way: the length that is cut from stock. */
function extentAlong({ positions }: Mesh, way: Point): number {
	let [least, most] = [Infinity, -Infinity];
	for (let k = 0; k < positions.length; k += 3) {
		const along = positions[k]! * way[0] + positions[k + 1]! * way[1] + positions[k + 2]! * way[2];
		least = Math.min(least, along);
		most = Math.max(most, along);
	}
	return most - least;
}
