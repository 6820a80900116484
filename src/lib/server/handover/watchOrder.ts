import { setTimeout as wait } from 'node:timers/promises';

/** How often one that makes an order is heard of, and a stop noticed. */
const BEAT_MS = 400;

/** How the making of an order ended: by itself, or by what it is to be ended for. */
export type OrderEnd = 'settled' | 'broken' | 'time' | 'memory' | 'stopped';

export interface OrderWatch {
	/** Resolves once whoever makes it says so, or has ended over it. */
	readonly ended: Promise<'settled' | 'broken'>;
	/** What it is to be ended for by now. */
	readonly over: () => 'broken' | 'time' | 'memory' | undefined;
	/** Says that it is still being made; answers whether it is still ours. */
	readonly keep: () => Promise<boolean>;
}

/** Waits for the end of an order, and finds out at each beat (ms) whether it is to be ended. */
export async function watchOrder({ ended, over, keep }: OrderWatch, beat = BEAT_MS): Promise<OrderEnd> {
	const heard = () => Promise.race([ended, wait(beat, undefined)]);
	for (;;) {
		const end = (await heard()) ?? over();
		if (end) return end;
		// Not ours any more: it was stopped, or has just been settled, of which we hear in a moment.
		if (!(await keep())) return (await heard()) ?? 'stopped';
	}
}
