import { expect } from 'chai';
import fc from 'fast-check';
import pg from 'pg';
import { request } from 'node:http';
import { hostileRequest, sendHostile } from './hostile.ts';
import { ownServer, type OwnServer } from './ownServer.ts';

const READ_ONLY = 'Projects can be looked at, but the database takes no edits now.';

describe('a server’s limits and what it tells of itself', () => {
	let own: OwnServer;
	before(
		async () =>
			(own = await ownServer({
				LOG_LEVEL: 'info',
				SLOW_BODY_MS: '2000',
				// As behind a proxy with TLS.
				ORIGIN: 'https://facade.example'
			}))
	);
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

	it('drops a body that comes too slowly, and no other', async () => {
		const { hostname, port } = new URL(own.base);
		const trickle = (bytes: number, everyMs: number) =>
			new Promise<[number | undefined, string]>((resolve, reject) => {
				const body = JSON.stringify({ name: 'x'.repeat(bytes) });
				const sent = request({
					hostname,
					port,
					path: '/api/projects',
					method: 'POST',
					headers: { 'content-type': 'application/json', 'content-length': String(body.length) }
				});
				let at = 0;
				const part = Math.ceil(body.length / 8);
				const timer = setInterval(() => {
					sent.write(body.slice(at, (at += part)));
					if (at < body.length) return;
					clearInterval(timer);
					sent.end();
				}, everyMs);
				sent.on('response', (r) => {
					let text = '';
					r.on('data', (chunk: Buffer) => (text += chunk.toString()));
					r.on('end', () => (clearInterval(timer), resolve([r.statusCode, text])));
				});
				sent.on('error', (cause) => (clearInterval(timer), reject(cause)));
			});
		const [status, text] = await trickle(40, 900);
		expect([status, (JSON.parse(text) as { code: string }).code]).deep.equal([408, 'timeout']);
		// Long, but quick enough: it is read to its end, and is no project.
		expect((await trickle(80_000, 600))[0]).equal(422);
	});

	it('gives browsers a cookie that only this host and TLS can set, where TLS stands before it', async () => {
		const cookieOf = async (base: string) => (await fetch(`${base}/api/projects`)).headers.get('set-cookie');
		expect(await cookieOf(process.env.ZYGASTER_URL!))
			.match(/^zygaster_owner=/)
			.not.match(/Secure/i);
		expect(await cookieOf(own.base))
			.match(/^__Host-zygaster_owner=[0-9a-f-]{36};/)
			.match(/; Path=\/;/)
			.match(/; HttpOnly; Secure; SameSite=Lax$/i)
			.not.match(/domain/i);
	});

	it('tells who asks too much to wait, and answers afterwards', async () => {
		const strict = await ownServer({ RATE_PER_SECOND: '5' });
		try {
			const answers: Response[] = [];
			// In turns: so many connections at once are more than a system takes.
			for (let k = 0; k < 6; k++)
				answers.push(...(await Promise.all(Array.from({ length: 50 }, () => fetch(`${strict.base}/health`)))));
			const refused = answers.filter((a) => a.status === 429);
			expect(refused.length).greaterThan(100);
			expect(Number(refused[0]!.headers.get('retry-after'))).within(1, 10);
			expect(refused[0]!.headers.get('content-type')).equal('application/problem+json');
			await new Promise((r) => setTimeout(r, 10_500));
			expect((await fetch(`${strict.base}/health`)).status).equal(200);
		} finally {
			await strict.end();
		}
	});
});

describe('requests with faults of the caller’s', () => {
	it('get 4xx, never 5xx, and soon (property)', async () => {
		await fc.assert(
			fc.asyncProperty(hostileRequest, async (request) => {
				const { status, ms } = await sendHostile(process.env.ZYGASTER_URL!, request);
				expect(status, JSON.stringify(request)).below(500);
				expect(ms).below(5000);
			}),
			{ numRuns: 600 }
		);
	});
});
