import { ZygasterError } from '../../core/errors.ts';
import { log } from './log.ts';

/** Codes of the network and of PostgreSQL (class 08, 57P) that mean: not reachable now. */
const AWAY = /^(ECONN|ENOTFOUND|EPIPE|ETIMEDOUT|08|57P)/;

/** PostgreSQL: disk full (class 53). */
const DISK_FULL = '53100';

/** Any error as one of ours: what the database cannot do now is said so, the unexpected stays vague. */
export function toZygasterError(cause: unknown): ZygasterError {
	if (cause instanceof ZygasterError) return cause;
	const code = (cause as { code?: unknown } | null)?.code;
	const message = cause instanceof Error ? cause.message : '';
	if ((typeof code === 'string' && AWAY.test(code)) || /connection|timeout exceeded/i.test(message))
		return new ZygasterError(
			'database-away',
			'The database cannot be reached just now. Nothing that was saved is lost; try again in a moment.',
			'',
			{ cause }
		);
	if (code === DISK_FULL)
		return new ZygasterError('no-room', 'There is no room left on the server; nothing that was saved is lost.', '', {
			cause
		});
	log.error({ err: cause }, 'unexpected');
	return new ZygasterError('internal', 'Something went wrong on the server. It has been written to its log.');
}
