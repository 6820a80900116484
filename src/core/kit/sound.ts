import { ALWAYS, type Block } from './program.ts';

/** Marks host `h` of a block as failed, unless it does not have the step or has failed before. */
export function markFailed(block: Block, h: number, mask: number, code: number): void {
	if (mask !== ALWAYS && block.masks[mask]![h] === 0) return;
	if (block.failed[block.from + h] === 0) block.failed[block.from + h] = code;
}

/** Adds the hosts of a block to a sink by way of `add`, without those that lack the step or have failed. */
export function eachSound(block: Block, mask: number, visit: (h: number) => void): void {
	const there = mask === ALWAYS ? undefined : block.masks[mask]!;
	for (let h = 0; h < block.count; h++)
		if (block.failed[block.from + h] === 0 && (there === undefined || there[h] === 1)) visit(h);
}
