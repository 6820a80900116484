import { sql, type Kysely } from 'kysely';
import type { HandoverRow, Tables } from '../database/tables.ts';

/** The channel on which a project’s orders are told of when one stands differently; the table does so itself. */
export const ORDER_CHANNEL = 'zygaster_order';
/** The channel on which workshops are told that an order waits. */
export const WAITING_CHANNEL = 'zygaster_waiting';
/** Tells them, with the row that waits. */
export const tellWaiting = sql`pg_notify(${WAITING_CHANNEL}, '')`.as('told');

/** An order belongs to whoever makes it until so long after it was last heard of. */
export const LEASE_SECONDS = 5;
/** An order whose makers have all ended in the middle of it is not begun again. */
export const MOST_ATTEMPTS = 3;

/** An order that is being made, and by which claim. */
export interface Claim {
	readonly id: string;
	readonly claim: string;
	/** How often it has been begun, this time with. */
	readonly attempts: number;
	/** Who has ordered it; nobody known where it is an old one. */
	readonly owner: string | null;
}

const until = sql<Date>`now() + make_interval(secs => ${LEASE_SECONDS})`;

/**
 * Takes the next order that waits, or whose maker is not heard of any more: of whoever has the fewest under way, the oldest
 * first. With `served` only for newcomers: those who have none under way, and are none of these. Nothing where there is none.
 */
export async function claimOrder(db: Kysely<Tables>, served?: readonly (string | null)[]): Promise<Claim | undefined> {
	const { rows } = await sql<Claim>`
		update handover set
			state = 'running', claim = gen_random_uuid(), lease_until = ${until}, attempts = attempts + 1, progress = 0
		where id = (
			select h.id from handover h
			cross join lateral (
				select count(*) as under_way from handover r
				where r.state = 'running' and r.lease_until >= now() and r.owner is not distinct from h.owner
			) of_owner
			where (h.state = 'waiting' or (h.state = 'running' and coalesce(h.lease_until < now(), true)))
				and (${served === undefined}::boolean
					or (of_owner.under_way = 0 and coalesce(h.owner <> all(${served ?? []}::uuid[]), true)))
			order by of_owner.under_way, h.created_at, h.id
			limit 1
			for update of h skip locked
		)
		returning id, claim, attempts, owner
	`.execute(db);
	return rows[0];
}

/** Says that an order is still being made, and how far it is. Answers whether it is still ours: it may have been stopped. */
export async function keepClaim(db: Kysely<Tables>, { id, claim }: Claim, progress: number): Promise<boolean> {
	const { numUpdatedRows } = await db
		.updateTable('handover')
		.set({ progress, lease_until: until })
		.where('id', '=', id)
		.where('claim', '=', claim)
		.where('state', '=', 'running')
		.executeTakeFirst();
	return numUpdatedRows > 0n;
}

/** Closes an order that is ours; one that was stopped meanwhile stays stopped. */
export async function settleOrder(
	db: Kysely<Tables>,
	{ id, claim }: Claim,
	values: Pick<HandoverRow, 'state'> &
		Partial<Pick<HandoverRow, 'message' | 'progress' | 'file_name' | 'media_type' | 'size'>>
): Promise<void> {
	await db
		.updateTable('handover')
		.set({ ...values, document: null, claim: null, lease_until: null })
		.where('id', '=', id)
		.where('claim', '=', claim)
		.where('state', '=', 'running')
		.execute();
}

/** Puts an order back for others; what was begun is not counted where it was no fault of the order's. */
export async function putBack(db: Kysely<Tables>, { id, claim }: Claim, counted: boolean): Promise<void> {
	await db
		.updateTable('handover')
		.set((e) => ({
			state: 'waiting' as const,
			claim: null,
			lease_until: null,
			progress: 0,
			attempts: counted ? e.ref('attempts') : e('attempts', '-', 1)
		}))
		.where('id', '=', id)
		.where('claim', '=', claim)
		.where('state', '=', 'running')
		.returning(tellWaiting)
		.execute();
}

/** Keeps a piece of an order's file; nothing is kept once the order is not ours any more. */
export async function keepChunk(
	db: Kysely<Tables>,
	{ id, claim }: Claim,
	number: number,
	bytes: Uint8Array
): Promise<void> {
	await sql`
		insert into handover_chunk (handover_id, number, bytes)
		select id, ${number}::integer, ${Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)}::bytea
		from handover where id = ${id} and claim = ${claim} and state = 'running'
	`.execute(db);
}
