import fc from 'fast-check';

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

/** A request that is wrong in some way. */
export const hostileRequest = fc.record({
	path: fc.tuple(place, odd).map(([path, id]) => path.replaceAll('ID', encodeURIComponent(id))),
	method: fc.constantFrom('GET', 'POST', 'PUT', 'PATCH', 'DELETE'),
	body: json.map((body) => (typeof body === 'string' ? body : JSON.stringify(body))),
	headers: fc.dictionary(
		fc.constantFrom('if-match', 'cookie', 'authorization', 'content-type', 'accept', 'if-none-match', 'range'),
		odd.map((t) => t.replace(/[^\x20-\x7e]/g, '')),
		{ maxKeys: 3 }
	)
});
export type HostileRequest = typeof hostileRequest extends fc.Arbitrary<infer T> ? T : never;

/** Sends one; answers its status and how long that took, ms. */
export async function sendHostile(base: string, { path, method, body, headers }: HostileRequest) {
	const begun = performance.now();
	const answer = await fetch(`${base}/${path}`, {
		method,
		redirect: 'manual',
		headers: { 'content-type': 'application/json', ...headers, origin: base },
		...(method === 'GET' ? {} : { body })
	});
	await answer.arrayBuffer();
	return { status: answer.status, ms: performance.now() - begun };
}
