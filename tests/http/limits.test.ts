import { expect } from 'chai';
import fc from 'fast-check';
import pg from 'pg';
import { request } from 'node:http';
import { ownServer, type OwnServer } from './ownServer.ts';

const READ_ONLY = 'Projects can be looked at, but the database takes no edits now.';

describe('a server’s limits and what it tells of itself', function () {
	this.timeout(120_000);
	let own: OwnServer;
	before(async () => (own = await ownServer({ RATE_PER_SECOND: '40', LOG_LEVEL: 'info' })));
	after(() => own.end());

	const query = async (text: string) => {
		const client = new pg.Client({
			connectionString: own.database,
			// Whatever the database has been set to.
			options: '-c default_transaction_read_only=off'
		});
		await client.connect();
		try {
			return (await client.query(text)).rows;
		} finally {
			await client.end();
		}
	};

	it('gives its role no more than its own database', async () => {
		const [role] = await query(
			'select rolsuper, rolcreatedb, rolcreaterole from pg_roles where rolname = current_user'
		);
		expect(role).deep.equal({ rolsuper: false, rolcreatedb: false, rolcreaterole: false });
		const foreign = await query(
			"select tablename from pg_tables where schemaname in ('public', 'pgboss') and tableowner <> current_user"
		);
		expect(foreign).deep.equal([]);
	});

	it('tells whether projects can be loaded and saved', async () => {
		const health = async () => (await fetch(`${own.base}/health`)).json() as Promise<Record<string, unknown>>;
		expect(await health()).deep.equal({ status: 'ok', load: true, save: true });
		const [{ name }] = (await query('select current_database() as name')) as [{ name: string }];
		await query(`alter database ${name} set default_transaction_read_only = on`);
		try {
			// Connections that are there keep what they began with.
			await query(
				'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()'
			);
			// The first answers may be those of connections that were just ended.
			let said: unknown[] = [];
			for (let k = 0; k < 100 && said[1] !== READ_ONLY; k++) {
				const answer = await fetch(`${own.base}/health`);
				said = [answer.status, ((await answer.json()) as { detail?: string }).detail];
				await new Promise((r) => setTimeout(r, 50));
			}
			expect(said).deep.equal([503, READ_ONLY]);
		} finally {
			await query(`alter database ${name} set default_transaction_read_only = off`);
			await query(
				'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()'
			);
		}
		for (let k = 0; k < 100 && (await fetch(`${own.base}/health`)).status !== 200; k++)
			await new Promise((r) => setTimeout(r, 50));
		expect((await fetch(`${own.base}/health`)).status).equal(200);
	});

	it('counts what it does in the open text format', async () => {
		const id = await own.create();
		const text = await (await fetch(`${own.base}/metrics`)).text();
		expect(text).match(/^zygaster_request_seconds_count\{method="POST",route="\/api\/projects",status="201"\} \d+$/m);
		expect(text).match(/^zygaster_orders\{state="waiting"\} 0$/m);
		expect(text).match(/^process_resident_memory_bytes \d+/m);
		// Every line is a comment or a name with labels and a number.
		const lines = text.split('\n').filter(Boolean);
		expect(lines.filter((l) => !/^(#|[a-zA-Z_:][\w:]*(\{.*\})? (NaN|[+-]?Inf|[-+.\de]+))/.test(l))).deep.equal([]);
		await fetch(`${own.base}/api/v1/projects/${id}`, { method: 'DELETE' });
	});

	it('writes a line of JSON for every request, by route, with an id that its answer has; and who did what', async () => {
		const id = await own.create();
		const asked = await fetch(`${own.base}/api/projects/%0a%7B%22forged%22%3Atrue%7D`);
		const number = asked.headers.get('x-request-id')!;
		await fetch(`${own.base}/api/projects/${id}/handover`, {
			method: 'POST',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ format: 'json' })
		});
		for (let k = 0; k < 50 && !own.log().includes('"audit":"order"'); k++) await new Promise((r) => setTimeout(r, 100));
		const lines = own
			.log()
			.split('\n')
			.filter((l) => l.startsWith('{'))
			.map((l) => JSON.parse(l) as Record<string, unknown>);
		expect(
			own
				.log()
				.split('\n')
				.filter((l) => l && !l.startsWith('{') && !/^Listening/.test(l))
		).deep.equal([]);
		const line = lines.find((l) => l.id === number)!;
		expect(line).include({ method: 'GET', route: '/api/projects/[id]', status: asked.status });
		expect(own.log()).not.contain('forged');
		expect(lines.find((l) => l.audit === 'create project')).have.property('project');
		expect(lines.find((l) => l.audit === 'order')).include({ project: id, format: 'json', revision: 1 });
	});

	it('refuses bodies that are too large for where they go, or do not say how large they are', async () => {
		const large = await fetch(`${own.base}/api/projects/x/handover`, {
			method: 'POST',
			headers: { 'content-type': 'application/json' },
			body: ' '.repeat(300_000)
		});
		expect([large.status, ((await large.json()) as { code: string }).code]).deep.equal([413, 'too-large']);
		const { hostname, port } = new URL(own.base);
		const status = await new Promise((resolve, reject) => {
			const sent = request({
				hostname,
				port,
				path: '/api/projects/x/handover',
				method: 'POST',
				headers: { 'content-type': 'application/json' }
			});
			sent.on('response', (r) => (r.resume(), resolve(r.statusCode)));
			sent.on('error', reject);
			sent.write('{}');
			sent.end();
		});
		expect(status).equal(411);
	});

	it('tells who asks too much to wait, and answers afterwards', async () => {
		const answers: Response[] = [];
		// In turns: so many connections at once are more than a system takes.
		for (let k = 0; k < 12; k++)
			answers.push(...(await Promise.all(Array.from({ length: 50 }, () => fetch(`${own.base}/health`)))));
		const refused = answers.filter((a) => a.status === 429);
		expect(refused.length).greaterThan(100);
		expect(Number(refused[0]!.headers.get('retry-after'))).within(1, 10);
		expect(refused[0]!.headers.get('content-type')).equal('application/problem+json');
		await new Promise((r) => setTimeout(r, 10_500));
		expect((await fetch(`${own.base}/health`)).status).equal(200);
	});
});

describe('requests with faults of the caller’s', function () {
	this.timeout(120_000);
	const base = process.env.ZYGASTER_URL!;
	const odd = fc.oneof(
		fc.constantFrom(
			'',
			'..',
			'%00',
			'null',
			'-1',
			'1e999',
			'__proto__',
			'toString',
			'constructor',
			"'; --",
			'{}',
			'[]',
			'"',
			'\\',
			'%ff',
			'ä'.repeat(300)
		),
		fc.string({ maxLength: 40 }),
		fc.uuid()
	);
	const json = fc.oneof(
		fc.jsonValue({ maxDepth: 4 }),
		fc.record(
			{ format: odd, options: fc.jsonValue({ maxDepth: 2 }), issue: fc.jsonValue({ maxDepth: 1 }) },
			{ requiredKeys: [] }
		),
		fc.record({
			label: odd,
			base: fc.oneof(fc.integer(), fc.double()),
			patch: fc.array(fc.record({ op: odd, path: odd, value: fc.jsonValue({ maxDepth: 1 }) }))
		}),
		fc.constantFrom(3000, 20_000).map((depth) => `${'['.repeat(depth)}${']'.repeat(depth)}`)
	);
	const place = fc.constantFrom(
		'api/projects',
		'api/projects/ID',
		'api/projects/ID/edits?since=ID',
		'api/projects/ID/handover',
		'api/projects/ID/issues',
		'api/projects/ID/issues/ID',
		'api/projects/ID/revisions?to=ID',
		'api/projects/ID/revisions/ID',
		'api/handover/ID',
		'api/handover/ID/file',
		'api/kits',
		'api/kits/ID',
		'api/contents/ID',
		'projects/ID',
		'?/create',
		'?/restore',
		'api/v1/projects/ID',
		'api/v1/orders/ID',
		'api/v1/ID'
	);

	it('get 4xx, never 5xx, and soon (property)', async () => {
		await fc.assert(
			fc.asyncProperty(
				place,
				fc.constantFrom('GET', 'POST', 'PUT', 'PATCH', 'DELETE'),
				odd,
				json,
				fc.dictionary(
					fc.constantFrom('if-match', 'cookie', 'authorization', 'content-type', 'accept', 'if-none-match', 'range'),
					odd.map((t) => t.replace(/[^\x20-\x7e]/g, '')),
					{ maxKeys: 3 }
				),
				async (path, method, id, body, headers) => {
					const begun = performance.now();
					const text = typeof body === 'string' ? body : JSON.stringify(body);
					const answer = await fetch(`${base}/${path.replaceAll('ID', encodeURIComponent(id))}`, {
						method,
						redirect: 'manual',
						headers: { 'content-type': 'application/json', ...headers, origin: base },
						...(method === 'GET' ? {} : { body: text })
					});
					await answer.arrayBuffer();
					expect(answer.status, `${method} ${path} ${id}`).below(500);
					expect(performance.now() - begun).below(5000);
				}
			),
			{ numRuns: 600 }
		);
	});
});
