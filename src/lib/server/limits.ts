import type { IncomingMessage } from 'node:http';
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { ZygasterError } from '../../core/errors.ts';

const [KB, MB] = [2 ** 10, 2 ** 20];

/** Bytes of bodies at most, by route and method; of all others `USUAL`. */
const BODIES: Readonly<Record<string, number>> = {
	// Project files with meshes in them, and meshes by themselves.
	'POST /api/projects': 600 * MB,
	'PUT /api/contents/[name]': 600 * MB,
	'PATCH /api/projects/[id]': 64 * MB,
	'POST /api/kits': 4 * MB,
	'PUT /api/kits/[id]': 4 * MB
};
const USUAL = 256 * KB;
/** The interface for programs has one route for all of it. */
const OF_PROGRAMS: readonly (readonly [method: string, path: RegExp, bytes: number])[] = [
	['POST', /^\/api\/v1\/projects$/, 64 * MB],
	['PATCH', /^\/api\/v1\/projects\/[^/]+$/, 64 * MB],
	['PUT', /^\/api\/v1\/assets\//, 600 * MB]
];

/** Throws a ZygasterError with code `too-large` or `length` where the body of a request is too large for where it goes, or does not say. */
export function checkBody({ method, headers }: Request, route: string | null, path: string): void {
	if (method === 'GET' || method === 'HEAD') return;
	const most = BODIES[`${method} ${route}`] ?? OF_PROGRAMS.find(([m, p]) => m === method && p.test(path))?.[2] ?? USUAL;
	const length = headers.get('content-length');
	if (length === null && headers.has('transfer-encoding') && most === USUAL)
		throw new ZygasterError('length', 'Say how long the body is, by Content-Length.');
	if (Number(length) > most)
		throw new ZygasterError('too-large', `The body has ${length} bytes; right would be ${most} here, at most.`);
}

/** A body may come so slowly, bytes a second over a time, ms; SLOW_BODY_MS sets the time. */
const LEAST_BYTES_PER_SECOND = 1000;
const slowMs = Number(process.env.SLOW_BODY_MS ?? 20_000);

/** Resolves once a body has come too slowly; never for one that comes, or is not waited for any more (`done`). */
export function tooSlow(request: IncomingMessage, done: AbortSignal): Promise<ZygasterError> {
	return new Promise((resolve) => {
		const { socket } = request;
		let seen = socket.bytesRead;
		const watch = setInterval(() => {
			const came = socket.bytesRead - seen;
			seen = socket.bytesRead;
			// Where this side does not read, the sender cannot send.
			if (request.complete || socket.isPaused() || came * 1000 >= LEAST_BYTES_PER_SECOND * slowMs) return;
			clearInterval(watch);
			resolve(
				new ZygasterError(
					'timeout',
					`The body came more slowly than ${LEAST_BYTES_PER_SECOND} bytes a second; right would be to send it again over a quicker line.`
				)
			);
		}, slowMs);
		done.addEventListener('abort', () => clearInterval(watch));
	});
}

/** Requests that one address may make (behind a proxy ADDRESS_HEADER names it): so many a second over ten seconds; RATE_PER_SECOND sets it, 0 is without limit. */
const SECONDS = 10;
const perSecond = Number(process.env.RATE_PER_SECOND ?? 300);
const rate = perSecond > 0 ? new RateLimiterMemory({ points: perSecond * SECONDS, duration: SECONDS }) : undefined;

/** Counts a request from an address; answers how long to wait, seconds, where there were too many. */
export async function countRequest(address: string): Promise<number | undefined> {
	try {
		await rate?.consume(address);
		return undefined;
	} catch (cause) {
		if (!(cause instanceof RateLimiterRes)) throw cause;
		return Math.max(1, Math.ceil(cause.msBeforeNext / 1000));
	}
}
