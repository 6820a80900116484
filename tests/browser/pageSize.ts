import { gzipSync } from 'node:zlib';
import type { Page } from 'playwright-core';

/** Bytes of what a page and its workers have asked for until a time of the page, ms: as they are, and packed. */
export async function pageSize(page: Page, until = Infinity): Promise<{ bytes: number; packed: number }> {
	const urls = await page.evaluate(
		(latest) =>
			performance
				.getEntriesByType('resource')
				.filter((r) => r.startTime < latest)
				.map((r) => r.name),
		until
	);
	let [bytes, packed] = [0, 0];
	for (const url of new Set([page.url(), ...urls.filter((u) => !u.includes('/events'))])) {
		const body = new Uint8Array(await (await fetch(url)).arrayBuffer());
		bytes += body.length;
		packed += /\.(woff2|wasm)/.test(url) ? body.length : gzipSync(body).length;
	}
	return { bytes, packed };
}
