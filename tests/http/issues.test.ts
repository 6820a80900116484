import { expect } from 'chai';
import { demoWith } from '../unit/demo.ts';

const base = process.env.ZYGASTER_URL!;

async function call(method: string, path: string, body?: unknown) {
	const response = await fetch(base + path, {
		method,
		headers: { 'content-type': 'application/json', origin: base },
		...(body === undefined ? {} : { body: JSON.stringify(body) })
	});
	const text = await response.text();
	return { status: response.status, json: text ? (JSON.parse(text) as never) : undefined };
}

describe('issues over HTTP', () => {
	let project: string;
	before(async () => {
		const made = await call('POST', '/api/projects', demoWith(4, 3));
		project = `/api/projects/${(made.json! as { id: string }).id}`;
	});

	it('are kept with their revision, mark, author and note, the newest first', async () => {
		expect((await call('GET', `${project}/issues`)).json).deep.equal([]);
		const first = await call('POST', `${project}/issues`, {
			name: ' Tender ',
			mark: 'A',
			author: 'Me',
			note: 'Prices'
		});
		expect(first.status).equal(201);
		expect(first.json).deep.include({ name: 'Tender', mark: 'A', author: 'Me', note: 'Prices', revision: 1 });
		const renamed = [{ op: 'replace', path: '/name', value: 'Later' }];
		const edit = { id: crypto.randomUUID(), label: 'Rename', patch: renamed, base: 1 };
		expect((await call('PATCH', project, edit)).status).equal(200);
		expect((await call('POST', `${project}/issues`, { name: 'Contract', mark: 'B' })).json).deep.include({
			revision: 2
		});
		const list = (await call('GET', `${project}/issues`)).json! as { mark: string; revision: number }[];
		expect(list.map((i) => [i.mark, i.revision])).deep.equal([
			['B', 2],
			['A', 1]
		]);
		// What was issued stays as it was.
		const then = (await call('GET', `${project}/revisions/1`)).json! as { document: { name: string } };
		expect(then.document.name).not.equal('Later');
	});

	it('are refused in words without a name, under a mark twice, or of a revision that is none', async () => {
		for (const [body, status, words] of [
			[{ name: '', mark: 'C' }, 400, 'The name must not be empty'],
			[{ name: 'Again', mark: 'A' }, 400, 'Revision “A” has been issued already, as “Tender”'],
			[{ name: 'Far', mark: 'Z', revision: 99 }, 404, 'no revision 99'],
			[{ name: 'a\nb', mark: 'D' }, 400, 'control characters'],
			[{ name: 'x'.repeat(121), mark: 'E' }, 400, 'at most 120']
		] as const) {
			const answer = await call('POST', `${project}/issues`, body);
			expect([answer.status, JSON.stringify(body).slice(0, 40)]).deep.equal([
				status,
				JSON.stringify(body).slice(0, 40)
			]);
			expect((answer.json as unknown as { message: string }).message).contains(words);
		}
	});

	it('can be taken back, once', async () => {
		const [{ id }] = (await call('GET', `${project}/issues`)).json! as [{ id: string }];
		expect((await call('DELETE', `${project}/issues/${id}`)).status).equal(204);
		expect((await call('DELETE', `${project}/issues/${id}`)).status).equal(404);
		expect((await call('DELETE', `${project}/issues/none`)).status).equal(404);
	});
});
