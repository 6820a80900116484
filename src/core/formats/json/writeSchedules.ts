import type { TableUnit } from '../../units/tableUnits.ts';
import { ByteWriter } from '../byteWriter.ts';
import { sheetsOf } from '../sheets.ts';
import type { Sink } from '../sink.ts';
import type { WriterInput } from '../writerInput.ts';

/**
 * All schedules as JSON (RFC 8259): project, issue, and for each its name, the heads of its columns with their units, and its
 * rows; figures have the digits of the schedule, what is none is null. O(rows).
 */
export function writeSchedules({ project, model, issue }: WriterInput, sink: Sink, units: TableUnit): void {
	const out = new ByteWriter(sink);
	out.text(`{"project":${JSON.stringify(project.name)},"issue":${JSON.stringify(issue ?? null)},"schedules":[`);
	sheetsOf(project, model, units).forEach(({ name, columns, rows }, k) => {
		const heads = columns.map((c) => c.head);
		out.text(`${k ? ',' : ''}\n{"name":${JSON.stringify(name)},"columns":${JSON.stringify(heads)},"rows":[`);
		rows.forEach((row, r) => {
			// A figure that is none comes out as null.
			const cells = row.map((v, c) => (typeof v === 'number' ? Number(v.toFixed(columns[c]!.decimals ?? 0)) : v));
			out.text(`${r ? ',' : ''}\n${JSON.stringify(cells)}`);
		});
		out.text(']}');
	});
	out.text(']}\n');
	out.finish();
}
