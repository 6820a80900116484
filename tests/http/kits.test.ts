import { expect } from 'chai';
import { packKit } from '../../src/core/project/kitFile.ts';
import { shippedDemo } from '../unit/demo.ts';

const base = process.env.ZYGASTER_URL!;
const file = packKit(
	shippedDemo(),
	shippedDemo().kits.find((k) => k.id === 'lantern-shingle')!
);

/** A browser of its own: it keeps the cookie that it is given. */
function visitor() {
	let cookie = '';
	return async (method: string, path: string, body?: unknown) => {
		const response = await fetch(base + path, {
			method,
			headers: { 'content-type': 'application/json', origin: base, cookie },
			...(body === undefined ? {} : { body: JSON.stringify(body) })
		});
		cookie = response.headers.get('set-cookie')?.split(';')[0] ?? cookie;
		const text = await response.text();
		return { status: response.status, headers: response.headers, json: text ? (JSON.parse(text) as never) : undefined };
	};
}

describe('the kit library over HTTP', () => {
	it('keeps kits for the browser that sent them, and for no other', async () => {
		const [mine, other] = [visitor(), visitor()];
		expect((await mine('GET', '/api/kits')).json).deep.equal([]);
		const made = await mine('POST', '/api/kits', file);
		expect(made.status).equal(201);
		const address = made.headers.get('location')!;
		expect((await mine('GET', '/api/kits')).json!).satisfy(
			(list: { name: string }[]) => list.length === 1 && list[0]!.name === 'Lantern shingle'
		);
		expect((await mine('GET', address)).json).deep.equal(file);
		expect((await other('GET', '/api/kits')).json).deep.equal([]);
		expect((await other('GET', address)).status).equal(404);
		expect((await mine('DELETE', address)).status).equal(204);
		expect((await mine('GET', address)).status).equal(404);
	});

	it('answers what is wrong with a kit that cannot be kept', async () => {
		const { status, json } = await visitor()('POST', '/api/kits', { ...file, kits: [] });
		expect(status).equal(422);
		expect(json).deep.include({ code: 'kit' });
	});
});
