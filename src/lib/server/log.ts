import { pino } from 'pino';
import type { Actor } from './actor.ts';

/** One JSON object a line, on standard output; LOG_LEVEL says from which level on. Texts of callers stand in it as JSON strings. */
export const log = pino({
	level: process.env.LOG_LEVEL ?? 'info',
	base: null,
	timestamp: pino.stdTimeFunctions.isoTime
});

/** What is written down whatever the level. */
const kept = log.child({}, { level: 'info' });

/** Who has done something that others may ask about. */
export const audit = (actor: Actor, what: string, of: Readonly<Record<string, string | number | null>>): void =>
	kept.info({ audit: what, actor: actor.id, ...of });
