import { norm } from '../../elementary/index.ts';
import { newell } from '../../geometry/newell.ts';
import { eachSound } from '../sound.ts';
import type { Builder } from '../builder.ts';
import { kitRef, kitValues, refOrNone, type Value } from '../fields.ts';
import { normalAt } from '../fillOutline.ts';
import type { HostShape } from '../hosts.ts';
import type { Block, Line } from '../program.ts';
import type { Kit } from '../schema.ts';
import { stepKind } from '../stepKind.ts';

/** Kits within kits at most. */
const MOST_DEEP = 6;

/** Another kit on the host, on a piece, or on a line. */
export const innerKit = stepKind({
	kind: 'kit',
	group: 'parts',
	makes: 'part',
	label: 'Inner kit',
	help: 'Another kit with values of its own: on the host or a piece, or on a line of this kit; a condition such as mod(i + j, 2) == 0 makes it alternate',
	fields: {
		kit: kitRef('Kit'),
		line: refOrNone(['line', 'point'], 'On the line', 'The host itself when left out'),
		values: kitValues('Values', 'Values of its parameters; its own defaults where left out')
	},
	compile({ kit: id, line: name, values }, b) {
		const kit = b.world.library.get(id);
		if (!kit)
			throw b.fail(
				`there is no kit “${id}” in this project; known: ${[...b.world.library.keys()].join(', ') || 'none'}`
			);
		if (b.world.depth >= MOST_DEEP || id === b.kit.id)
			throw b.fail(`“${kit.name}” leads back to itself, or kits stand more than ${MOST_DEEP} deep in each other`);
		const line = name === undefined ? hostLine(b) : b.line(name);
		const texts: Record<string, string> = {};
		const given = new Map<string, number>();
		for (const [parameter, value] of Object.entries(values)) {
			const found = kit.parameters.find((p) => p.name === parameter);
			if (!found)
				throw b.fail(
					`“${kit.name}” has no parameter “${parameter}”; known: ${kit.parameters.map((p) => p.name).join(', ') || 'none'}`
				);
			if (found.quantity === 'text' || found.quantity === 'material') texts[parameter] = String(value);
			else given.set(parameter, held(b, kit, parameter, value));
		}
		const { mask } = b;
		b.innerKit(kit, shapeOf(kit, line), given, texts, (block, out) => {
			const { points, stride } = block;
			eachSound(block, mask, (h) => {
				const o = (block.from + h) * stride + line.first * 3;
				for (let k = 0; k < line.count * 3; k += 3)
					out.points.push3(points[o + k]!, points[o + k + 1]!, points[o + k + 2]!);
				out.normals.push3(...(line.closed ? normalOf(points, o, line.count, block, h) : normalAt(block, h)));
				out.rows.push(block.from + h);
			});
		});
	}
});

/** The host's own points as a line. */
function hostLine(b: Builder): Line {
	const own = [...b.lines].find(([name]) => b.allSteps.get(name)?.kind === 'outline')?.[1];
	if (own) return own;
	throw b.fail('there is no outline to put it on; add one, or name a line');
}

function shapeOf(kit: Kit, { count, closed }: Line): HostShape {
	if (count === 1) return { kind: 'node', corners: 0 };
	if (closed) return { kind: 'cell', corners: count };
	return kit.host.kind === 'path' ? { kind: 'path', corners: count } : { kind: 'edge', corners: count };
}

/** Slot of a value of an inner kit's parameter, held between its limits. */
function held(b: Builder, kit: Kit, name: string, value: Value): number {
	const parameter = kit.parameters.find((p) => p.name === name)!;
	const quantity =
		parameter.quantity === 'yesno' || parameter.quantity === 'choice' ? 'count' : (parameter.quantity as 'length');
	const slot = b.slot(value, quantity, `${parameter.label} of “${kit.name}”`);
	return 'least' in parameter ? b.clampSlot(slot, parameter.least, parameter.greatest) : slot;
}

/** Unit normal of a closed line's mean plane; the host's where it has none. */
function normalOf(
	points: Float64Array,
	o: number,
	count: number,
	block: Block,
	h: number
): readonly [number, number, number] {
	const n = newell(points, count, (k) => o + k * 3);
	const size = norm(n);
	return size > 0 ? [n[0] / size, n[1] / size, n[2] / size] : normalAt(block, h);
}
