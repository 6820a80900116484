import { app } from '$lib/server/app.ts';
import { editsSince } from '$lib/server/edits.ts';
import { actorOf } from '$lib/server/owner.ts';
import { loadProject } from '$lib/server/projects.ts';
import { answer } from '$lib/server/respond.ts';
import { wholeNumber } from '$lib/server/requests.ts';
import type { RequestHandler } from './$types';

/** Something is sent this often, so that whoever stands between does not take the line for dead. */
const HEARTBEAT_MS = 20_000;

/** How many orders are told of at most. */
const MOST_ORDERS = 50;

/**
 * The edits after a revision, then each as it comes in: server-sent events whose ids are revisions. Beside them, as events
 * `orders`, the orders of the project, whenever one stands differently; whoever comes back is told anew how they stand.
 */
export const GET: RequestHandler = ({ params, url, request, cookies }) =>
	answer(async () => {
		const actor = actorOf(cookies);
		const { db, feed, handover } = await app();
		const { revision } = await loadProject(actor, db, params.id);
		let last = wholeNumber(
			'since',
			request.headers.get('last-event-id') ?? url.searchParams.get('since') ?? String(revision)
		);
		const encoder = new TextEncoder();
		let stop: () => void = () => undefined;
		const stream = new ReadableStream<Uint8Array>({
			start(controller) {
				const send = (text: string) => controller.enqueue(encoder.encode(text));
				/** Asked for one after the other, so that none comes twice. */
				let asked: Promise<void> = Promise.resolve();
				let told = '';
				const tellOrders = async () => {
					if (feed.ended) return;
					const orders = JSON.stringify(await handover.list(actor, params.id, MOST_ORDERS));
					if (orders !== told) send(`event: orders\ndata: ${orders}\n\n`);
					told = orders;
				};
				const tellEdits = async () => {
					if (feed.ended) return end();
					for (const edit of await editsSince(actor, db, params.id, last)) {
						last = edit.revision;
						send(`id: ${edit.revision}\ndata: ${JSON.stringify(edit)}\n\n`);
					}
				};
				// The browser asks again by itself, from the last edit that it has.
				const next = (tell: () => Promise<void>) => void (asked = asked.then(tell).catch(end));
				const beat = setInterval(() => send(': still here\n\n'), HEARTBEAT_MS);
				const offs = [
					feed.on('edit', params.id, () => next(tellEdits)),
					feed.on('order', params.id, () => next(tellOrders))
				];
				stop = () => {
					clearInterval(beat);
					for (const off of offs) off();
				};
				function end() {
					stop();
					try {
						controller.close();
					} catch {
						// Whoever listened has gone already.
					}
				}
				send('retry: 1000\n\n');
				next(tellEdits);
				next(tellOrders);
			},
			cancel: () => stop()
		});
		return new Response(stream, {
			headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
		});
	});
