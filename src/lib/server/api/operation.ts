import { z } from 'zod';
import { ZygasterError } from '../../../core/errors.ts';
import type { Actor } from '../actor.ts';
import type { App } from '../app.ts';

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** What an operation works with. */
export interface Call<Query, Body> extends App {
	readonly actor: Actor;
	/** Parts of the path by their names. */
	readonly params: Readonly<Record<string, string>>;
	readonly query: Query;
	readonly body: Body;
	readonly request: Request;
}

/** One thing that programs can ask for: what stands in the description, and what is done. */
export interface Operation {
	/** As clients call it. */
	readonly id: string;
	readonly method: Method;
	/** With names of parts in braces. */
	readonly path: string;
	readonly summary: string;
	/** Needs no token. */
	readonly open?: boolean;
	readonly query?: z.ZodObject;
	/** JSON; `bytes` are taken as they come. */
	readonly body?: z.ZodType | 'bytes';
	/** Headers that a request may have. */
	readonly headers?: Readonly<Record<string, string>>;
	readonly answer: {
		readonly status: number;
		readonly means: string;
		/** Of JSON; a media type of other files; nothing where nothing comes. */
		readonly body?: z.ZodType | string;
	};
	readonly run: (call: Call<never, never>) => Promise<Response>;
}

/** An operation whose query and body are what their schemas say. */
export const operation = <
	Query extends z.ZodObject = z.ZodObject<Record<never, never>>,
	Body extends z.ZodType | 'bytes' = z.ZodUndefined
>(
	given: Omit<Operation, 'query' | 'body' | 'run'> & {
		readonly query?: Query;
		readonly body?: Body;
		readonly run: (
			call: Call<z.output<Query>, Body extends z.ZodType ? z.output<Body> : undefined>
		) => Promise<Response>;
	}
): Operation => given as unknown as Operation;

/** Reads what an operation takes. Throws a ZygasterError with code `request` that says where and what would be right. */
export function readPart<T>(schema: z.ZodType<T>, what: string, given: unknown): T {
	const read = schema.safeParse(given);
	if (!read.success) throw new ZygasterError('request', `The ${what} is not right: ${z.prettifyError(read.error)}`);
	return read.data;
}

/** The parts of a path by the names of a template; nothing where it is another path. */
export function paramsOf(template: string, path: string): Record<string, string> | undefined {
	const [wanted, given] = [template.split('/'), path.split('/')];
	if (wanted.length !== given.length) return undefined;
	const params: Record<string, string> = {};
	for (const [k, part] of wanted.entries()) {
		const name = /^\{(\w+)\}$/.exec(part)?.[1];
		if (name === undefined) {
			if (part !== given[k]) return undefined;
			continue;
		}
		if (!given[k]) return undefined;
		params[name] = given[k];
	}
	return params;
}
