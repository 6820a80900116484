import { PANEL_COLUMNS, PANEL_COLUMN_NAMES } from '../../schedule/columns.ts';
import type { PanelSchedule } from '../../schedule/panels.ts';
import type { Quantity } from '../../units/quantity.ts';
import { ByteWriter } from './byteWriter.ts';

const COMMA = 44;
const HYPHEN = 45;

/** Units of a file: always metric, whatever the screen shows, so that figures can be added up. */
const FILE_UNITS: Readonly<Record<Quantity, { unit: string; per: number }>> = {
	length: { unit: ' mm', per: 1 },
	area: { unit: ' m2', per: 1e6 },
	angle: { unit: ' deg', per: Math.PI / 180 },
	mass: { unit: ' kg', per: 1 },
	ratio: { unit: '', per: 1 },
	count: { unit: '', per: 1 }
};

/** The panel schedule as comma-separated values with a heading line, UTF-8. Source: RFC 4180. */
export function writeCsv(schedule: PanelSchedule): Uint8Array<ArrayBuffer> {
	const out = new ByteWriter();
	const columns = PANEL_COLUMN_NAMES.map((name) => {
		const { quantity, decimals, label } = PANEL_COLUMNS[name];
		return { values: schedule.columns[name], decimals, label, ...FILE_UNITS[quantity] };
	});
	const heads = columns.map(({ label, unit }) => label + unit);
	out.text(['Mark', 'Face', 'Kit', ...heads].map(quote).join(',') + '\r\n');
	const faces = schedule.faces.map((f) => `,${quote(f.name)},`);
	const kits = schedule.kits.map(quote);
	const { row, column } = schedule.columns;
	for (let r = 0; r < schedule.count; r++) {
		const face = schedule.face[r]!;
		// The mark, written as cellMark words it.
		out.text(schedule.faces[face]!.mark);
		out.ascii(HYPHEN);
		out.whole(row[r]!, 2);
		out.ascii(HYPHEN);
		out.whole(column[r]!, 2);
		out.text(faces[face]!);
		out.text(kits[schedule.kit[r]!]!);
		for (const { values, per, decimals } of columns) {
			out.ascii(COMMA);
			out.fixed(values[r]! / per, decimals);
		}
		out.text('\r\n');
	}
	return out.finish();
}

/** A field, quoted where it must be. */
function quote(field: string): string {
	return /[",\r\n]/.test(field) ? `"${field.replaceAll('"', '""')}"` : field;
}
