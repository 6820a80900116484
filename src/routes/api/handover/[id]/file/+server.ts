import { app } from '$lib/server/app.ts';
import { answer } from '$lib/server/respond.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
	answer(async () => {
		const { name, media, bytes } = await (await app()).handover.file(params.id);
		return new Response(new Uint8Array(bytes), {
			headers: {
				'content-type': media,
				'content-length': String(bytes.length),
				'content-disposition': `attachment; filename="${name}"`
			}
		});
	});
