import { atan2, cos, sin } from '../../elementary/index.ts';
import { COINCIDENT_MM, PARALLEL_SINE } from '../../tolerances.ts';
import { axesSquareTo } from '../axes.ts';
import { option, ref, value, valueOr } from '../fields.ts';
import { normalAt } from '../fillOutline.ts';
import { markFailed } from '../sound.ts';
import { stepKind } from '../stepKind.ts';

/** Straight pieces of the round between two slots, and all around at least: a border's hubs have few slots. */
const [ARC_PIECES, AROUND_PIECES] = [6, 32];

/** The outline of something with a way towards each corner of a line: arms, or slots in something round. */
export const star = stepKind({
	kind: 'star',
	group: 'lines',
	makes: 'line',
	label: 'Star',
	help: 'A closed line around a point, square to the host’s normal, with an arm or a slot towards each corner of another line, such as towards the edges of a node',
	fields: {
		at: ref(['point'], 'Around'),
		of: ref(['line'], 'Towards the corners of'),
		shape: option({ arms: 'Arms', slots: 'Round with slots' }, 'Shape'),
		radius: value('length', 'Radius', 'Where arms end, or of the round', 180),
		width: value('length', 'Width', 'Of an arm or a slot', 60),
		inner: valueOr('length', 0, 'Middle', 'Radius that stays full between arms, or within slots')
	},
	compile({ at, of, shape, radius, width, inner }, b) {
		const hub = b.point(at);
		const line = b.line(of);
		const n = line.count;
		const slots = {
			radius: b.slot(radius, 'length', 'Radius'),
			width: b.slot(width, 'length', 'Width'),
			inner: b.slot(inner, 'length', 'Middle')
		};
		const lost = b.fault('a corner lies at the point, or straight over it, so that there is no way to it');
		const close = b.fault(
			'its arms or slots run into each other; right would be a smaller width, or a larger radius or middle'
		);
		const round = shape === 'slots';
		const arc = Math.max(ARC_PIECES, Math.ceil(AROUND_PIECES / n));
		const each = round ? 3 + arc : 3;
		const made = b.make(n * each, true, {
			free: true,
			...(round
				? {
						// From the far side of one slot round to the next.
						curves: Array.from({ length: n }, (_, k) => ({ from: k * each + 3, count: arc, tangent: false }))
					}
				: {})
		});
		const { mask } = b;
		const angles = new Float64Array(n);
		b.op((block) => {
			const { points, stride, from, count, columns } = block;
			for (let h = 0; h < count; h++) {
				const base = (from + h) * stride;
				const normal = normalAt(block, h);
				const [u, v] = axesSquareTo(normal);
				const c = base + hub.first * 3;
				const [r, w, m] = [columns[slots.radius]![h]!, columns[slots.width]![h]!, columns[slots.inner]![h]!];
				for (let k = 0; k < n; k++) {
					const p = base + (line.first + k) * 3;
					const [x, y, z] = [points[p]! - points[c]!, points[p + 1]! - points[c + 1]!, points[p + 2]! - points[c + 2]!];
					const [a, e] = [x * u[0] + y * u[1] + z * u[2], x * v[0] + y * v[1] + z * v[2]];
					if (!(a * a + e * e > PARALLEL_SINE * (x * x + y * y + z * z))) markFailed(block, h, mask, lost);
					angles[k] = atan2(e, a);
				}
				let to = base + made.first * 3;
				/** A point at a distance along a way and to the left of it. */
				const put = (angle: number, along: number, left: number) => {
					const [ca, sa] = [cos(angle), sin(angle)];
					const [a, e] = [along * ca - left * sa, along * sa + left * ca];
					for (let x = 0; x < 3; x++) points[to++] = points[c + x]! + a * u[x]! + e * v[x]!;
				};
				for (let k = 0; k < n; k++) {
					const angle = angles[k]!;
					let turn = n === 1 ? 2 * Math.PI : angles[(k + 1) % n]! - angle;
					if (turn <= 0) turn += 2 * Math.PI;
					// Where the sides of two neighbours meet; beyond a half turn they meet behind.
					const meet = w / 2 / sin(turn / 2);
					if (round) {
						const half = 2 * atan2(w / 2, r + Math.sqrt(Math.max(0, r * r - (w * w) / 4)));
						const reach = Math.sqrt(Math.max(0, r * r - (w * w) / 4));
						// Slots keep clear of each other at their inner ends.
						const clear = turn >= Math.PI || m * sin(turn / 2) - (w / 2) * cos(turn / 2) > COINCIDENT_MM;
						if (!(w > 0 && m >= 0 && reach > m && clear && turn > 2 * half)) markFailed(block, h, mask, close);
						put(angle, reach, -w / 2);
						put(angle, m, -w / 2);
						put(angle, m, w / 2);
						for (let a = 0; a < arc; a++) put(angle + half + ((turn - 2 * half) * a) / arc, r, 0);
					} else {
						const corner = Math.max(meet, m);
						if (!(w > 0 && m >= 0 && (n === 1 || turn >= Math.PI || corner * cos(turn / 2) < r)))
							markFailed(block, h, mask, close);
						put(angle, r, -w / 2);
						put(angle, r, w / 2);
						put(angle + turn / 2, corner, 0);
					}
				}
			}
		});
	}
});
