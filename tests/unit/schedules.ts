import { joined } from '../../src/core/formats/sink.ts';
import type { Format } from '../../src/core/formats/format.ts';
import { writeFormat } from '../../src/core/formats/writers.ts';
import type { Model } from '../../src/core/project/pipeline.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { markOf, type HostTableName } from '../../src/core/schedule/faceTable.ts';
import { fontFiles } from '../../src/node/fontFiles.ts';
import { querySchedule, type ScheduleQuery } from '../../src/core/schedule/query.ts';

/** A table of the schedule over all faces, as one. */
export function tableRows({ schedule }: Pick<Model, 'schedule'>, name: HostTableName = 'panels') {
	const tables = schedule.map((face) => face.tables[name]);
	const all = (of: (table: (typeof tables)[number]) => Iterable<number>) =>
		Float64Array.from(tables.flatMap((t) => [...of(t)]));
	return {
		count: tables.reduce((n, t) => n + t.count, 0),
		marks: schedule.flatMap((face) => Array.from({ length: face.tables[name].count }, (_, r) => markOf(face, name, r))),
		kits: tables.flatMap((t) => [...t.words.kit!.index].map((k) => t.words.kit!.words[k]!)),
		host: all((t) => t.host),
		columns: Object.fromEntries(
			Object.keys(tables[0]?.columns ?? {}).map((c) => [c, all((t) => t.columns[c]!)])
		) as Record<string, Float64Array>
	};
}

/** An answer on the panels, or on another table of hosts. */
export const ask = (
	{ schedule }: Pick<Model, 'schedule'>,
	query: Omit<ScheduleQuery, 'table'>,
	table: HostTableName = 'panels'
) =>
	querySchedule(
		schedule.map((face) => ({ table: face.tables[table], markOf: (r) => markOf(face, table, r) })),
		{ table, ...query }
	);

/** A file of the handover as a whole. */
export async function fileOf(
	project: Project,
	model: Model,
	format: Format,
	options: object = {}
): Promise<Uint8Array<ArrayBuffer>> {
	const chunks: Uint8Array<ArrayBuffer>[] = [];
	await writeFormat(format, { project, model, fonts: fontFiles }, options, (chunk) => chunks.push(chunk));
	return joined(chunks);
}
