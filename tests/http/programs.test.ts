import { setTimeout as wait } from 'node:timers/promises';
import { Validator } from '@seriousme/openapi-schema-validator';
import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { createHash } from 'node:crypto';
import { OPERATIONS } from '../../src/lib/server/api/operations.ts';
import { demoWith } from '../unit/demo.ts';

const base = process.env.ZYGASTER_URL!;
const ROOT = `${base}/api/v1`;

/** A token as a person makes it, with the cookie that the person is known by. */
async function person() {
	const first = await fetch(base, { headers: { accept: 'text/html' } });
	const cookie = first.headers.getSetCookie()[0]!.split(';')[0]!;
	const act = async (action: string, fields: Record<string, string>) => {
		const response = await fetch(`${base}/?/${action}`, {
			method: 'POST',
			headers: { cookie, origin: base, 'x-sveltekit-action': 'true', accept: 'application/json' },
			body: new URLSearchParams(fields)
		});
		return (await response.json()) as { type: string; status: number; data?: string };
	};
	const page = async () => (await fetch(base, { headers: { cookie, accept: 'text/html' } })).text();
	return { act, page };
}
const tokenIn = (data: string) => /zygaster_[\w-]{43}/.exec(data)![0];
async function newToken(): Promise<string> {
	return tokenIn((await (await person()).act('makeToken', { name: 'nightly' })).data!);
}

interface Described {
	readonly paths: Record<string, Record<string, DescribedOperation>>;
}
interface DescribedOperation {
	readonly operationId: string;
	readonly responses: Record<string, { readonly content?: Record<string, { readonly schema?: object }> }>;
}

/** A client that knows nothing but the description: calls by `operationId`, and checks each answer against its schema (ajv). */
async function clientOf(token: string) {
	const description = (await (await fetch(`${ROOT}/openapi.json`)).json()) as Described;
	const ajv = addFormats.default(new Ajv2020({ strict: false }));
	const operations = new Map(
		Object.entries(description.paths).flatMap(([path, methods]) =>
			Object.entries(methods).map(
				([method, o]) => [o.operationId, { path, method: method.toUpperCase(), ...o }] as const
			)
		)
	);
	return async (
		id: string,
		parts: Record<string, string> = {},
		body?: unknown,
		headers: Record<string, string> = {}
	) => {
		const { path, method, responses } = operations.get(id)!;
		const used = new Set<string>();
		const filled = path.replace(/\{(\w+)\}/g, (_, name: string) => (used.add(name), encodeURIComponent(parts[name]!)));
		const query = new URLSearchParams(Object.entries(parts).filter(([name]) => !used.has(name)));
		const raw = body instanceof Uint8Array;
		const response = await fetch(`${ROOT}${filled}?${query}`, {
			method,
			headers: {
				authorization: `Bearer ${token}`,
				...(body === undefined ? {} : { 'content-type': raw ? 'application/octet-stream' : 'application/json' }),
				...headers
			},
			...(body === undefined ? {} : { body: raw ? (body as BodyInit) : JSON.stringify(body) })
		});
		const bytes = new Uint8Array(await response.arrayBuffer());
		const media = response.headers.get('content-type')?.split(';')[0] ?? '';
		const json = /json$/.test(media) ? JSON.parse(new TextDecoder().decode(bytes)) : undefined;
		const schema = responses[response.status]?.content?.['application/json']?.schema;
		if (schema) expect(ajv.validate(schema, json), `${id}: ${ajv.errorsText()}`).equal(true);
		return { status: response.status, headers: response.headers, bytes, json };
	};
}

describe('the interface for programs', () => {
	it('is described as OpenAPI 3.1 has it (@seriousme/openapi-schema-validator)', async () => {
		const description = (await (await fetch(`${ROOT}/openapi.json`)).json()) as object & Described;
		const { valid, errors } = await new Validator().validate(
			structuredClone(description) as unknown as Record<string, unknown>
		);
		expect(errors ?? []).deep.equal([]);
		expect(valid).equal(true);
		const listed = Object.values(description.paths).flatMap((p) => Object.values(p).map((o) => o.operationId));
		expect(listed.sort()).deep.equal(OPERATIONS.map((o) => o.id).sort());
	});

	it('does the main job for a client that has nothing but the description', async () => {
		const call = await clientOf(await newToken());
		const project = demoWith(4, 3);
		const { json: made } = await call('createProject', {}, project);
		const id = made.id as string;
		const { json: read, headers } = await call('getProject', { project: id });
		expect([read.document.name, headers.get('etag')]).deep.equal([project.name, '"1"']);
		const patch = [{ op: 'replace', path: '/name', value: 'From outside' }];
		const saved = await call('editProject', { project: id }, { label: 'Rename', patch }, { 'if-match': '"1"' });
		expect([saved.status, saved.json.revision]).deep.equal([200, 2]);
		const stale = await call('editProject', { project: id }, { label: 'Rename', patch }, { 'if-match': '"1"' });
		expect([stale.status, stale.json.code]).deep.equal([412, 'stale']);
		expect((await call('listRevisions', { project: id })).json.map((r: { revision: number }) => r.revision)).deep.equal(
			[2, 1]
		);
		expect((await call('getRevision', { project: id, revision: '1' })).json.document.name).equal(project.name);
		expect((await call('listEdits', { project: id, since: '1' })).json[0].label).equal('Rename');
		const ordered = await call('orderFile', { project: id }, { format: 'csv', options: { units: 'm' } });
		expect(ordered.status).equal(202);
		const order = ordered.json.id as string;
		for (let k = 0; k < 200 && (await call('getOrder', { order })).json.state !== 'done'; k++) await wait(200);
		const { bytes, status } = await call('getFile', { order });
		expect(status).equal(200);
		// An independent reader: csv-parse. 12 panels and the heads.
		expect((parse(new TextDecoder().decode(bytes)) as string[][]).length).equal(13);
		expect((await call('listOrders', { project: id })).json.map((o: { id: string }) => o.id)).deep.equal([order]);
		const run = (await call('startRun', { project: id }, {})).json.id as string;
		let ran = await call('getRun', { run });
		for (let k = 0; k < 200 && ran.json.state !== 'done'; k++) {
			await wait(200);
			ran = await call('getRun', { run });
		}
		expect(ran.json.summary.faces[0]).deep.include({ mark: 'C1', panels: 12, cells: { whole: 12, cut: 0, lost: 0 } });
		expect((await call('getRun', { run: order })).status).equal(404);
		const asset = new Uint8Array([1, 2, 3, 4]);
		const name = `sha256:${createHash('sha256').update(asset).digest('hex')}`;
		expect((await call('putAsset', { name }, asset)).status).equal(204);
		expect([...(await call('getAsset', { name })).bytes]).deep.equal([1, 2, 3, 4]);
		expect((await call('listFormats')).json.length).greaterThan(20);
		expect((await call('projectSchema')).json).have.property('$schema');
		const { json: some } = await call('listProjects', { limit: '1' });
		expect([some.projects.length, some.projects[0].id]).deep.equal([1, id]);
		expect(some.total).greaterThan(0);
		expect((await call('cancelOrder', { order })).status).equal(204);
		expect((await call('deleteProject', { project: id })).status).equal(204);
		expect((await call('getProject', { project: id })).status).equal(404);
	});

	it('asks for a token that is in force, and says how (RFC 6750)', async () => {
		const { act } = await person();
		const token = tokenIn((await act('makeToken', { name: 'short' })).data!);
		const get = (authorization?: string) =>
			fetch(`${ROOT}/projects`, { headers: authorization === undefined ? {} : { authorization } });
		expect((await get(`Bearer ${token}`)).status).equal(200);
		for (const wrong of [
			undefined,
			'Bearer',
			'Bearer x',
			`Bearer ${token}x`,
			`Basic ${token}`,
			`Bearer zygaster_${'a'.repeat(43)}`
		]) {
			const refused = await get(wrong);
			expect([refused.status, refused.headers.get('www-authenticate')]).deep.equal([401, 'Bearer']);
			expect(((await refused.json()) as { detail: string }).detail).contains('Authorization: Bearer');
		}
		// Nobody is shown a token again; only its owner can withdraw it, and from then on it is none.
		const own = await person();
		const mine = tokenIn((await own.act('makeToken', { name: 'Mine' })).data!);
		const text = await own.page();
		expect(text).contains('Mine').and.not.contains(mine);
		const id = /withdrawToken[\s\S]*?name="id" value="([0-9a-f-]{36})"/.exec(text)![1]!;
		expect((await act('withdrawToken', { id })).status).equal(404);
		expect((await get(`Bearer ${mine}`)).status).equal(200);
		expect((await own.act('withdrawToken', { id })).status).equal(200);
		expect((await get(`Bearer ${mine}`)).status).equal(401);
		expect((await own.act('makeToken', { name: ' ' })).status).equal(400);
	});

	it('answers what is wrong with words and a status of the caller’s, never 500', async () => {
		const call = await clientOf(await newToken());
		const unknown = crypto.randomUUID();
		const cases: [Promise<{ status: number; json: { code: string; detail: string } }>, number, RegExp][] = [
			[call('getProject', { project: unknown }), 404, /no such project|There is no/i],
			[call('getProject', { project: '../x' }), 404, /./],
			[call('listProjects', { limit: '0' }), 400, /limit/],
			[call('listProjects', { other: '1' }), 400, /other/],
			[call('createProject', {}, { format: 'other' }), 400, /format/],
			[call('orderFile', { project: unknown }, { format: 'toString' }), 400, /format/],
			[call('orderFile', { project: unknown }, { format: 'csv' }), 404, /./],
			[call('getRevision', { project: unknown, revision: '0' }), 400, /revision/],
			[call('getOrder', { order: '%00' }), 404, /./],
			[call('putAsset', { name: 'sha256:xyz' }, new Uint8Array([1])), 400, /sha256/],
			[call('getAsset', { name: '%' }), 400, /%/],
			[call('editProject', { project: unknown }, { label: '', patch: [] }), 400, /label/]
		];
		for (const [answer, status, words] of cases) {
			const { status: found, json } = await answer;
			expect([found, json.detail]).satisfies(
				([s, d]: [number, string]) => s === status && words.test(d),
				`${found} ${json.detail}, not ${status} ${words}`
			);
		}
		const none = await fetch(`${ROOT}/nowhere`);
		expect([none.status, none.headers.get('content-type')]).deep.equal([404, 'application/problem+json']);
		expect((await fetch(`${ROOT}/formats`, { method: 'DELETE' })).status).equal(405);
	});
});
