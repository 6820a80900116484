import { messageOf } from '../../../core/errors.ts';
import { connect } from '../database/connect.ts';
import type { Claim } from './claims.ts';
import { makeOrder } from './makeOrder.ts';

// A process that makes orders, one after the other, and has nothing else to do: it may be ended at any moment.

/** What it is asked to make, and what it may take, bytes. */
export interface OrderTask extends Claim {
	readonly memory: number;
}
export type OrderNews = { readonly progress: number } | { readonly settled: true } | { readonly broken: string };

const db = connect(process.env.DATABASE_URL!);
const send = (news: OrderNews) => void process.send?.(news);

process.on('message', ({ memory, ...claim }: OrderTask) => {
	makeOrder(db, claim, memory, (progress) => send({ progress })).then(
		() => send({ settled: true }),
		(cause: unknown) => send({ broken: messageOf(cause) })
	);
});
// Whoever asks has ended: nobody would hear of it.
process.once('disconnect', () => process.exit());
