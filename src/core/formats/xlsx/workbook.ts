import { utf8ToBytes } from '@noble/hashes/utils.js';
import { ByteWriter } from '../byteWriter.ts';
import type { Sink } from '../sink.ts';
import { Archive } from '../zip/archive.ts';

/**
 * Spreadsheets as ECMA-376 has them (part 1, 18: SpreadsheetML; part 2: packages), written row by row: texts stand in their
 * cells, looks are a short list that cells point to.
 */
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const RELATIONS = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
const TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml';

/** A cell: text, figure, nothing, or a formula with what it comes to. */
export type CellValue = string | number | undefined | { readonly formula: string; readonly value: number };

/** How a cell looks: as it comes; title, heading, bold; figures of so many digits, plain and bold. */
export type Look = 'plain' | 'title' | 'heading' | 'bold' | `figure${number}` | `bold${number}`;

/** Digits after the point that figures may have. */
const MOST_DIGITS = 6;
const DIGITS = Array.from({ length: MOST_DIGITS + 1 }, (_, d) => d);
const LOOKS: readonly Look[] = [
	'plain',
	'title',
	'heading',
	'bold',
	...DIGITS.map((d) => `figure${d}` as const),
	...DIGITS.map((d) => `bold${d}` as const)
];
const STYLE = new Map(LOOKS.map((look, k) => [look, k]));
/** Numbers of formats below are the standard's own. */
const FIRST_FORMAT = 164;

/** Text as it may stand in XML 1.0: characters that it has no place for are left out, what reads as an escape is escaped. */
export const xmlText = (text: string): string =>
	text
		.replace(/[^\P{Cc}\t\n\r]|[\p{Cs}\ufffe\uffff]/gu, '')
		.replace(/_(?=x[0-9a-f]{4}_)/gi, '_x005F_')
		.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** A column's letters, as spreadsheets count them. */
export function letters(column: number): string {
	let out = '';
	for (let left = column + 1; left > 0; left = Math.floor((left - 1) / 26))
		out = String.fromCharCode(65 + ((left - 1) % 26)) + out;
	return out;
}

/** A spreadsheet whose sheets are written one after the other. */
export class Workbook {
	private readonly archive: Archive;
	private readonly names: string[] = [];

	constructor(sink: Sink) {
		this.archive = new Archive(sink, 3);
	}

	/** Adds a sheet. With `frozen`, its first row stays in sight and, with `filtered` rows below, has filters. */
	sheet(
		name: string,
		widths: readonly number[],
		frozen: boolean,
		filtered: number,
		write: (sheet: SheetWriter) => void
	): void {
		this.names.push(name);
		const file = this.archive.file(`xl/worksheets/sheet${this.names.length}.xml`);
		const out = new ByteWriter((chunk) => file.push(chunk.slice()));
		out.text(`${HEAD}<worksheet xmlns="${MAIN}">`);
		if (frozen)
			out.text(
				'<sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews>'
			);
		out.text('<cols>');
		widths.forEach((width, c) => out.text(`<col min="${c + 1}" max="${c + 1}" width="${width}" customWidth="1"/>`));
		out.text('</cols><sheetData>');
		write(new SheetWriter(out));
		out.text('</sheetData>');
		if (frozen) out.text(`<autoFilter ref="A1:${letters(widths.length - 1)}${filtered + 1}"/>`);
		out.text('</worksheet>');
		out.finish();
		file.push(new Uint8Array(), true);
	}

	/** Writes what holds the sheets together. */
	end(): void {
		const part = (name: string, text: string) => this.archive.file(name).push(utf8ToBytes(HEAD + text), true);
		const each = (write: (name: string, number: number) => string) =>
			this.names.map((n, k) => write(n, k + 1)).join('');
		part(
			'xl/workbook.xml',
			`<workbook xmlns="${MAIN}" xmlns:r="${RELATIONS}"><sheets>${each(
				(name, k) => `<sheet name="${xmlText(name)}" sheetId="${k}" r:id="rId${k}"/>`
			)}</sheets><calcPr fullCalcOnLoad="1"/></workbook>`
		);
		const relations = (list: string) => `<Relationships xmlns="${PACKAGE}/relationships">${list}</Relationships>`;
		const relation = (id: string, type: string, target: string) =>
			`<Relationship Id="${id}" Type="${RELATIONS}/${type}" Target="${target}"/>`;
		part(
			'xl/_rels/workbook.xml.rels',
			relations(
				each((_, k) => relation(`rId${k}`, 'worksheet', `worksheets/sheet${k}.xml`)) +
					relation('styles', 'styles', 'styles.xml')
			)
		);
		part('_rels/.rels', relations(relation('rId1', 'officeDocument', 'xl/workbook.xml')));
		part('xl/styles.xml', STYLES);
		const override = (name: string, type: string) => `<Override PartName="${name}" ContentType="${TYPE}.${type}+xml"/>`;
		part(
			'[Content_Types].xml',
			`<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${override('/xl/workbook.xml', 'sheet.main')}${override('/xl/styles.xml', 'styles')}${each((_, k) => override(`/xl/worksheets/sheet${k}.xml`, 'worksheet'))}</Types>`
		);
		this.archive.end();
	}
}

/** The rows of a sheet, one after the other. */
export class SheetWriter {
	private readonly out: ByteWriter;
	private row = 0;
	/** Texts as XML behind the name of their element, since many come again and again. */
	private readonly texts = new Map<string, string>();
	private readonly columns: string[] = [];

	constructor(out: ByteWriter) {
		this.out = out;
	}

	/** Writes a row of cells with their looks; a figure that is none leaves its cell empty. */
	add(cells: readonly CellValue[], lookOf: (column: number) => Look): void {
		const { out } = this;
		this.row++;
		out.text(`<row r="${this.row}">`);
		for (let c = 0; c < cells.length; c++) {
			const value = cells[c];
			if (value === undefined || value === '' || (typeof value === 'number' && !Number.isFinite(value))) continue;
			out.text('<c r="');
			out.text((this.columns[c] ??= letters(c)));
			out.whole(this.row);
			out.text('" s="');
			out.whole(STYLE.get(lookOf(c))!);
			if (typeof value === 'string') {
				out.text('" t="inlineStr"><is><t');
				out.text(this.textOf(value));
				out.text('</t></is></c>');
			} else if (typeof value === 'number') {
				out.text(`"><v>${value}</v></c>`);
			} else out.text(`"><f>${xmlText(value.formula)}</f><v>${value.value}</v></c>`);
		}
		out.text('</row>');
	}

	private textOf(text: string): string {
		const known = this.texts.get(text) ?? (text === text.trim() ? '>' : ' xml:space="preserve">') + xmlText(text);
		if (this.texts.size < MOST_TEXTS) this.texts.set(text, known);
		return known;
	}
}
const MOST_TEXTS = 10_000;

const font = (size: number, bold: boolean) =>
	`<font>${bold ? '<b/>' : ''}<sz val="${size}"/><name val="Calibri"/></font>`;
const format = (digits: number) => (digits ? `#,##0.${'0'.repeat(digits)}` : '#,##0');
const look = (fontId: number, more = '') =>
	`<xf numFmtId="0" fontId="${fontId}" fillId="0" borderId="0" xfId="0"${more}`;
const figureLook = (fontId: number, digits: number) =>
	`<xf numFmtId="${FIRST_FORMAT + digits}" fontId="${fontId}" fillId="0" borderId="0" xfId="0" applyNumberFormat="1"/>`;
const [PLAIN, BOLD, TITLE] = [0, 1, 2];
const STYLES =
	`<styleSheet xmlns="${MAIN}">` +
	`<numFmts count="${DIGITS.length}">${DIGITS.map((d) => `<numFmt numFmtId="${FIRST_FORMAT + d}" formatCode="${format(d)}"/>`).join('')}</numFmts>` +
	`<fonts count="3">${font(11, false)}${font(11, true)}${font(16, true)}</fonts>` +
	'<fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills>' +
	'<borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders>' +
	'<cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs>' +
	`<cellXfs count="${LOOKS.length}">${look(PLAIN)}/>${look(TITLE)} applyFont="1"/>${look(BOLD)} applyFont="1" applyAlignment="1"><alignment wrapText="1" vertical="top"/></xf>${look(BOLD)} applyFont="1"/>` +
	`${DIGITS.map((d) => figureLook(PLAIN, d)).join('')}${DIGITS.map((d) => figureLook(BOLD, d)).join('')}</cellXfs>` +
	'<cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>';
