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

/** Schemas stand where they are used: a description is read by people, too. */
const schemaOf = (schema: z.ZodType, io: 'input' | 'output') => {
	const { $schema: _, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline' });
	return rest;
};

function describe({ id, summary, open, path, query, body, headers, answer }: Operation) {
	const parameter = (name: string, where: 'path' | 'query' | 'header', schema: object, description?: string) => ({
		name,
		in: where,
		required: where === 'path',
		schema,
		...(description ? { description } : {})
	});
	const names = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!);
	const properties = query
		? Object.entries((schemaOf(query, 'output').properties ?? {}) as Record<string, object>)
		: [];
	const parameters = [
		...names.map((name) => parameter(name, 'path', { type: 'string' })),
		...properties.map(([name, schema]) => parameter(name, 'query', schema)),
		...Object.entries(headers ?? {}).map(([name, text]) => parameter(name, 'header', { type: 'string' }, text))
	];
	const media = (schema: z.ZodType | string, io: 'input' | 'output') =>
		typeof schema === 'string' ? { [schema]: {} } : { 'application/json': { schema: schemaOf(schema, io) } };
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
	const paths: Record<string, Record<string, unknown>> = {};
	for (const operation of OPERATIONS)
		(paths[operation.path] ??= {})[operation.method.toLowerCase()] = describe(operation);
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
			securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
			responses: {
				Problem: {
					description: 'What went wrong, in words (RFC 9457)',
					content: { 'application/problem+json': { schema: schemaOf(problem, 'output') } }
				}
			}
		}
	};
}
