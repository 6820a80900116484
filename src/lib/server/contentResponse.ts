import { Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import type { contentStream } from './contents.ts';
import type { HandoverDesk } from './handover/desk.ts';

/** The bytes of a name never change, so that whoever has them once need not ask again. */
const FOR_EVER = 'private, max-age=31536000, immutable';

/** Bytes as they are kept, compressed, or as they are where the one who asks does not take that. */
export function contentResponse(request: Request, { size, gzip }: Awaited<ReturnType<typeof contentStream>>): Response {
	const takesGzip = /\bgzip\b/.test(request.headers.get('accept-encoding') ?? '');
	const source = Readable.from(gzip);
	const stream = takesGzip ? source : source.pipe(createGunzip());
	return new Response(Readable.toWeb(stream) as ReadableStream, {
		headers: {
			'content-type': 'application/octet-stream',
			'cache-control': FOR_EVER,
			vary: 'accept-encoding',
			...(takesGzip ? { 'content-encoding': 'gzip' } : { 'content-length': String(size) })
		}
	});
}

/** The file of an order, as it is streamed from the database. */
export function fileResponse({ name, media, size, chunks }: Awaited<ReturnType<HandoverDesk['file']>>): Response {
	return new Response(Readable.toWeb(Readable.from(chunks)) as ReadableStream, {
		headers: {
			'content-type': media,
			'content-length': String(size),
			'content-disposition': `attachment; filename="${name}"`
		}
	});
}
