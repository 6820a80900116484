import type { TableUnit } from '../../units/tableUnits.ts';
import type { Model } from '../../project/pipeline.ts';
import { rowWorld } from '../../project/rowWorld.ts';
import type { Project } from '../../project/schema.ts';
import { quantitiesOf, TAKEN_WORDS } from '../../schedule/cost/quantities.ts';
import type { OwnTable } from '../../schedule/own/schema.ts';
import { LENGTHS } from '../../units/tableUnits.ts';
import { layTable, type LaidValue } from '../ownTables.ts';
import type { Sink } from '../sink.ts';
import { ByteWriter } from '../byteWriter.ts';
import { quote } from './writeTable.ts';

const COMMA = 44;
const LINE_END = '\r\n';

/** A line of words and figures; nothing stands for a figure that is none. */
function writeLine(out: ByteWriter, values: readonly LaidValue[], decimals: readonly (number | undefined)[]): void {
	values.forEach((value, c) => {
		if (c > 0) out.ascii(COMMA);
		if (typeof value === 'string') out.text(quote(value));
		else if (!Number.isNaN(value)) out.fixed(value, decimals[c] ?? 0);
	});
	out.text(LINE_END);
}

/** A table of the project's own as comma-separated values (RFC 4180): its rows in order, or one line a group where it is folded. O(rows log rows). */
export function writeOwnTable(project: Project, model: Model, table: OwnTable, sink: Sink, units: TableUnit): void {
	const { columns, rows } = layTable(project, model, table, units);
	const out = new ByteWriter(sink);
	out.text(columns.map((c) => quote(c.head)).join(',') + LINE_END);
	const decimals = columns.map((c) => c.decimals);
	for (const row of rows) writeLine(out, row, decimals);
	out.finish();
}

/** Lines of everything that pieces come to, by face, storey, zone, material, role, kit and rate; figures have digits. */
export function quantityLines(project: Project, model: Model, units: TableUnit) {
	const { length, area } = LENGTHS[units];
	const heads = ['By', 'Name', 'Pieces', `Length${length.unit}`, `Area${area.unit}`, `Coated area${area.unit}`];
	heads.push('Volume m3', 'Weight kg', `Rectangles${area.unit}`, 'Amount', 'Unit', `Cost ${project.costs.currency}`);
	const lengths = 2 + length.digits;
	const areas = 4 + area.digits;
	const decimals = [undefined, undefined, 0, lengths, areas, areas, 6, 3, areas, 4, undefined, 2];
	const rows = quantitiesOf(model.faces, rowWorld(project)).rows.map((q): LaidValue[] => [
		TAKEN_WORDS[q.by],
		q.name,
		q.pieces,
		q.length / length.per,
		q.area / area.per,
		q.coated / area.per,
		q.volume / 1e9,
		q.weight,
		(q.rectangles ?? NaN) / area.per,
		q.amount ?? NaN,
		q.unit ?? '',
		q.cost ?? NaN
	]);
	return { heads, decimals, rows };
}

/** The same as comma-separated values. O(pieces). */
export function writeQuantities(project: Project, model: Model, sink: Sink, units: TableUnit): void {
	const { heads, decimals, rows } = quantityLines(project, model, units);
	const out = new ByteWriter(sink);
	out.text(heads.join(',') + LINE_END);
	for (const row of rows) writeLine(out, row, decimals);
	out.finish();
}
