import { pointAt } from '../../geometry/vectors.ts';
import { APART_SHARE } from '../../tolerances.ts';
import { option, refs } from '../fields.ts';
import type { Mesh } from '../mesh.ts';
import { movedSkin } from '../movedSkin.ts';
import type { Block } from '../program.ts';
import type { SolidOperation } from '../solids.ts';
import { markFailed } from '../sound.ts';
import { stepKind } from '../stepKind.ts';

/**
 * Bodies whose sides lie in no plane of the first one: where they do, rounding leaves films between them, or takes them for
 * apart. What is taken off, and what is joined, reaches a little further; of what is in all of them a little less is left.
 */
function apart(operation: SolidOperation, [first, ...others]: readonly Mesh[]): Mesh[] {
	const from = pointAt(first!.positions, 0);
	const extent = [first!, ...others].reduce(
		(most, { positions }) => positions.reduce((far, x, k) => Math.max(far, Math.abs(x - from[k % 3]!)), most),
		0
	);
	const by = extent * APART_SHARE * (operation === 'intersection' ? -1 : 1);
	return [first!, ...others.map((mesh) => movedSkin(mesh, by))];
}

export const combine = stepKind({
	kind: 'combine',
	group: 'bodies',
	makes: 'body',
	label: 'Combine bodies',
	help: 'Bodies joined, taken from the first, or what is in all of them',
	fields: {
		operation: option({ union: 'Joined', difference: 'Taken from the first', intersection: 'What is in all' }, 'How'),
		of: refs(['body'], 'Of', 'Bodies; the first is the one that is cut', 2)
	},
	compile({ operation, of }, b) {
		const bodies = of.map((name) => b.body(name));
		const empty = b.fault('nothing is left of the body; right would be bodies that meet');
		const open = b.fault('one of its bodies is not closed, or is turned inside out');
		b.needsSolids = true;
		const { mask } = b;
		const combined = (block: Block, h: number, meshes: readonly (Mesh | undefined)[]): Mesh | undefined => {
			if (meshes.some((m) => !m)) return undefined;
			if (!block.solids) throw b.fail('bodies cannot be combined here, since the solids package is not loaded');
			try {
				const mesh = block.solids.combine(operation, apart(operation, meshes as Mesh[]));
				if (!mesh) markFailed(block, h, mask, empty);
				return mesh;
			} catch {
				markFailed(block, h, mask, open);
				return undefined;
			}
		};
		b.bodies.set(b.step!.name, {
			mask: b.mask,
			mesh: (block, h) =>
				combined(
					block,
					h,
					bodies.map((body) => body.mesh(block, h))
				),
			...(bodies.some((body) => body.fine)
				? {
						fine: (block: Block, h: number) =>
							combined(
								block,
								h,
								bodies.map((body) => (body.fine ?? body.mesh)(block, h))
							)
					}
				: {})
		});
	}
});
