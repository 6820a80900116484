import { setTimeout as wait } from 'node:timers/promises';
import { expect } from 'chai';
import { FORMATS } from '../../src/core/formats/format.ts';
import { diffProjects } from '../../src/core/project/diff.ts';
import { VERSION, type Project } from '../../src/core/project/schema.ts';
import { demoProject, demoText } from '../unit/demo.ts';

const base = process.env.ZYGASTER_URL!;

const call = async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
	const response = await fetch(base + path, {
		method,
		headers: { 'content-type': 'application/json', ...headers },
		...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) })
	});
	const text = await response.text();
	const json = response.headers.get('content-type')?.includes('json') ? JSON.parse(text) : undefined;
	return { status: response.status, headers: response.headers, text, json };
};

async function create(project: Project = demoProject()): Promise<string> {
	const { status, json } = await call('POST', '/api/projects', project);
	expect(status).equal(201);
	return json.id as string;
}

const rename = (name: string) => ({
	label: 'Rename',
	patch: diffProjects(demoProject(), { ...demoProject(), name })
});

describe('the HTTP API', () => {
	it('takes a project and gives it back unchanged, with its revision as ETag', async () => {
		const id = await create();
		const { json, headers } = await call('GET', `/api/projects/${id}`);
		expect(JSON.stringify(json.document)).equal(JSON.stringify(demoProject()));
		expect(headers.get('etag')).equal('"1"');
	});

	it('saves an edit that is based on the current revision (RFC 9110 If-Match)', async () => {
		const id = await create();
		const { status, headers } = await call('PATCH', `/api/projects/${id}`, rename('Other'), { 'if-match': '"1"' });
		expect([status, headers.get('etag')]).deep.equal([200, '"2"']);
		expect((await call('GET', `/api/projects/${id}`)).json.document.name).equal('Other');
	});

	it('answers a stale edit with 412 and what changed', async () => {
		const id = await create();
		await call('PATCH', `/api/projects/${id}`, rename('First'), { 'if-match': '"1"' });
		const { status, json } = await call('PATCH', `/api/projects/${id}`, rename('Second'), { 'if-match': '"1"' });
		expect(status).equal(412);
		expect(json).deep.include({ code: 'stale', revision: 2 });
		expect(json.edits.map((e: { label: string }) => e.label)).deep.equal(['Rename']);
		expect((await call('GET', `/api/projects/${id}`)).json.document.name).equal('First');
	});

	for (const [what, body, match, status, words] of [
		['without a revision', rename('x'), '', 428, 'If-Match'],
		['with a revision beyond all numbers', rename('x'), `"${'9'.repeat(10)}"`, 400, 'whole number'],
		['with a revision that is no number', rename('x'), 'W/"new"', 428, 'If-Match'],
		['that is no JSON', '{"label"', '"1"', 422, 'not JSON'],
		['without operations', { label: 'x', patch: [] }, '"1"', 400, 'no edit'],
		['with an unknown operation', { label: 'x', patch: [{ op: 'merge', path: '/name' }] }, '"1"', 400, 'no edit'],
		['that does not fit', { label: 'x', patch: [{ op: 'remove', path: '/masses/9' }] }, '"1"', 409, 'does not fit'],
		[
			'that breaks the project',
			{ label: 'x', patch: [{ op: 'replace', path: '/units', value: 'cubit' }] },
			'"1"',
			422,
			'units'
		],
		[
			'that reaches for the prototype',
			{ label: 'x', patch: [{ op: 'add', path: '/__proto__/x', value: 1 }] },
			'"1"',
			409,
			'does not fit'
		]
	] as [string, unknown, string, number, string][])
		it(`refuses an edit ${what}`, async () => {
			const id = await create();
			const answer = await call('PATCH', `/api/projects/${id}`, body, match ? { 'if-match': match } : {});
			expect([answer.status, answer.json.message]).satisfy(
				([s, m]: [number, string]) => s === status && m.includes(words),
				answer.text
			);
			expect((await call('GET', `/api/projects/${id}`)).headers.get('etag')).equal('"1"');
		});

	it('refuses projects that are broken, too new or too large in cells', async () => {
		for (const [text, words] of [
			['{"format":', 'not JSON'],
			[demoText.replace(`"version": ${VERSION}`, `"version": ${VERSION + 1}`), 'newer Zygaster'],
			[
				demoText.replace('"count": 24', '"count": 100000').replace('"count": 48', '"count": 100000'),
				'the limit is 2 000 000'
			],
			['null', 'JSON object']
		] as const) {
			const { status, json } = await call('POST', '/api/projects', text);
			expect(status).equal(422);
			expect(json.message).contains(words);
		}
	});

	it('reads long projects beside its other work, with the same words for what is wrong', async () => {
		const long = demoProject();
		const points = (k: number) =>
			Array.from({ length: 1000 }, (_, i) => {
				const [angle, radius] = [(i / 1000) * 2 * Math.PI, i % 2 ? 500 : 400 + k];
				return [radius * Math.cos(angle), radius * Math.sin(angle)];
			});
		const openings = Array.from({ length: 60 }, (_, k) => ({
			id: `o-${k}`,
			name: `Opening ${k}`,
			outline: { kind: 'polygon', points: points(k) },
			place: { kind: 'face', across: 1000 * k, up: 5000 }
		}));
		const text = (change?: (o: typeof openings) => void) => {
			const own = structuredClone(openings);
			change?.(own);
			return JSON.stringify({
				...long,
				masses: long.masses.map((m, k) => (k ? m : { ...m, faces: m.faces.map((f) => ({ ...f, openings: own })) }))
			});
		};
		expect(text().length).greaterThan(1_000_000);
		const { status, json } = await call('POST', '/api/projects', text());
		expect(status).equal(201);
		expect((await call('GET', `/api/projects/${json.id}`)).json.document.masses[0].faces[0].openings.length).equal(60);
		const crossed = text((o) => o[7]!.outline.points.splice(1, 2, [600, 0], [-600, 1]));
		const refused = await call('POST', '/api/projects', crossed);
		expect([refused.status, refused.json.message]).satisfy(
			([s, m]: [number, string]) => s === 422 && m.includes('“Opening 7” crosses itself')
		);
	});

	it('answers unknown and deleted projects with 404', async () => {
		const id = await create();
		expect((await call('DELETE', `/api/projects/${id}`)).status).equal(204);
		for (const path of [
			`/api/projects/${id}`,
			'/api/projects/none',
			'/api/handover/5a110000-0000-4000-8000-0000000000ff'
		])
			expect((await call('GET', path)).status, path).equal(404);
		expect((await fetch(`${base}/projects/${id}`)).status).equal(404);
		expect((await fetch(`${base}/nowhere`)).status).equal(404);
	});

	it('lists projects, last changed first', async () => {
		const id = await create({ ...demoProject(), name: 'Newest' });
		const { json } = await call('GET', '/api/projects');
		expect(json[0]).deep.include({ id, name: 'Newest', revision: 1 });
	});

	it('makes files of the handover as jobs', async () => {
		const id = await create();
		const order = await call('POST', `/api/projects/${id}/handover`, { format: 'csv' });
		expect(order.status).equal(202);
		const place = order.headers.get('location')!;
		let state = '';
		for (let k = 0; k < 100 && state !== 'done'; k++) {
			await wait(100);
			state = (await call('GET', place)).json.state;
		}
		const file = await fetch(`${base}${place}/file`);
		expect(file.headers.get('content-disposition')).equal('attachment; filename="sallow-reach-ferry-terminal.csv"');
		expect(file.headers.get('content-type')).equal('text/csv; charset=utf-8');
		expect((await file.text()).split('\r\n').length).equal(1154);
		expect((await call('POST', `/api/projects/${id}/handover`, { format: 'dwg' })).json.message).contains(
			FORMATS.join(', ')
		);
	});

	it('refuses forms from other sites', async () => {
		const response = await fetch(`${base}/?/create`, {
			method: 'POST',
			headers: { 'content-type': 'application/x-www-form-urlencoded', origin: 'http://elsewhere.example' },
			body: 'name=Mine'
		});
		expect(response.status).equal(403);
	});
});
