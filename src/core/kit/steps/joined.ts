import { partFields, ref, value, valueOr } from '../fields.ts';
import { trueLength } from '../measures.ts';
import { eachSound, markFailed } from '../sound.ts';
import { stepKind } from '../stepKind.ts';

/** Round bars that grow together. */
export const joined = stepKind({
	kind: 'joined',
	group: 'parts',
	makes: 'part',
	label: 'Joined round bar',
	help: 'A round bar along a line, joined smoothly with those of all other hosts where their ends meet: one closed body',
	fields: {
		...partFields,
		line: ref(['line'], 'Line'),
		radius: value('length', 'Radius', 'Of the bar; it may differ from host to host', 40),
		softness: valueOr('ratio', 0.5, 'Softness', 'How far bars flow into each other where they meet, of the radius'),
		deviation: valueOr('length', 1, 'Deviation', 'How far facets may lie within the round surface in files')
	},
	compile(step, b) {
		const line = b.line(step.line, 2);
		const slots = {
			radius: b.slot(step.radius, 'length', 'Radius'),
			softness: b.slot(step.softness, 'ratio', 'Softness'),
			deviation: b.slot(step.deviation, 'length', 'Deviation')
		};
		for (const [slot, label] of [
			[slots.softness, 'Softness'],
			[slots.deviation, 'Deviation']
		] as const)
			if (!b.isUniform(slot))
				throw b.fail(
					`${label} differs from host to host; right would be one value for all, since all bars are one body`
				);
		const thin = b.fault('the radius must be above 0');
		const { mask } = b;
		b.op((block) => {
			for (let h = 0; h < block.count; h++)
				if (!(block.columns[slots.radius]![h]! > 0)) markFailed(block, h, mask, thin);
		});
		const segments = line.closed ? line.count : line.count - 1;
		b.parts.push({
			step,
			mask: b.mask,
			// Alone; what the joints take and add is known when all bars are.
			measure(block, { area, length, volume, pieces }) {
				for (let h = 0; h < block.count; h++) {
					const row = block.from + h;
					const r = block.columns[slots.radius]![h]!;
					length[row] = trueLength(block, line, h);
					area[row] = 2 * Math.PI * r * length[row];
					volume[row] = Math.PI * r * r * length[row];
					pieces[row] = 1;
				}
			},
			geometry: {
				kind: 'joined',
				generate(block, out) {
					const { points, stride, from, columns } = block;
					out.softness = columns[slots.softness]![0]!;
					out.deviation = columns[slots.deviation]![0]!;
					eachSound(block, mask, (h) => {
						const base = (from + h) * stride;
						for (let s = 0; s < segments; s++) {
							for (const k of [s, (s + 1) % line.count]) {
								const p = base + (line.first + k) * 3;
								out.ends.push3(points[p]!, points[p + 1]!, points[p + 2]!);
							}
							out.radius.push(columns[slots.radius]![h]!);
							out.rows.push(from + h);
						}
					});
				}
			}
		});
	}
});
