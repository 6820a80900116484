import { z } from 'zod';
import { OPERATIONS, ROOT } from './operations.ts';
import type { Operation } from './operation.ts';

/** RFC 9457, with our code and place beside. */
const problem = z.object({
	type: z.string(),
	title: z.string(),
	status: z.int(),
	detail: z.string(),
	code: z.string(),
	message: z.string(),
	place: z.string()
});

/** What schemas refer to, by names that begin with who uses it. */
type Shared = Record<string, unknown>;

/** Schemas stand where they are used: a description is read by people, too. Those that hold themselves go to `shared`. */
function schemaOf(schema: z.ZodType, io: 'input' | 'output', user: string, shared: Shared): Record<string, unknown> {
	const { $schema: _, $defs = {}, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline' });
	const moved = (of: unknown) =>
		JSON.parse(JSON.stringify(of).replaceAll('"#/$defs/', `"#/components/schemas/${user}`)) as Record<string, unknown>;
	for (const [name, of] of Object.entries($defs)) shared[user + name] = moved(of);
	return moved(rest);
}

function describe({ id, summary, open, path, query, body, headers, answer }: Operation, shared: Shared) {
	const parameter = (name: string, where: 'path' | 'query' | 'header', schema: object, description?: string) => ({
		name,
		in: where,
		required: where === 'path',
		schema,
		...(description ? { description } : {})
	});
	const names = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!);
	const properties = query
		? Object.entries((schemaOf(query, 'output', id, shared).properties ?? {}) as Record<string, object>)
		: [];
	const parameters = [
		...names.map((name) => parameter(name, 'path', { type: 'string' })),
		...properties.map(([name, schema]) => parameter(name, 'query', schema)),
		...Object.entries(headers ?? {}).map(([name, text]) => parameter(name, 'header', { type: 'string' }, text))
	];
	const media = (schema: z.ZodType | string, io: 'input' | 'output') =>
		typeof schema === 'string'
			? { [schema]: {} }
			: { 'application/json': { schema: schemaOf(schema, io, id, shared) } };
	return {
		operationId: id,
		summary,
		...(open ? { security: [] } : {}),
		...(parameters.length ? { parameters } : {}),
		...(body
			? {
					requestBody: { required: true, content: media(body === 'bytes' ? 'application/octet-stream' : body, 'input') }
				}
			: {}),
		responses: {
			[answer.status]: {
				description: answer.means,
				...(answer.body ? { content: media(answer.body, 'output') } : {})
			},
			default: { $ref: '#/components/responses/Problem' }
		}
	};
}

/** The description of the interface for programs (OpenAPI 3.1), made from the very schemas that requests are read by. */
export function openApi(server: string) {
	const shared: Shared = {};
	const paths: Record<string, Record<string, unknown>> = {};
	for (const operation of OPERATIONS)
		(paths[operation.path] ??= {})[operation.method.toLowerCase()] = describe(operation, shared);
	return {
		openapi: '3.1.0',
		info: {
			title: 'Zygaster',
			version: '1',
			description:
				'Projects, their revisions, and the files that are made of them. Tokens are made and withdrawn on the page of projects.'
		},
		servers: [{ url: server + ROOT }],
		security: [{ token: [] }],
		paths,
		components: {
			schemas: shared,
			securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
			responses: {
				Problem: {
					description: 'What went wrong, in words (RFC 9457)',
					content: { 'application/problem+json': { schema: schemaOf(problem, 'output', 'problem', shared) } }
				}
			}
		}
	};
}
