import { request } from 'node:http';
import { expect } from 'chai';

const base = new URL(process.env.ZYGASTER_URL!);

/** A request under any host name, which `fetch` would not let through. */
const ask = (path: string, host: string) =>
	new Promise<{ status: number; headers: NodeJS.Dict<string | string[]>; text: string }>((resolve, reject) => {
		request({ host: base.hostname, port: base.port, path, headers: { host } }, (response) => {
			let text = '';
			response.on('data', (chunk: Buffer) => (text += chunk.toString()));
			response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, text }));
		})
			.on('error', reject)
			.end();
	});

describe('answers of the server', () => {
	it('go to its own names and to loopback alone: another name that leads here is refused (RFC 9110, 421)', async () => {
		for (const host of [base.host, `localhost:${base.port}`, '127.0.0.1', `[::1]:${base.port}`])
			expect((await ask('/health', host)).status, host).equal(200);
		for (const host of ['rebound.example', `rebound.example:${base.port}`, '127.0.0.1.example', 'a b', '10.0.0.1']) {
			const { status, headers, text } = await ask('/api/projects', host);
			expect(status, host).equal(421);
			expect(headers['content-type']).equal('application/problem+json');
			expect(text).contain('right would be the address that it was started with').not.contain('documents');
		}
	});

	it('say that they are for this page alone, to be sniffed at, framed and kept by nobody', async () => {
		for (const path of ['/', '/api/projects', '/api/projects/none']) {
			const { headers } = await ask(path, base.host);
			expect(headers, path).include({
				'x-content-type-options': 'nosniff',
				'referrer-policy': 'same-origin',
				'cross-origin-opener-policy': 'same-origin',
				'cross-origin-resource-policy': 'same-origin'
			});
			expect(headers['permissions-policy']).contain('camera=()');
			expect(headers['content-security-policy'], path).contain("frame-ancestors 'none'");
			expect(headers['cache-control'], path).match(/no-store|no-cache|private/);
		}
	});

	it('tell faults as problem details (RFC 9457)', async () => {
		const { status, headers, text } = await ask('/api/projects/00000000-0000-4000-8000-000000000000', base.host);
		expect(headers['content-type']).equal('application/problem+json');
		const problem = JSON.parse(text) as Record<string, unknown>;
		expect([status, problem.status, problem.title, problem.type]).deep.equal([404, 404, 'Not found', 'about:blank']);
		expect(problem.detail).equal(problem.message);
	});
});
