import { text } from '@sveltejs/kit';
import { app } from '$lib/server/app.ts';
import { metrics, orders, orderWait } from '$lib/server/metrics.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

/** Counts and times for whoever watches over the server. */
export const GET: RequestHandler = () =>
	answer(async () => {
		const { handover } = await app();
		const { waiting, running, longestWait } = await handover.load();
		orders.set({ state: 'waiting' }, waiting);
		orders.set({ state: 'running' }, running);
		orderWait.set(longestWait);
		return text(await metrics.metrics(), { headers: { 'content-type': metrics.contentType } });
	});
