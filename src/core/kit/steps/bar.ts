import { atan2, cos, sin } from '../../elementary/index.ts';
import { PARALLEL_SINE } from '../../tolerances.ts';
import { eachSound, markFailed } from '../sound.ts';
import type { Builder } from '../builder.ts';
import { option, partFields, profileFields, ref, valueOr } from '../fields.ts';
import { curvedPieces, smoothEnds } from '../curves.ts';
import { BLOCK } from '../formula/compile.ts';
import { lengthOf, trueLength } from '../measures.ts';
import { barTriangles, profileOf, unitBar } from '../profile.ts';
import type { Block, EachPiece, Line, PartPlan } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { roundLine } from './lines.ts';
import { axesInPlace, SHORT, type Frame } from './barFrame.ts';
import { mitredBars } from './mitredBar.ts';

/** A profile run along a line. */
export const bar = stepKind({
	kind: 'bar',
	group: 'parts',
	makes: 'part',
	label: 'Bar',
	help: 'A profile run along a line, mitred, butted or bent at its corners',
	fields: {
		...partFields,
		line: ref(['line'], 'Line'),
		...profileFields,
		lies: option(
			{ middle: 'In the middle', inside: 'Inside of the line', outside: 'Outside of the line' },
			'Lies',
			'In its depth'
		),
		across: valueOr('length', 0, 'Moved across', 'To the left of its way, seen from outside'),
		out: valueOr('length', 0, 'Moved outwards'),
		frame: option(
			{ host: 'By the host’s outside', least: 'Turning as little as it can' },
			'Depth lies',
			'From piece to piece; along paths that turns least begins with the outside of the first point'
		),
		turn: valueOr('angle', 0, 'Turn', 'About its line'),
		corners: option({ mitred: 'Mitred', butted: 'Butted', rounded: 'Bent' }, 'Corners'),
		ends: option(
			{ square: 'Square', mitred: 'Mitred at nodes' },
			'Ends',
			'Of straight bars along edges: cut halfway to every other bar of kits that say how thick they are at nodes'
		),
		radius: valueOr('length', 100, 'Radius', 'Of bent corners, at the line'),
		start: valueOr('length', 0, 'Longer at the start', 'Below 0 cuts it back'),
		end: valueOr('length', 0, 'Longer at the end', 'Below 0 cuts it back')
	},
	compile(step, b) {
		const named = b.line(step.line, 2);
		const bent = step.corners === 'rounded' && named.count > 2;
		const line = bent ? hiddenRound(b, named, step.radius) : named;
		const profile = profileOf(b, step);
		const lie = { middle: 0, inside: -0.5, outside: 0.5 }[step.lies];
		const slots = {
			across: b.slot(step.across, 'length', 'Moved across'),
			out: b.slot(step.out, 'length', 'Moved outwards'),
			turn: b.slot(step.turn, 'angle', 'Turn'),
			start: b.slot(step.start, 'length', 'Longer at the start'),
			end: b.slot(step.end, 'length', 'Longer at the end'),
			deep: b.slot(step.profile === 'round' || step.profile === 'tube' ? step.width : step.depth, 'length', 'Depth')
		};
		const out = ({ columns }: Pick<Block, 'columns'>, h: number) =>
			columns[slots.out]![h]! + lie * columns[slots.deep]![h]!;
		const segments = line.closed ? line.count : line.count - 1;
		const mitred = step.corners !== 'butted';
		const frame: Frame = { line, profile, slots, out, segments, mitred, least: step.frame === 'least' };
		const uniform = profile.uniform && [slots.across, slots.out, slots.turn, slots.deep].every((s) => b.isUniform(s));
		if (step.ends === 'mitred' && b.shape.kind === 'edge' && line.count === 2)
			return void b.parts.push({ step, mask: b.mask, geometry: mitredBars(b, frame) });
		const fitted = line.count === 2 && uniform ? undefined : fittedBars(b, frame);
		const geometry = fitted?.geometry ?? straightBars(b, frame);
		const middle = fitted?.middle;
		const eachOf = segments > 1 && !line.bent ? segments : undefined;
		const measure: PartPlan['measure'] = (block, { area, length, volume, pieces, each }) => {
			for (let h = 0; h < block.count; h++) {
				const row = block.from + h;
				const along =
					trueLength(block, line, h) +
					(line.closed ? 0 : block.columns[slots.start]![h]! + block.columns[slots.end]![h]!);
				// The body is as long as the way of its section's middle, which runs beside the line at corners and bends.
				const way = middle === undefined ? along : block.columns[middle]![h]!;
				length[row] = along;
				area[row] = way * profile.around(block.columns, h);
				volume[row] = way * profile.section(block.columns, h);
				pieces[row] = line.bent ? 1 : segments;
				if (each) sharePieces(each, fitted!, block, h, line.closed ? [0, 0] : ends(block, h), along);
			}
		};
		b.parts.push({ step, mask: b.mask, measure, geometry, ...(eachOf ? { eachOf } : {}) });

		function ends({ columns }: Block, h: number): [number, number] {
			return [columns[slots.start]![h]!, columns[slots.end]![h]!];
		}
	}
});

/** What each piece of a host's bar has of it: its own side of the line with what the ends add, and its own way of the section's middle. */
function sharePieces(
	{ count, length, share }: EachPiece,
	{ sides: { chords, ways } }: FittedBars,
	{ from }: Block,
	h: number,
	ends: readonly [number, number],
	along: number
): void {
	let [all, way] = [ends[0] + ends[1], 0];
	for (let s = 0; s < count; s++) {
		all += chords[h * count + s]!;
		way += ways[h * count + s]!;
	}
	for (let s = 0; s < count; s++) {
		const side = chords[h * count + s]! + (s === 0 ? ends[0] : 0) + (s === count - 1 ? ends[1] : 0);
		// Where sides stand for curves the true length is more than theirs.
		length[(from + h) * count + s] = (side * along) / all;
		share[(from + h) * count + s] = ways[h * count + s]! / way;
	}
}

/** The line with bent corners, under no name of its own. */
function hiddenRound(b: Builder, line: Line, radius: number | string): Line {
	const round = roundLine(b, line, radius, 6);
	b.lines.delete(b.step!.name);
	return round;
}

/** Bars of one profile with square ends: one mesh, and a transform each. */
function straightBars(b: Builder, { line, profile, slots, out }: Frame): PartPlan['geometry'] {
	const code = b.fault(SHORT);
	const { mask } = b;
	const axes = new Float64Array(9);
	b.op((block) => {
		for (let h = 0; h < block.count; h++)
			if (!(lengthOf(block, line, h) + block.columns[slots.start]![h]! + block.columns[slots.end]![h]! > 0))
				markFailed(block, h, mask, code);
	});
	return {
		kind: 'instances',
		mesh: (columns) =>
			unitBar(
				profile,
				columns,
				columns[slots.turn]![0]!,
				columns[slots.across]![0]!,
				out({ columns: columns as Block['columns'] }, 0)
			),
		generate(block, { transforms, rows }) {
			const { points, stride, from } = block;
			eachSound(block, mask, (h) => {
				const p = (from + h) * stride + line.first * 3;
				const length = axesInPlace(axes, block, h, p, p + 3);
				const [start, end] = [block.columns[slots.start]![h]!, block.columns[slots.end]![h]!];
				const o = transforms.take(12);
				const to = transforms.values;
				for (let k = 0; k < 6; k++) to[o + k] = axes[k]!;
				for (let c = 0; c < 3; c++) {
					to[o + 6 + c] = axes[6 + c]! * (length + start + end);
					to[o + 9 + c] = points[p + c]! - axes[6 + c]! * start;
				}
				rows.push(from + h);
			});
		}
	};
}

interface FittedBars {
	readonly geometry: PartPlan['geometry'];
	/** Slot of the length of the way of the section's middle, mm. */
	readonly middle: number;
	/** By host of the block and side: its length, and that of the way of the section's middle, mm. */
	readonly sides: { chords: Float64Array; ways: Float64Array };
}

/** Bars whose ends are cut to the plane halfway to their neighbours: two profiles of points for each segment. */
function fittedBars(b: Builder, { line, profile, slots, out, segments, mitred, least }: Frame): FittedBars {
	const code = b.fault(SHORT);
	const { mask } = b;
	const n = profile.count;
	const ends = b.take(segments * 2 * n);
	const middle = b.ownSlot();
	const middles = new Float64Array(BLOCK);
	// Lines of many points stand on few hosts.
	const sides = { chords: new Float64Array(), ways: new Float64Array() };
	const smooth = smoothEnds(line);
	const flat = new Float64Array(n * 2);
	const axes = new Float64Array(segments * 9);
	b.op((block) => {
		const { points, stride, from, count, columns } = block;
		columns[middle] = middles;
		if (sides.chords.length < count * segments) {
			sides.chords = new Float64Array(count * segments);
			sides.ways = new Float64Array(count * segments);
		}
		const { chords, ways } = sides;
		for (let h = 0; h < count; h++) {
			const base = (from + h) * stride;
			profile.points(columns, h, flat);
			const turn = columns[slots.turn]![h]!;
			const [cosine, sine] = [cos(turn), sin(turn)];
			const [ox, oy] = [columns[slots.across]![h]!, out(block, h)];
			const [mx0, my0] = profile.centroid(columns, h);
			const [middleX, middleY] = [mx0 * cosine - my0 * sine + ox, mx0 * sine + my0 * cosine + oy];
			const at = (k: number) => base + (line.first + (k % line.count)) * 3;
			let run = 0;
			for (let s = 0; s < segments; s++) {
				const chord = axesInPlace(axes.subarray(s * 9, s * 9 + 9), block, h, at(s), at(s + 1));
				chords[h * segments + s] = chord;
				ways[h * segments + s] = chord;
				run += chord;
			}
			const twist = least ? carryFrames(axes, block, h, segments, line.closed) : 0;
			const tangents = line.closed ? undefined : endTangents(block, line, h);
			if (line.curves) run += bendLength(block, line, h, axes, middleX, middleY);
			for (let s = 0; s < segments; s++) {
				const a = s * 9;
				for (const end of [0, 1] as const) {
					const other = end === 0 ? s - 1 : s + 1;
					const joined = mitred && (line.closed || (other >= 0 && other < segments));
					const o = joined ? ((other + segments) % segments) * 9 : a;
					const free = !line.closed && (other < 0 || other >= segments);
					// Square to the plane that the end is cut to.
					const [mx, my, mz] = (free && tangents?.[end]) || [
						axes[a + 6]! + axes[o + 6]!,
						axes[a + 7]! + axes[o + 7]!,
						axes[a + 8]! + axes[o + 8]!
					];
					const across = axes[a + 6]! * mx + axes[a + 7]! * my + axes[a + 8]! * mz;
					// How far the cut moves along the bar for each mm that a point lies across and outwards.
					const byX = (axes[a]! * mx + axes[a + 1]! * my + axes[a + 2]! * mz) / across;
					const byY = (axes[a + 3]! * mx + axes[a + 4]! * my + axes[a + 5]! * mz) / across;
					const extra = free ? (end === 0 ? -columns[slots.start]![h]! : columns[slots.end]![h]!) : 0;
					const shift = extra - (smooth[s]![end] || (free && tangents?.[end]) ? 0 : middleX * byX + middleY * byY);
					run += end === 0 ? -shift : shift;
					ways[h * segments + s]! += end === 0 ? -shift : shift;
					const p = at(s + end);
					const first = ends.first + (s * 2 + end) * n;
					const roll = (twist * (s + end)) / segments;
					const [rc, rs] = roll === 0 ? [1, 0] : [cos(roll), sin(roll)];
					for (let k = 0; k < n; k++) {
						const x0 = flat[k * 2]! * cosine - flat[k * 2 + 1]! * sine + ox;
						const y0 = flat[k * 2]! * sine + flat[k * 2 + 1]! * cosine + oy;
						const [x, y] = [x0 * rc - y0 * rs, x0 * rs + y0 * rc];
						const t = extra - x * byX - y * byY;
						const to = base + (first + k) * 3;
						points[to] = points[p]! + x * axes[a]! + y * axes[a + 3]! + t * axes[a + 6]!;
						points[to + 1] = points[p + 1]! + x * axes[a + 1]! + y * axes[a + 4]! + t * axes[a + 7]!;
						points[to + 2] = points[p + 2]! + x * axes[a + 2]! + y * axes[a + 5]! + t * axes[a + 8]!;
					}
				}
				const start = base + (ends.first + s * 2 * n) * 3;
				for (let k = 0; k < n * 3; k += 3) {
					const e = start + n * 3 + k;
					const along =
						(points[e]! - points[start + k]!) * axes[a + 6]! +
						(points[e + 1]! - points[start + k + 1]!) * axes[a + 7]! +
						(points[e + 2]! - points[start + k + 2]!) * axes[a + 8]!;
					// Written so that a number that is no number fails too.
					if (!(along > 0)) {
						markFailed(block, h, mask, code);
						break;
					}
				}
			}
			middles[h] = run;
		}
	});
	const triangles = Array.from({ length: segments }, (_, s) =>
		barTriangles(profile, ends.first + s * 2 * n, ends.first + (s * 2 + 1) * n)
	).flat();
	return { geometry: { kind: 'pattern', triangles: Uint16Array.from(triangles) }, middle, sides };
}

/**
 * Carries the first piece's axes on to all others, each time by the turn that takes one piece's way to the next's and no
 * more; sections at mitres meet then. Along a path it begins with the outside of the first point. Of a closed line the
 * answer is the angle by which the last axes miss the first, to be taken up on the way. In place. (Bergou et al., Discrete
 * elastic rods, 2008, memory: parallel transport along a chain.)
 */
function carryFrames(axes: Float64Array, { hosts, from }: Block, h: number, segments: number, closed: boolean): number {
	const { pointNormal, ids, cornerStart, corners } = hosts;
	const first = corners[cornerStart[ids[from + h]!]!]! * 3;
	if (pointNormal) standUp(axes, 0, pointNormal[first]!, pointNormal[first + 1]!, pointNormal[first + 2]!);
	const carry = (a: number, b: number, out: Float64Array) => {
		// Rodrigues: y turned by the rotation that takes the way at `a` to that at `b`.
		const [dx, dy, dz] = [axes[a + 6]!, axes[a + 7]!, axes[a + 8]!];
		const [ex, ey, ez] = [axes[b + 6]!, axes[b + 7]!, axes[b + 8]!];
		const [kx, ky, kz] = [dy * ez - dz * ey, dz * ex - dx * ez, dx * ey - dy * ex];
		const c = dx * ex + dy * ey + dz * ez;
		const [x, y, z] = [axes[a + 3]!, axes[a + 4]!, axes[a + 5]!];
		const along = (kx * x + ky * y + kz * z) / (1 + c);
		out[0] = x * c + (ky * z - kz * y) + kx * along;
		out[1] = y * c + (kz * x - kx * z) + ky * along;
		out[2] = z * c + (kx * y - ky * x) + kz * along;
	};
	const y = new Float64Array(3);
	for (let s = 1; s < segments; s++) {
		carry((s - 1) * 9, s * 9, y);
		standUp(axes, s * 9, y[0]!, y[1]!, y[2]!);
	}
	if (!closed) return 0;
	carry((segments - 1) * 9, 0, y);
	const across = y[0]! * axes[0]! + y[1]! * axes[1]! + y[2]! * axes[2]!;
	const up = y[0]! * axes[3]! + y[1]! * axes[4]! + y[2]! * axes[5]!;
	return atan2(across, up);
}

/** Sets x and y of a piece's axes so that y looks to (nx, ny, nz) as far as it can; they stay where that lies along the piece. */
function standUp(axes: Float64Array, a: number, nx: number, ny: number, nz: number): void {
	const [dx, dy, dz] = [axes[a + 6]!, axes[a + 7]!, axes[a + 8]!];
	const off = nx * dx + ny * dy + nz * dz;
	const [x, y, z] = [nx - off * dx, ny - off * dy, nz - off * dz];
	const size = Math.sqrt(x * x + y * y + z * z);
	if (!(size > PARALLEL_SINE)) return;
	axes[a + 3] = x / size;
	axes[a + 4] = y / size;
	axes[a + 5] = z / size;
	axes[a] = (y * dz - z * dy) / size;
	axes[a + 1] = (z * dx - x * dz) / size;
	axes[a + 2] = (x * dy - y * dx) / size;
}

/** How much longer than its chords the way of a section's middle is where the line bends, mm: an arc of the radius that the middle runs on. */
function bendLength(block: Block, line: Line, h: number, axes: Float64Array, x: number, y: number): number {
	let more = 0;
	for (const { piece, chord, angle, bulge } of curvedPieces(block, line, h)) {
		if (angle === 0) continue;
		const a = piece * 9;
		const outwards =
			bulge[0] * (x * axes[a]! + y * axes[a + 3]!) +
			bulge[1] * (x * axes[a + 1]! + y * axes[a + 4]!) +
			bulge[2] * (x * axes[a + 2]! + y * axes[a + 5]!);
		more += angle * (chord / (2 * sin(angle / 2)) + outwards) - chord;
	}
	return more;
}

/** Ways of a curve at the ends of an open line, where it begins or ends with one. */
function endTangents(
	block: Block,
	line: Line,
	h: number
): (readonly [number, number, number] | undefined)[] | undefined {
	if (!line.curves) return undefined;
	const pieces = curvedPieces(block, line, h);
	return [0, line.count - 2].map((piece, end) => {
		const found = pieces.find((p) => p.piece === piece);
		if (!found || found.angle === 0) return undefined;
		const [c, s] = [cos(found.angle / 2), sin(found.angle / 2) * (end === 0 ? 1 : -1)];
		return [
			found.way[0] * c + found.bulge[0] * s,
			found.way[1] * c + found.bulge[1] * s,
			found.way[2] * c + found.bulge[2] * s
		] as const;
	});
}
