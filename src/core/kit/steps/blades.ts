import { cos, hypot, sin } from '../../elementary/index.ts';
import { eachSound, markFailed } from '../sound.ts';
import { option, partFields, profileFields, ref, value, valueOr } from '../fields.ts';
import { barTriangles, profileOf } from '../profile.ts';
import type { Block, Line, Quantities } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { closedLine } from './sheets.ts';
import { axesInPlace } from './barFrame.ts';
import { countAtMost } from './pieces.ts';

/**
 * Louver blades across the host. A blade's own section lies square to the face at a tilt of 0: its depth points
 * outwards, its thickness up; a tilt turns its outer edge down.
 */
export const blades = stepKind({
	kind: 'blades',
	group: 'parts',
	makes: 'part',
	label: 'Blades',
	help: 'Louver blades from one side of a four-cornered line to the other: by number, or at a spacing at most',
	fields: {
		...partFields,
		outline: ref(['line'], 'Outline', 'A closed line of four corners'),
		run: option({ across: 'Across', up: 'Up' }, 'They run'),
		by: option({ number: 'Number', spacing: 'Spacing at most' }, 'By'),
		amount: value('count', 'Number or spacing', 'How many, or how far apart at most', 8),
		...profileFields,
		tilt: valueOr(
			'angle',
			0,
			'Tilt',
			'0° stands square to the face, 90° closes it; the outer edge turns down, or to the right'
		),
		twist: valueOr('angle', 0, 'Twist', 'More tilt from one end of a blade to the other'),
		margin: valueOr('length', 0, 'Margin', 'Free at the first and after the last blade'),
		ends: valueOr('length', 0, 'Free at both ends', 'How much shorter a blade is at each end'),
		out: valueOr('length', 0, 'Moved outwards', 'The middle of the blades off the line')
	},
	compile(step, b) {
		const outline = closedLine(b, step.outline);
		if (outline.count !== 4)
			throw b.fail(`blades run from side to side of four corners; “${step.outline}” has ${outline.count}`);
		const profile = profileOf(b, { ...step, width: step.width, depth: step.depth });
		const by = b.slot(
			step.amount,
			step.by === 'number' ? 'count' : 'length',
			step.by === 'number' ? 'Number' : 'Spacing'
		);
		const slots = {
			tilt: b.slot(step.tilt, 'angle', 'Tilt'),
			twist: b.slot(step.twist, 'angle', 'Twist'),
			margin: b.slot(step.margin, 'length', 'Margin'),
			ends: b.slot(step.ends, 'length', 'Free at both ends'),
			out: b.slot(step.out, 'length', 'Moved outwards')
		};
		const code = b.fault(
			'there is no room for a blade; right would be one blade or more, a spacing above 0, a smaller margin and shorter free ends'
		);
		const { mask } = b;
		const n = profile.count;
		const straight = Float64Array.from(barTriangles(profile, 0, n));
		const twisted = Float64Array.from(
			Array.from({ length: TWIST_PIECES }, (_, k) =>
				barTriangles(profile, k * n, (k + 1) * n, [k === 0, k === TWIST_PIECES - 1], k % 2 === 1)
			).flat()
		);
		const flat = new Float64Array(n * 2);
		const ends = new Float64Array(6);
		const axes = new Float64Array(9);
		b.parts.push({
			step,
			mask,
			geometry: {
				kind: 'loose',
				generate(block, out, quantities) {
					const { columns } = block;
					eachSound(block, mask, (h) => {
						const row = block.from + h;
						const heights = acrossLength(block, outline, step.run, h) - 2 * columns[slots.margin]![h]!;
						const amount = columns[by]![h]!;
						const count = step.by === 'number' ? Math.round(amount) : countAtMost(heights, amount);
						if (!(count >= 1 && count <= MOST_BLADES && heights > 0)) return markFailed(block, h, mask, code);
						profile.points(columns, h, flat);
						reset(quantities, row);
						const [start, total] = [columns[slots.margin]![h]!, heights + 2 * columns[slots.margin]![h]!];
						for (let k = 0; k < count; k++) {
							bladeEnds(block, outline, step.run, h, (start + ((k + 0.5) / count) * heights) / total, ends);
							const length = axesOf(block, h, ends, axes);
							const free = columns[slots.ends]![h]!;
							if (!(length > 2 * free)) return markFailed(block, h, mask, code);
							out.rows.push(row);
							out.positionStart.push(out.positions.length);
							out.triangleStart.push(out.triangles.length);
							const twist = columns[slots.twist]![h]!;
							const pieces = twist === 0 ? 1 : TWIST_PIECES;
							for (let ring = 0; ring <= pieces; ring++) {
								const along = free + ((length - 2 * free) * ring) / pieces;
								// At a tilt of 0 the profile's depth, its y, points outwards; a tilt turns it from there to the right of the blade's way.
								const angle = columns[slots.tilt]![h]! + (twist * ring) / pieces;
								const cosine = cos(angle);
								const sine = sin(angle);
								const outwards = columns[slots.out]![h]!;
								const at = out.positions.take(n * 3);
								const to = out.positions.values;
								for (let p = 0, o = at; p < n; p++, o += 3) {
									const x = flat[p * 2]! * cosine - flat[p * 2 + 1]! * sine;
									const y = flat[p * 2]! * sine + flat[p * 2 + 1]! * cosine + outwards;
									to[o] = ends[0]! + axes[6]! * along + x * axes[0]! + y * axes[3]!;
									to[o + 1] = ends[1]! + axes[7]! * along + x * axes[1]! + y * axes[4]!;
									to[o + 2] = ends[2]! + axes[8]! * along + x * axes[2]! + y * axes[5]!;
								}
							}
							const made = pieces === 1 ? straight : twisted;
							const first = out.triangles.take(made.length);
							out.triangles.values.set(made, first);
							const bladeLength = length - 2 * free;
							quantities.length[row]! += bladeLength;
							quantities.area[row]! += bladeLength * profile.around(columns, h);
							quantities.volume[row]! += bladeLength * profile.section(columns, h);
							quantities.pieces[row]! += 1;
						}
					});
				}
			}
		});
	}
});

/** Pieces of a twisted blade; their diagonals alternate, so that what one makes too thick the next makes too thin. */
const TWIST_PIECES = 16;
/** Blades on one host at most. */
const MOST_BLADES = 2000;

function reset(quantities: Quantities, row: number): void {
	quantities.length[row] = quantities.area[row] = quantities.volume[row] = quantities.pieces[row] = 0;
}

type Run = 'across' | 'up';

/** Corners at the start and end of the two sides that blades run between. */
const SIDES: Readonly<Record<Run, readonly [number, number, number, number]>> = {
	// Left side upwards, right side upwards; or lower side and upper side to the right, blades running up.
	across: [0, 3, 1, 2],
	up: [0, 1, 3, 2]
};

/** Mean length of the two sides that the blades are spread along, mm. */
function acrossLength({ points, stride, from }: Block, outline: Line, run: Run, h: number): number {
	const base = (from + h) * stride + outline.first * 3;
	const between = (a: number, b: number) =>
		hypot(
			points[base + b * 3]! - points[base + a * 3]!,
			points[base + b * 3 + 1]! - points[base + a * 3 + 1]!,
			points[base + b * 3 + 2]! - points[base + a * 3 + 2]!
		);
	const [a, b, c, d] = SIDES[run];
	return (between(a, b) + between(c, d)) / 2;
}

/** Both ends of the blade at a share of those sides. */
function bladeEnds(
	{ points, stride, from }: Block,
	outline: Line,
	run: Run,
	h: number,
	share: number,
	ends: Float64Array
): void {
	const base = (from + h) * stride + outline.first * 3;
	const [a, b, c, d] = SIDES[run];
	for (let axis = 0; axis < 3; axis++) {
		const mix = (p: number, q: number) =>
			points[base + p * 3 + axis]! * (1 - share) + points[base + q * 3 + axis]! * share;
		ends[axis] = mix(a, b);
		ends[3 + axis] = mix(c, d);
	}
}

function axesOf(block: Block, h: number, ends: Float64Array, axes: Float64Array): number {
	return axesInPlace(axes, { ...block, points: ends } as Block, h, 0, 3);
}
