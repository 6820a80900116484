import { json } from '@sveltejs/kit';
import { Readable } from 'node:stream';
import { z } from 'zod';
import { contentNameSchema } from '../../../core/content.ts';
import { ZygasterError } from '../../../core/errors.ts';
import { FORMATS } from '../../../core/formats/format.ts';
import { WRITERS } from '../../../core/formats/writers.ts';
import { writeJsonSchema } from '../../../core/project/jsonSchema.ts';
import { contentResponse, fileResponse } from '../contentResponse.ts';
import { contentStream, putContent } from '../contents.ts';
import { editsSince, saveEdit } from '../edits.ts';
import { createProject, deleteProject, listProjects, loadProject } from '../projects.ts';
import { readText } from '../readText.ts';
import { editSchema, readEdit } from '../requests.ts';
import { documentOf, listRevisions } from '../revisions.ts';
import { operation, type Operation } from './operation.ts';

/** Where all of it is. */
export const ROOT = '/api/v1';
const MOST = 200;

const page = z.strictObject({
	/** How many at most. */
	limit: z.coerce.number().int().min(1).max(MOST).default(50)
});
const id = z.uuid();
const document = z.looseObject({ format: z.literal('zygaster-project'), version: z.int() });
const date = z.iso.datetime();
const projectLine = z.object({ id, name: z.string(), revision: z.int(), updatedAt: date });
const order = z.object({
	id,
	format: z.enum(FORMATS),
	state: z.enum(['waiting', 'running', 'done', 'failed', 'cancelled']),
	progress: z.number().min(0).max(1),
	message: z.string().nullable(),
	revision: z.int(),
	options: z.record(z.string(), z.unknown()),
	fileName: z.string().nullable(),
	size: z.int().nullable(),
	issue: z.string().nullable(),
	orderedAt: date
});
const edit = z.object({ id, revision: z.int(), label: z.string(), patch: z.array(z.unknown()) });

const orderBody = z.strictObject({
	format: z.enum(FORMATS),
	/** As GET /formats has them. */
	options: z.record(z.string(), z.unknown()).optional(),
	/** Id of an issue; the project as it stands where none is named. */
	issue: z.string().max(100).optional()
});

const etag = (revision: number) => ({ etag: `"${revision}"` });
const revisionOf = (text: string) => {
	const read = z.coerce
		.number()
		.int()
		.min(1)
		.max(2 ** 31 - 1)
		.safeParse(text);
	if (!read.success)
		throw new ZygasterError('request', `“${text.slice(0, 40)}” is no revision; right would be 1 or more.`);
	return read.data;
};
const nothing = () => new Response(null, { status: 204 });

/** All that programs can do, in the order of the description. */
export const OPERATIONS: readonly Operation[] = [
	operation({
		id: 'listFormats',
		method: 'GET',
		path: '/formats',
		summary: 'The files that can be ordered, with the JSON Schema of their options.',
		open: true,
		answer: {
			status: 200,
			means: 'All formats',
			body: z.array(
				z.object({
					format: z.enum(FORMATS),
					label: z.string(),
					help: z.string(),
					extension: z.string(),
					media: z.string(),
					options: z.record(z.string(), z.unknown())
				})
			)
		},
		run: () =>
			Promise.resolve(
				json(
					FORMATS.map((format) => {
						const { label, help, extension, media, options } = WRITERS[format];
						return {
							format,
							label,
							help,
							extension,
							media,
							options: z.toJSONSchema(options, { io: 'input', unrepresentable: 'any' })
						};
					})
				)
			)
	}),
	operation({
		id: 'projectSchema',
		method: 'GET',
		path: '/project.schema.json',
		summary: 'The JSON Schema of project documents.',
		open: true,
		answer: { status: 200, means: 'The schema', body: z.record(z.string(), z.unknown()) },
		run: () => Promise.resolve(json(JSON.parse(writeJsonSchema())))
	}),
	operation({
		id: 'listProjects',
		method: 'GET',
		path: '/projects',
		summary: 'Projects, the last changed first.',
		query: z.strictObject({ ...page.shape, offset: z.coerce.number().int().min(0).default(0) }),
		answer: {
			status: 200,
			means: 'Some of them, and how many there are in all',
			body: z.object({ projects: z.array(projectLine), total: z.int() })
		},
		run: async ({ actor, db, query: { limit, offset } }) => {
			const all = await listProjects(actor, db);
			return json({ projects: all.slice(offset, offset + limit), total: all.length });
		}
	}),
	operation({
		id: 'createProject',
		method: 'POST',
		path: '/projects',
		summary: 'Takes a project document in.',
		body: document,
		answer: { status: 201, means: 'It is kept', body: z.object({ id }) },
		run: async ({ actor, db, body }) => {
			const made = await createProject(actor, db, await readText(JSON.stringify(body)));
			return json({ id: made }, { status: 201, headers: { location: `${ROOT}/projects/${made}` } });
		}
	}),
	operation({
		id: 'getProject',
		method: 'GET',
		path: '/projects/{project}',
		summary: 'A project’s document; its revision is the ETag, too.',
		answer: { status: 200, means: 'The document', body: z.object({ document, revision: z.int() }) },
		run: async ({ actor, db, params }) => {
			const { document, revision } = await loadProject(actor, db, params.project!);
			return json({ document, revision }, { headers: etag(revision) });
		}
	}),
	operation({
		id: 'editProject',
		method: 'PATCH',
		path: '/projects/{project}',
		summary: 'Saves an edit: a JSON Patch (RFC 6902) on a revision.',
		headers: { 'if-match': 'The revision that the project must be at, such as "7"; or else base in the body' },
		body: editSchema,
		answer: {
			status: 200,
			means: 'It is saved; with all edits since the revision that it was made on',
			body: z.object({ revision: z.int(), edits: z.array(z.unknown()) })
		},
		run: async ({ actor, db, params, body, request }) => {
			const saved = await saveEdit(actor, db, params.project!, readEdit(body, request.headers.get('if-match')));
			return json(saved, { headers: etag(saved.revision) });
		}
	}),
	operation({
		id: 'deleteProject',
		method: 'DELETE',
		path: '/projects/{project}',
		summary: 'Deletes a project; for 30 days it can be brought back on the page of projects.',
		answer: { status: 204, means: 'It is deleted' },
		run: async ({ actor, db, params }) => {
			await deleteProject(actor, db, params.project!);
			return nothing();
		}
	}),
	operation({
		id: 'listEdits',
		method: 'GET',
		path: '/projects/{project}/edits',
		summary: 'The edits after a revision, the oldest first.',
		query: z.strictObject({
			since: z.coerce
				.number()
				.int()
				.min(0)
				.max(2 ** 31 - 1)
				.default(0)
		}),
		answer: { status: 200, means: 'The edits', body: z.array(edit.loose()) },
		run: async ({ actor, db, params, query }) => {
			await loadProject(actor, db, params.project!);
			return json(await editsSince(actor, db, params.project!, query.since));
		}
	}),
	operation({
		id: 'listRevisions',
		method: 'GET',
		path: '/projects/{project}/revisions',
		summary: 'The states that a project has had, the newest first, from `to` backwards.',
		query: z.strictObject({
			...page.shape,
			to: z.coerce
				.number()
				.int()
				.min(1)
				.max(2 ** 31 - 1)
				.optional()
		}),
		answer: {
			status: 200,
			means: 'Some of them',
			body: z.array(z.looseObject({ revision: z.int(), label: z.string().nullable(), name: z.string().nullable() }))
		},
		run: async ({ actor, db, params, query }) =>
			json(await listRevisions(actor, db, params.project!, { ...query, to: query.to }))
	}),
	operation({
		id: 'getRevision',
		method: 'GET',
		path: '/projects/{project}/revisions/{revision}',
		summary: 'A project’s document as it was.',
		answer: { status: 200, means: 'The document', body: z.object({ document, revision: z.int() }) },
		run: async ({ actor, db, params }) => {
			const revision = revisionOf(params.revision!);
			return json({ document: await documentOf(actor, db, params.project!, revision), revision });
		}
	}),
	operation({
		id: 'orderFile',
		method: 'POST',
		path: '/projects/{project}/orders',
		summary:
			'Orders a file of a project as it stands, or of one of its issues. Schedules, models and drawings come this way.',
		body: orderBody,
		answer: { status: 202, means: 'It is being made', body: z.object({ id }) },
		run: async ({ actor, handover, params, body }) => {
			const made = await handover.order(actor, params.project!, body.format, body.options, body.issue);
			return json({ id: made }, { status: 202, headers: { location: `${ROOT}/orders/${made}` } });
		}
	}),
	operation({
		id: 'listOrders',
		method: 'GET',
		path: '/projects/{project}/orders',
		summary: 'The orders of a project, the newest first.',
		query: page,
		answer: { status: 200, means: 'Some of them', body: z.array(order) },
		run: async ({ actor, handover, params, query }) => json(await handover.list(actor, params.project!, query.limit))
	}),
	operation({
		id: 'getOrder',
		method: 'GET',
		path: '/orders/{order}',
		summary: 'How far an order is.',
		answer: { status: 200, means: 'Its state', body: order },
		run: async ({ actor, handover, params }) => json(await handover.status(actor, params.order!))
	}),
	operation({
		id: 'cancelOrder',
		method: 'DELETE',
		path: '/orders/{order}',
		summary: 'Stops an order that is not finished.',
		answer: { status: 204, means: 'It is stopped, or was finished' },
		run: async ({ actor, handover, params }) => {
			await handover.cancel(actor, params.order!);
			return nothing();
		}
	}),
	operation({
		id: 'getFile',
		method: 'GET',
		path: '/orders/{order}/file',
		summary: 'The file of an order that is done.',
		answer: { status: 200, means: 'The file', body: '*/*' },
		run: async ({ actor, handover, params }) => fileResponse(await handover.file(actor, params.order!))
	}),
	operation({
		id: 'removeOrder',
		method: 'DELETE',
		path: '/orders/{order}/file',
		summary: 'Throws an order that is settled away, with its file.',
		answer: { status: 204, means: 'It is gone' },
		run: async ({ actor, handover, params }) => {
			await handover.remove(actor, params.order!);
			return nothing();
		}
	}),
	operation({
		id: 'startRun',
		method: 'POST',
		path: '/projects/{project}/runs',
		summary: 'Makes the model of a project as it stands, or of one of its issues, and says what has come of it.',
		body: z.strictObject({ issue: z.string().max(100).optional() }),
		answer: { status: 202, means: 'It is being made', body: z.object({ id }) },
		run: async ({ actor, handover, params, body }) => {
			const made = await handover.order(actor, params.project!, 'summary', {}, body.issue);
			return json({ id: made }, { status: 202, headers: { location: `${ROOT}/runs/${made}` } });
		}
	}),
	operation({
		id: 'getRun',
		method: 'GET',
		path: '/runs/{run}',
		summary: 'How far a run is; once it is done with cells, parts, types and rules in numbers, and what is warned of.',
		answer: {
			status: 200,
			means: 'Its state, and what has come of it',
			body: order
				.pick({ id: true, state: true, progress: true, message: true, revision: true })
				.extend({ summary: z.looseObject({ project: z.string(), faces: z.array(z.unknown()) }).nullable() })
		},
		run: async ({ actor, handover, params }) => {
			const { id, state, progress, message, revision, format } = await handover.status(actor, params.run!);
			if (format !== 'summary') throw new ZygasterError('not-found', 'There is no such run.');
			const chunks: Buffer[] = [];
			if (state === 'done') for await (const chunk of (await handover.file(actor, id)).chunks) chunks.push(chunk);
			const summary = chunks.length ? JSON.parse(Buffer.concat(chunks).toString('utf8')) : null;
			return json({ id, state, progress, message, revision, summary });
		}
	}),
	operation({
		id: 'putAsset',
		method: 'PUT',
		path: '/assets/{name}',
		summary:
			'Keeps bytes that documents name, such as meshes, by sha256: and the SHA-256 of them in hexadecimal digits.',
		body: 'bytes',
		answer: { status: 204, means: 'They are kept' },
		run: async ({ actor, db, params, request }) => {
			if (!request.body)
				throw new ZygasterError('request', 'Send the bytes as the body, with content-type: application/octet-stream.');
			await putContent(actor, db, assetName(params.name!), Readable.fromWeb(request.body as never));
			return nothing();
		}
	}),
	operation({
		id: 'getAsset',
		method: 'GET',
		path: '/assets/{name}',
		summary: 'Bytes that documents name.',
		answer: { status: 200, means: 'The bytes, compressed where that is accepted', body: 'application/octet-stream' },
		run: async ({ actor, db, params, request }) =>
			contentResponse(request, await contentStream(actor, db, assetName(params.name!)))
	})
];

function assetName(text: string): string {
	const read = contentNameSchema.safeParse(text);
	if (!read.success) throw new ZygasterError('request', `“${text.slice(0, 80)}” ${read.error.issues[0]!.message}.`);
	return read.data;
}
