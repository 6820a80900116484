import { PANEL_COLUMNS, PANEL_COLUMN_NAMES } from '../../schedule/columns.ts';
import type { PanelSchedule, ScheduledFace } from '../../schedule/panels.ts';
import { markParts, pieceLetter, roleText } from '../../tiling/marks.ts';
import { MM_PER_FOOT } from '../../units/length.ts';
import type { Quantity } from '../../units/quantity.ts';
import { ByteWriter, utf8 } from './byteWriter.ts';

const COMMA = 44;
/** A first guess at the length of a row. */
const ROW_BYTES = 110;

/** Units that lengths of a file may have: decimal ones, so that figures can be added up. */
export const CSV_UNITS = ['mm', 'm', 'ft'] as const;
export type CsvUnit = (typeof CSV_UNITS)[number];

/** Lengths and areas by the unit of lengths, with how many digits more or fewer they have than in mm and m2. */
const LENGTHS: Readonly<
	Record<CsvUnit, Readonly<Record<'length' | 'area', { unit: string; per: number; digits: number }>>>
> = {
	mm: { length: { unit: ' mm', per: 1, digits: 0 }, area: { unit: ' m2', per: 1e6, digits: 0 } },
	m: { length: { unit: ' m', per: 1000, digits: 3 }, area: { unit: ' m2', per: 1e6, digits: 0 } },
	ft: {
		length: { unit: ' ft', per: MM_PER_FOOT, digits: 3 },
		area: { unit: ' ft2', per: MM_PER_FOOT * MM_PER_FOOT, digits: -1 }
	}
};

const OTHERS: Readonly<Record<Exclude<Quantity, 'length' | 'area'>, { unit: string; per: number }>> = {
	angle: { unit: ' deg', per: Math.PI / 180 },
	mass: { unit: ' kg', per: 1 },
	ratio: { unit: '', per: 1 },
	count: { unit: '', per: 1 },
	curvature: { unit: ' 1/m', per: 1e-3 },
	gaussian: { unit: ' 1/m2', per: 1e-6 }
};

/** The panel schedule as comma-separated values with a heading line, UTF-8. Source: RFC 4180. */
export function writeCsv(schedule: PanelSchedule, units: CsvUnit = 'mm'): Uint8Array<ArrayBuffer> {
	const out = new ByteWriter((schedule.count + 1) * ROW_BYTES);
	const columns = PANEL_COLUMN_NAMES.map((name) => {
		const { quantity, decimals, label } = PANEL_COLUMNS[name];
		const { digits, ...unit } =
			quantity === 'length' || quantity === 'area' ? LENGTHS[units][quantity] : { digits: 0, ...OTHERS[quantity] };
		return { values: schedule.columns[name], decimals: decimals + digits, label, ...unit };
	});
	const heads = columns.map(({ label, unit }) => label + unit);
	out.text(['Mark', 'Face', 'Kit', ...heads].map(quote).join(',') + '\r\n');
	const marks = schedule.faces.map(markBytes);
	const faces = schedule.faces.map((f) => utf8(`,${quote(f.name)},`));
	const kits = schedule.kits.map((name) => utf8(quote(name)));
	const lineEnd = utf8('\r\n');
	const { row, column } = schedule.columns;
	for (let r = 0; r < schedule.count; r++) {
		const face = schedule.face[r]!;
		// The mark, written as printMark words it.
		for (const part of marks[face]!) {
			if (part.kind === 'row') out.whole(row[r]!, part.digits);
			else if (part.kind === 'column') out.whole(column[r]!, part.digits);
			else out.raw(part.kind === 'text' ? part.bytes : part.roles[schedule.role[r]!]!);
		}
		if (schedule.piece[r]! > 0) out.raw(utf8(pieceLetter(schedule.piece[r]!)));
		out.raw(faces[face]!);
		out.raw(kits[schedule.kit[r]!]!);
		for (let k = 0; k < columns.length; k++) {
			const { values, per, decimals } = columns[k]!;
			out.ascii(COMMA);
			out.fixed(values[r]! / per, decimals);
		}
		out.raw(lineEnd);
	}
	return out.finish();
}

type MarkBytes =
	| { readonly kind: 'text'; readonly bytes: Uint8Array }
	| { readonly kind: 'row'; readonly digits: number }
	| { readonly kind: 'column'; readonly digits: number }
	| { readonly kind: 'role'; readonly roles: readonly Uint8Array[] };

/** The parts of a face's marks, as far as they are the same for all its cells as bytes. */
function markBytes({ mark, template, roles }: ScheduledFace): MarkBytes[] {
	return markParts(template).map((part): MarkBytes => {
		if ('text' in part) return { kind: 'text', bytes: utf8(part.text) };
		if (part.field === 'face') return { kind: 'text', bytes: utf8(mark) };
		if (part.field === 'role')
			return { kind: 'role', roles: (roles.length ? roles : ['']).map((r) => utf8(roleText(r, part.size))) };
		return { kind: part.field, digits: Math.max(1, part.size) };
	});
}

/** A field, quoted where it must be. */
function quote(field: string): string {
	return /[",\r\n]/.test(field) ? `"${field.replaceAll('"', '""')}"` : field;
}
