import { app } from '$lib/server/app.ts';
import { editsSince } from '$lib/server/edits.ts';
import { actorOf } from '$lib/server/owner.ts';
import { loadProject } from '$lib/server/projects.ts';
import { answer } from '$lib/server/respond.ts';
import { wholeNumber } from '$lib/server/requests.ts';
import type { RequestHandler } from './$types';

/** Something is sent this often, so that whoever stands between does not take the line for dead. */
const HEARTBEAT_MS = 20_000;

/** The edits after a revision, then each as it comes in: server-sent events whose ids are revisions. */
export const GET: RequestHandler = ({ params, url, request, cookies }) =>
	answer(async () => {
		const actor = actorOf(cookies);
		const { db, feed } = await app();
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
				const tell = async () => {
					if (feed.ended) return end();
					for (const edit of await editsSince(actor, db, params.id, last)) {
						last = edit.revision;
						send(`id: ${edit.revision}\ndata: ${JSON.stringify(edit)}\n\n`);
					}
				};
				// The browser asks again by itself, from the last edit that it has.
				const next = () => void (asked = asked.then(tell).catch(end));
				const beat = setInterval(() => send(': still here\n\n'), HEARTBEAT_MS);
				const off = feed.onEdit(params.id, next);
				stop = () => {
					clearInterval(beat);
					off();
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
				next();
			},
			cancel: () => stop()
		});
		return new Response(stream, {
			headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
		});
	});
