import { hypot, norm } from '../../elementary/index.ts';
import { newell } from '../../geometry/newell.ts';
import { markFailed } from '../sound.ts';
import { option, ref, refOrNone, value } from '../fields.ts';
import { normalAt } from '../fillOutline.ts';
import type { Line } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { COINCIDENT_MM } from '../../tolerances.ts';

const TOWARDS = {
	outside: 'Outside (the host’s normal)',
	inside: 'Inside',
	corners: 'Each corner’s own normal',
	up: 'Up',
	down: 'Down',
	line: 'Along a line'
} as const;

/** A point or line moved by a distance. */
export const lift = stepKind({
	kind: 'lift',
	group: 'lines',
	makes: 'same',
	label: 'Lift',
	help: 'A point or line moved along the host’s normal, up, or along a line',
	fields: {
		of: ref(['point', 'line'], 'Of', 'What is moved'),
		distance: value('length', 'Distance', '', 100),
		towards: option(TOWARDS, 'Towards'),
		along: refOrNone(['line'], 'Line', 'From its first point to its last, where moved along a line')
	},
	compile({ of, distance, towards, along }, b) {
		const source = b.line(of);
		if (towards === 'corners' && source.corner === undefined && source.count !== b.shape.corners)
			throw b.fail(
				`corners have normals of their own; “${of}” has ${source.count} points and the host ${b.shape.corners} corners`
			);
		if (towards === 'line' && along === undefined) throw b.fail('it moves along a line, and no line is named');
		/** Along a path's own points a parameter can have another value at each of them. */
		const varying =
			b.shape.kind === 'path' && source.count === b.shape.corners && b.kit.parameters.some((p) => p.name === distance)
				? String(distance)
				: undefined;
		const guide = towards === 'line' ? b.line(along!, 2) : undefined;
		const slot = b.slot(distance, 'length', 'Distance');
		const holes = (source.holes ?? []).map((hole) => [hole, b.take(hole.count, true)] as const);
		const target = b.make(source.count, source.closed, { ...source, holes: holes.map(([, to]) => to) });
		const short = b.fault('the line that it moves along has no length');
		const skip = source.corner ?? (b.shape.kind === 'node' ? 1 : 0);
		for (const [from, to] of [[source, target] as const, ...holes])
			b.op((block) => {
				const { hosts, points, stride, from: first, count } = block;
				const { ids, normal, pointNormal, cornerStart, corners } = hosts;
				const by = block.columns[slot]!;
				const shift = (to.first - from.first) * 3;
				const turned = towards === 'inside' || towards === 'down' ? -1 : 1;
				const upright = towards === 'up' || towards === 'down';
				const each = varying === undefined ? undefined : hosts.pointValues?.[varying];
				const own = towards === 'corners' ? pointNormal : undefined;
				for (let h = 0; h < count; h++) {
					const base = (first + h) * stride;
					const id = ids[first + h]!;
					let x = upright ? 0 : normal[id * 3]!;
					let y = upright ? 0 : normal[id * 3 + 1]!;
					let z = upright ? 1 : normal[id * 3 + 2]!;
					if (guide) {
						const a = base + guide.first * 3;
						const e = a + (guide.count - 1) * 3;
						const dx = points[e]! - points[a]!;
						const dy = points[e + 1]! - points[a + 1]!;
						const dz = points[e + 2]! - points[a + 2]!;
						const size = hypot(dx, dy, dz);
						if (!(size > COINCIDENT_MM)) markFailed(block, h, target.mask, short);
						x = dx / size;
						y = dy / size;
						z = dz / size;
					}
					let far = turned * by[h]!;
					let o = base + from.first * 3;
					for (let k = 0; k < from.count; k++, o += 3) {
						if (own || each) {
							const p = corners[cornerStart[id]! + skip + k]!;
							if (own) {
								x = own[p * 3]!;
								y = own[p * 3 + 1]!;
								z = own[p * 3 + 2]!;
							}
							if (each) far = turned * each[p]!;
						}
						points[o + shift] = points[o]! + x * far;
						points[o + shift + 1] = points[o + 1]! + y * far;
						points[o + shift + 2] = points[o + 2]! + z * far;
					}
				}
			});
	}
});

/** A point or line brought onto a plane or a line. */
export const project = stepKind({
	kind: 'project',
	group: 'lines',
	makes: 'same',
	label: 'Project',
	help: 'A point or line brought square onto the host’s mean plane, the plane of a closed line, or the nearest place of an open one',
	fields: {
		of: ref(['point', 'line'], 'Of', 'What is projected'),
		onto: refOrNone(['line'], 'Onto', 'A line; the host’s mean plane when left out')
	},
	compile({ of, onto }, b) {
		const source = b.line(of);
		const outlineName = onto ?? [...b.lines.keys()].find((name) => b.allSteps.get(name)?.kind === 'outline');
		if (outlineName === undefined) throw b.fail('there is no outline to take the mean plane of; add one first');
		const goal = b.line(outlineName, 2);
		const target = b.make(source.count, source.closed, source);
		b.op((block) => {
			for (let h = 0; h < block.count; h++)
				if (goal.closed)
					ontoPlane(block.points, (block.from + h) * block.stride, source, target, goal, normalAt(block, h));
				else
					for (let k = 0; k < source.count; k++)
						ontoLine(block.points, (block.from + h) * block.stride, source.first + k, target.first + k, goal);
		});
	}
});

/** A point or line brought onto the face itself. */
export const onFace = stepKind({
	kind: 'onFace',
	group: 'lines',
	makes: 'same',
	label: 'On the face',
	help: 'A point or line brought to the nearest place of the face itself, which bulges between its nodes',
	fields: { of: ref(['point', 'line'], 'Of', 'What is brought onto the face') },
	compile({ of }, b) {
		const source = b.line(of);
		const target = b.make(source.count, source.closed, source);
		b.op(({ hosts, points, stride, from, count }) => {
			for (let h = 0; h < count; h++) {
				const base = (from + h) * stride;
				points.copyWithin(base + target.first * 3, base + source.first * 3, base + (source.first + source.count) * 3);
				for (let k = 0; k < target.count; k++) hosts.onFace?.(points, base + (target.first + k) * 3);
			}
		});
	}
});

/** The plane goes through the mean of the closed line's points, square to Newell's normal; the host's where it has none. */
function ontoPlane(
	points: Float64Array,
	base: number,
	source: Line,
	target: Line,
	goal: Line,
	fallback: readonly [number, number, number]
): void {
	const at = (k: number) => base + (goal.first + k) * 3;
	const middle = [0, 1, 2].map((c) =>
		Array.from({ length: goal.count }, (_, k) => points[at(k) + c]! / goal.count).reduce((a, b) => a + b)
	) as [number, number, number];
	const twice = newell(points, goal.count, at);
	const size = norm(twice);
	const normal = size > 0 ? ([twice[0] / size, twice[1] / size, twice[2] / size] as const) : fallback;
	for (let k = 0; k < source.count; k++) {
		const [s, t] = [base + (source.first + k) * 3, base + (target.first + k) * 3];
		const off =
			(points[s]! - middle[0]) * normal[0] +
			(points[s + 1]! - middle[1]) * normal[1] +
			(points[s + 2]! - middle[2]) * normal[2];
		for (let c = 0; c < 3; c++) points[t + c] = points[s + c]! - off * normal[c]!;
	}
}

function ontoLine(points: Float64Array, base: number, source: number, target: number, goal: Line): void {
	const s = base + source * 3;
	let best = Infinity;
	for (let k = 1; k < goal.count; k++) {
		const a = base + (goal.first + k - 1) * 3;
		const b = a + 3;
		const d = [points[b]! - points[a]!, points[b + 1]! - points[a + 1]!, points[b + 2]! - points[a + 2]!] as const;
		const size = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
		const along =
			(points[s]! - points[a]!) * d[0] +
			(points[s + 1]! - points[a + 1]!) * d[1] +
			(points[s + 2]! - points[a + 2]!) * d[2];
		const t = size > 0 ? Math.min(1, Math.max(0, along / size)) : 0;
		const found = [points[a]! + t * d[0], points[a + 1]! + t * d[1], points[a + 2]! + t * d[2]] as const;
		const off = hypot(points[s]! - found[0], points[s + 1]! - found[1], points[s + 2]! - found[2]);
		if (off >= best) continue;
		best = off;
		for (let c = 0; c < 3; c++) points[base + target * 3 + c] = found[c]!;
	}
}
