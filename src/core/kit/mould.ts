import type { Builder } from './builder.ts';
import type { MouldedBody } from './builderWorld.ts';
import { markFailed } from './sound.ts';
import { meshArea } from '../mesh/triangleMesh.ts';
import { meshVolume } from './mesh.ts';
import type { Block, KitProgram } from './program.ts';
import { newBlock } from './block.ts';
import type { HostColumns } from './hosts.ts';

/** Distinct sets of values that a mould is kept for at once. */
const MOST_KEPT = 500;

/**
 * Makes the present step a mould: the steps on it are a program of their own for one box, which is run once for
 * each distinct set of its sizes and of the numbers that its steps mention.
 */
export function compileMould(b: Builder, sizes: readonly [number, number, number]): void {
	const { mask, step } = b;
	const code = b.fault('its sizes must be above 0, and a body on it must be possible with these values');
	let program: KitProgram | undefined;
	let captured: readonly (readonly [number, number])[] = [];
	b.inner(step!, { kind: 'box', corners: 4 }, (made, outer) => {
		program = made;
		captured = outer;
		if (made.needsSolids) b.needsSolids = true;
	});
	const known = new Map<string, MouldedBody | undefined>();
	b.moulds.set(step!.name, {
		mask,
		bodies: () => [...(program?.bodies.keys() ?? [])],
		mesh(block, h, body) {
			const size = sizes.map((s) => block.columns[s]![h]!);
			if (!size.every((s) => s > 0)) return fail();
			const values = captured.map(([outer]) => block.columns[outer]![h]!);
			const key = `${body}|${[...size, ...values].join()}`;
			if (!known.has(key)) {
				if (known.size >= MOST_KEPT) known.clear();
				known.set(key, make(program!, size as [number, number, number], values, body, block));
			}
			return known.get(key) ?? fail();

			function fail(): undefined {
				markFailed(block, h, mask, code);
			}
		}
	});

	function make(
		inner: KitProgram,
		size: readonly [number, number, number],
		values: readonly number[],
		body: string,
		outer: Block
	): MouldedBody | undefined {
		const block = newBlock(inner, boxHost(size), 1, outer.solids);
		captured.forEach(([, slot], k) => (block.columns[slot] = Float64Array.of(values[k]!)));
		for (const op of inner.ops) op(block);
		const { mesh: drawn, fine } = inner.bodies.get(body)!;
		const mesh = block.failed[0] === 0 ? drawn(block, 0) : undefined;
		const measured = mesh && (fine?.(block, 0) ?? mesh);
		if (!mesh || !measured || block.failed[0] !== 0) return undefined;
		return {
			mesh: { positions: mesh.positions.map((x, k) => x / size[k % 3]!), triangles: mesh.triangles },
			area: meshArea(measured) / meshArea(mesh),
			volume: meshVolume(measured) / meshVolume(mesh)
		};
	}
}

/** A box host from the origin: lower corners first, then the upper ones on the second layer. */
function boxHost([w, h, d]: readonly [number, number, number]): HostColumns {
	const lower = [0, 0, 0, w, 0, 0, w, h, 0, 0, h, 0];
	return {
		ids: Uint32Array.of(0),
		cornerStart: Uint32Array.of(0, 4),
		corners: Uint32Array.of(0, 1, 2, 3),
		position: Float64Array.from(lower),
		upper: Float64Array.from(lower, (x, k) => (k % 3 === 2 ? d : x)),
		normal: Float64Array.of(0, 0, 1),
		reading: (name) => ({ width: Float64Array.of(w), height: Float64Array.of(h), area: Float64Array.of(w * h) })[name]
	};
}
