import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { expect } from 'chai';
import { diffProjects } from '../../src/core/project/diff.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { demoProject, vaultOf } from '../unit/demo.ts';
import { listenTo } from './projectEvents.ts';

const base = process.env.ZYGASTER_URL!;
const JSON_TYPE = { 'content-type': 'application/json' };

const edit = (label: string, change: (p: Project) => void) => {
	const after = demoProject();
	change(after);
	return { id: randomUUID(), label, base: 1, patch: diffProjects(demoProject(), after) };
};
const rename = (name: string) => edit('Rename', (p) => (p.name = name));
const lengthen = (length: number) => edit('Longer', (p) => (vaultOf(p).length = length));

async function create(): Promise<string> {
	const response = await fetch(`${base}/api/projects`, {
		method: 'POST',
		headers: JSON_TYPE,
		body: JSON.stringify(demoProject())
	});
	return ((await response.json()) as { id: string }).id;
}

async function save(id: string, body: unknown) {
	const response = await fetch(`${base}/api/projects/${id}`, {
		method: 'PATCH',
		headers: JSON_TYPE,
		body: JSON.stringify(body)
	});
	return { status: response.status, json: (await response.json()) as Record<string, unknown> & { message: string } };
}

async function events(id: string, since: number) {
	const stream = await listenTo(base, id, since);
	expect(stream.type).equal('text/event-stream');
	return stream;
}

describe('edits over HTTP', () => {
	it('made on an earlier revision are put on top, and answered with what came between', async () => {
		const id = await create();
		await save(id, lengthen(80_000));
		const { status, json } = await save(id, rename('On top'));
		expect(status).equal(200);
		expect((json.edits as { label: string }[]).map((e) => e.label)).deep.equal(['Longer', 'Rename']);
	});

	it('sent twice are taken once, also both at the same time', async () => {
		const id = await create();
		const level = edit('Add level', (p) => void p.levels.push({ id: 'loft', name: 'Loft', height: 1 }));
		const [a, b] = await Promise.all([save(id, level), save(id, level)]);
		expect(a.json).deep.equal(b.json);
		expect((await save(id, level)).json).deep.equal(a.json);
		expect(a.json.revision).equal(2);
	});

	it('that touch one place are answered with 409 and both sides', async () => {
		const id = await create();
		await save(id, lengthen(80_000));
		const { status, json } = await save(id, lengthen(60_000));
		expect(status).equal(409);
		expect(json.clashes).deep.equal([{ place: 'Canopy › shape › length', mine: '60 000', theirs: '80 000' }]);
		expect(json.message).contains('Canopy › shape › length');
	});

	it('with a text that cannot be kept, a base beyond all numbers, or an id that is none are the sender’s fault', async () => {
		const id = await create();
		for (const [body, status, words] of [
			[{ ...rename('a\0b') }, 422, 'a NUL'],
			[{ ...rename('half \ud83d') }, 422, 'half a character'],
			[{ ...rename('x'), label: 'a\0b' }, 400, 'control characters'],
			[{ ...rename('x'), base: 2 ** 31 }, 400, 'base'],
			[{ ...rename('x'), base: -1 }, 400, 'base'],
			[{ ...rename('x'), id: 'mine' }, 400, 'id'],
			[{ ...rename('x'), base: 7 }, 412, 'an earlier state'],
			[{ ...rename('x'), patch: [{ op: 'add', path: '/a\nb', value: 1 }] }, 422, 'Unrecognized key']
		] as const) {
			const answer = await save(id, body);
			expect([answer.status, answer.json.message], JSON.stringify(body)).satisfy(
				([s, m]: [number, string]) => s === status && m.includes(words),
				JSON.stringify(answer)
			);
		}
		expect((await save(id, rename('Good'))).status).equal(200);
	});

	it('come to whoever listens, from the revision that they have', async () => {
		const id = await create();
		await save(id, rename('Before'));
		const stream = await events(id, 1);
		expect(await stream.edit()).deep.equal({ id: 2, label: 'Rename' });
		await save(id, lengthen(81_000));
		expect(await stream.edit()).deep.equal({ id: 3, label: 'Longer' });
		stream.stop();
		const later = await events(id, 2);
		expect((await later.edit()).id).equal(3);
		later.stop();
	});

	it('come with the orders as they change, and to whoever comes back with how they stand', async () => {
		const id = await create();
		const stream = await events(id, 1);
		expect(await stream.orders()).deep.equal([]);
		const answer = await fetch(`${base}/api/projects/${id}/handover`, {
			method: 'POST',
			headers: JSON_TYPE,
			body: JSON.stringify({ format: 'csv' })
		});
		const order = ((await answer.json()) as { id: string }).id;
		const states: string[] = [];
		while (states.at(-1) !== 'done') states.push(...(await stream.orders()).map((o) => o.state));
		expect(states[0]).oneOf(['waiting', 'running']);
		stream.stop();
		const again = await events(id, 1);
		expect((await again.orders()).map((o) => [o.id, o.state])).deep.equal([[order, 'done']]);
		// Thrown away: told, and there is no such file any more.
		expect((await fetch(`${base}/api/handover/${order}/file`, { method: 'DELETE' })).status).equal(204);
		expect(await again.orders()).deep.equal([]);
		expect((await fetch(`${base}/api/handover/${order}/file`)).status).equal(404);
		again.stop();
	});

	it('can be asked for since a revision', async () => {
		const id = await create();
		await save(id, rename('One'));
		await save(id, lengthen(81_000));
		const since = async (text: string) => (await fetch(`${base}/api/projects/${id}/edits?since=${text}`)).json();
		expect(((await since('2')) as unknown[]).length).equal(1);
		expect((await since('many')) as { code: string }).include({ code: 'request' });
		expect((await since('99999999999')) as { code: string }).include({ code: 'request' });
	});
});

describe('contents over HTTP', () => {
	const address = (name: string) => `${base}/api/contents/${name}`;
	const bytes = randomBytes(2_000_000);
	const name = `sha256:${createHash('sha256').update(bytes).digest('hex')}`;
	const put = (to: string, body: Buffer) =>
		fetch(address(to), {
			method: 'PUT',
			headers: { 'content-type': 'application/octet-stream' },
			body: Uint8Array.from(body)
		});

	it('are kept under their hash and given back whole, compressed or not', async () => {
		expect((await fetch(address(name), { method: 'HEAD' })).status).equal(404);
		expect((await put(name, bytes)).status).equal(204);
		expect((await put(name, bytes)).status).equal(204);
		expect((await fetch(address(name), { method: 'HEAD' })).status).equal(204);
		for (const encoding of ['gzip', 'identity']) {
			const response = await fetch(address(name), { headers: { 'accept-encoding': encoding } });
			expect(response.headers.get('cache-control')).contains('immutable');
			expect(Buffer.from(await response.arrayBuffer()).equals(bytes), encoding).to.be.true;
		}
	});

	it('are refused under a name that is not theirs, or that is none', async () => {
		const other = `sha256:${'0'.repeat(64)}`;
		const wrong = await put(other, bytes);
		expect([wrong.status, ((await wrong.json()) as { message: string }).message]).satisfy(
			([status, words]: [number, string]) => status === 422 && words.includes('something else')
		);
		expect((await fetch(address(other))).status).equal(404);
		expect((await fetch(address(name), { method: 'PUT' })).status).equal(400);
		for (const none of ['x', 'sha256:00', "sha256:' or 1=1"])
			expect((await put(encodeURIComponent(none), bytes)).status).equal(400);
	});
});
