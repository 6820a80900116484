import { z } from 'zod';
import { messageOf, ZygasterError } from '../../errors.ts';
import { labelSchema } from '../../names.ts';
import { unitSchema, type TilingUnit } from './unit.ts';

const FORMAT = 'zygaster-tiling';
const VERSION = 1;

const fileSchema = z.strictObject({
	format: z.literal(FORMAT),
	version: z.literal(VERSION),
	name: labelSchema,
	unit: unitSchema
});

/** A tiling as JSON text, ending with a line break. */
export const writeTiling = (name: string, unit: TilingUnit): string =>
	`${JSON.stringify(fileSchema.parse({ format: FORMAT, version: VERSION, name, unit }), null, 2)}\n`;

/** Reads what `writeTiling` wrote. Throws a ZygasterError with code `json` or `project` that says where it is wrong. */
export function readTiling(text: string): { name: string; unit: TilingUnit } {
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch (cause) {
		throw new ZygasterError('json', `This is not JSON: ${messageOf(cause)}.`, '', { cause });
	}
	const result = fileSchema.safeParse(raw);
	if (result.success) return { name: result.data.name, unit: result.data.unit };
	const { path, message } = result.error.issues[0]!;
	throw new ZygasterError(
		'project',
		`This is no tiling: ${path.length ? `${path.map((p) => (typeof p === 'number' ? p + 1 : String(p))).join(' › ')}: ` : ''}${message}.`
	);
}
