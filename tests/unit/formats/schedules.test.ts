import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { unzipSync } from 'fflate';
import fc from 'fast-check';
import readExcelFile from 'read-excel-file/node';
import { xmlText } from '../../../src/core/formats/xlsx/workbook.ts';
import { quote } from '../../../src/core/formats/csv/writeTable.ts';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { typesOf } from '../../../src/core/schedule/types/pieceTypes.ts';
import { USUAL_TYPES } from '../../../src/core/schedule/types/schema.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoWith, ranDemo, run } from '../demo.ts';
import { writeFormat } from '../../../src/core/formats/writers.ts';
import { fileOf } from '../schedules.ts';

type Rows = Record<string, string>[];
const rowsOf = async (...args: Parameters<typeof fileOf>): Promise<Rows> =>
	parse(Buffer.from(await fileOf(...args)), { columns: true, record_delimiter: '\r\n' });
const total = (rows: Rows, column: string) => rows.reduce((sum, r) => sum + Number(r[column]), 0);

describe('the part list', () => {
	it('names what each piece is, of what rule and type, and adds up to the summary (csv-parse)', async () => {
		const { project, model } = await ranDemo();
		const rows = await rowsOf(project, model, 'parts');
		expect(Object.keys(rows[0]!)).deep.equal(
			'Mark,Host kind,Host mark,Face,Rule,Kit,Part,Role,Material,Type,Piece,Length mm,Area m2,Volume m3,Weight kg,Towards'.split(
				','
			)
		);
		const summary = summarise(project, model);
		const sums = (of: 'count' | 'massKg' | 'lengthM' | 'areaM2') => summary.parts.reduce((n, p) => n + p[of], 0);
		expect(rows.length).equal(sums('count'));
		expect(total(rows, 'Weight kg')).closeTo(sums('massKg'), rows.length * 0.0005);
		expect(total(rows, 'Length mm') / 1000).closeTo(sums('lengthM'), 0.5);
		expect(total(rows, 'Area m2')).closeTo(sums('areaM2'), 0.5);
		// Rules stand there as they are called on screen, and only those that place something.
		const names = new Set(summary.rules.filter((r) => r.kit !== null && r.hosts > 0).map((r) => r.name));
		for (const row of rows) expect(names.has(row.Rule!) || row.Rule === 'by hand', row.Rule).equal(true);
		const types = new Map<string, Set<string>>();
		for (const row of rows)
			if (row.Type)
				types.set(
					row.Type,
					(types.get(row.Type) ?? new Set()).add(`${row.Role} ${row.Kit} ${row.Part} ${row.Material}`)
				);
		for (const [type, kinds] of types) expect(kinds.size, type).equal(1);
		const counts: Record<string, number> = {};
		for (const { role } of typesOf(model.faces, USUAL_TYPES).types) counts[role] = (counts[role] ?? 0) + 1;
		expect(summary.types).deep.equal(counts);
	});
});

describe('corner points and setting-out points', () => {
	it('are those of the cells, in order and none twice: areas from them are those of the schedule', async () => {
		const project = demoWith(5, 4);
		const model = await run(project);
		const rows = await rowsOf(project, model, 'corners', { units: 'm' });
		const panels = await rowsOf(project, model, 'csv');
		expect(rows.filter((r) => r['Host kind'] === 'cell').map((r) => r.Mark)).deep.equal(panels.map((p) => p.Mark));
		for (const row of rows.filter((r) => r['Host kind'] === 'cell')) {
			const n = Number(row.Corners);
			const at = Array.from({ length: n }, (_, k) => ['X', 'Y', 'Z'].map((axis) => Number(row[`${axis}${k + 1} m`])));
			expect(new Set(at.map(String)).size).equal(n);
			// Half the length of the sum of cross products: the area of the outline's mean plane; warped ones have a little more.
			const [x, y, z] = at.reduce(
				(sum, p, k) => {
					const q = at[(k + 1) % n]!;
					return [
						sum[0]! + p[1]! * q[2]! - p[2]! * q[1]!,
						sum[1]! + p[2]! * q[0]! - p[0]! * q[2]!,
						sum[2]! + p[0]! * q[1]! - p[1]! * q[0]!
					];
				},
				[0, 0, 0]
			);
			const area = Number(panels.find((p) => p.Mark === row.Mark)!['Area m2']);
			expect(Math.hypot(x!, y!, z!) / 2 / area).within(0.98, 1.0001);
		}
	});

	it('list every node of a division once: 6 x 5 of one of 5 x 4, with unit normals', async () => {
		const project = demoWith(5, 4);
		const model = await run(project);
		const rows = await rowsOf(project, model, 'nodes');
		const canopy = rows.filter((r) => r.Face === model.faces[0]!.name);
		expect(canopy.length).equal(model.faces[0]!.name === canopy[0]!.Face ? 6 * 5 : -1);
		expect(new Set(rows.map((r) => r.Mark)).size).equal(rows.length);
		for (const r of rows) expect(Math.hypot(...['x', 'y', 'z'].map((c) => Number(r[`Normal ${c}`])))).closeTo(1, 1e-5);
		const face = model.faces[0]!;
		const { position } = face.nodes;
		const places = new Set(
			Array.from({ length: 30 }, (_, n) => [0, 1, 2].map((c) => position[n * 3 + c]!.toFixed(2)).join())
		);
		for (const r of canopy)
			expect(places.has(['X', 'Y', 'Z'].map((c) => Number(r[`${c} mm`]).toFixed(2)).join())).equal(true);
	});
});

describe('the spreadsheet', () => {
	it('has a cover and a sheet a table, with figures as figures and totals as formulas (read back by read-excel-file)', async () => {
		const project = demoWith(4, 3);
		const model = await run(project);
		project.tables = [
			{ ...project.tables.find((t) => t.id === 'materials')!, name: 'Parts' },
			{ ...project.tables.find((t) => t.id === 'louvers')!, name: 'Louvers: 1/2 [of the quay], all of them' }
		];
		const sheets = await readExcelFile(Buffer.from(await fileOf(project, model, 'xlsx')));
		// Names that are taken, or that no sheet may have, are near the ones given.
		expect(sheets.map((s) => s.sheet)).deep.equal([
			'Project',
			'Panels',
			'Parts',
			'Types',
			'Materials',
			'Quantities',
			'Parts 2',
			'Louvers  1 2  of the quay , all'
		]);
		const own = sheets.find((s) => s.sheet === 'Parts 2')!.data;
		const written = parse(Buffer.from(await fileOf(project, model, 'tables', { table: 'materials' }))) as string[][];
		expect(own[0]!.map(String)).deep.equal(written[0]);
		expect(own.length).equal(written.length + 1);
		expect(Number(own[1]![5])).closeTo(Number(written[1]![5]), 0.006);
		const bytes = Buffer.from(await fileOf(project, model, 'xlsx'));
		const [cover, panels, parts, types] = sheets.map((s) => s.data);
		expect(cover![0]![0]).equal(project.name);
		const csv = await rowsOf(project, model, 'csv');
		const heads = panels![0]!.map(String);
		expect(heads).deep.equal(Object.keys(csv[0]!));
		csv.forEach((row, r) =>
			heads.forEach((head, c) => {
				const cell = panels![r + 1]![c];
				if (typeof cell === 'number') expect(cell).closeTo(Number(row[head]), 0.051);
				else expect(String(cell)).equal(row[head]);
			})
		);
		expect(parts!.length - 2).equal(model.faces.reduce((n, f) => n + partsOf(f).count, 0));
		expect(types!.slice(1, -1).reduce((n, row) => n + Number(row[5]), 0)).equal(parts!.length - 2);
		// The last row adds up what is above it.
		const { unzipSync, strFromU8 } = await import('fflate');
		const xml = strFromU8(unzipSync(new Uint8Array(bytes))['xl/worksheets/sheet2.xml']!);
		const column = String.fromCharCode(65 + heads.indexOf('Area m2'));
		expect(xml).contain(`SUM(${column}2:${column}${csv.length + 1})`);
		expect(xml).contain('<autoFilter ref="A1:');
		expect(Buffer.from(await fileOf(project, model, 'xlsx')).equals(bytes)).equal(true);
	});

	it('is of well-formed parts whose names agree (fast-xml-parser), with totals that its formulas give', async () => {
		const project = demoWith(5, 4);
		const model = await run(project);
		const parts = unzipSync(await fileOf(project, model, 'xlsx'));
		const texts = Object.entries(parts).map(([name, bytes]) => [name, Buffer.from(bytes).toString()] as const);
		for (const [name, text] of texts) expect(XMLValidator.validate(text), name).equal(true);
		const types = texts.find(([name]) => name === '[Content_Types].xml')![1];
		for (const [name] of texts.filter(([n]) => n.startsWith('xl/w') && !n.includes('_rels')))
			expect(types, name).contains(`PartName="/${name}"`);
		// Every style that a cell names is there.
		const styles = texts.find(([name]) => name === 'xl/styles.xml')![1];
		const looks = Number(/<cellXfs count="(\d+)"/.exec(styles)![1]);
		expect(styles.slice(styles.indexOf('<cellXfs')).match(/<xf /g)).lengthOf(looks);
		let formulas = 0;
		for (const [, text] of texts.filter(([name]) => name.startsWith('xl/worksheets/'))) {
			for (const [, style] of text.matchAll(/ s="(\d+)"/g)) expect(Number(style)).lessThan(looks);
			const value = (cell: string) => Number(new RegExp(`r="${cell}" s="\\d+"><v>([^<]*)`).exec(text)?.[1] ?? NaN);
			for (const [, how, column, to, told] of text.matchAll(/<f>(SUM|MAX)\(([A-Z]+)2:[A-Z]+(\d+)\)<\/f><v>([^<]*)/g)) {
				const cells = Array.from({ length: Number(to) - 1 }, (_, k) => value(`${column}${k + 2}`)).filter(
					Number.isFinite
				);
				const wanted = how === 'SUM' ? cells.reduce((a, b) => a + b, 0) : Math.max(...cells);
				expect(Number(told)).closeTo(wanted, 1e-6 * Math.abs(wanted) + 1e-9);
				formulas++;
			}
		}
		expect(formulas).greaterThan(8);
	});

	it('says the same as JSON: heads with units, rows, nothing where there is no figure', async () => {
		const project = demoWith(5, 4);
		const model = await run(project);
		const read = JSON.parse(Buffer.from(await fileOf(project, model, 'rows', { units: 'm' })).toString()) as {
			project: string;
			issue: null;
			schedules: { name: string; columns: string[]; rows: (string | number | null)[][] }[];
		};
		expect([read.project, read.issue]).deep.equal([project.name, null]);
		const sheets = await readExcelFile(Buffer.from(await fileOf(project, model, 'xlsx', { units: 'm' })));
		expect(read.schedules.map((s) => s.name)).deep.equal(sheets.slice(1).map((s) => s.sheet));
		for (const { name, columns, rows } of read.schedules) {
			const { data } = sheets.find((s) => s.sheet === name)!;
			expect(columns, name).deep.equal(data[0]!.map(String));
			rows.forEach((row, r) =>
				row.forEach((value, c) => {
					const cell = data[r + 1]?.[c] ?? null;
					if (typeof value === 'number') expect(value, name).closeTo(cell as number, 0.5);
					else expect(value || null, name).equal(cell === null ? null : String(cell));
				})
			);
		}
		expect(read.schedules[0]!.columns).include('Width m');
	});

	it('takes texts of every kind into XML and back (property; fast-xml-parser)', () => {
		const parser = new XMLParser({ trimValues: false, parseTagValue: false });
		fc.assert(
			fc.property(fc.string({ unit: 'grapheme', minLength: 1 }), (text) => {
				const read = parser.parse(`<t>${xmlText(text)}</t>`) as { t: string };
				const kept = text.replace(/[^\P{Cc}\t\n\r]|[\p{Cs}\ufffe\uffff]/gu, '');
				expect(read.t.replace(/_x005F_/g, '_')).equal(kept);
			})
		);
		// What spreadsheets would read as a character of that number.
		expect(xmlText('_x0041_ <a> & "b"\u0001')).equal('_x005F_x0041_ &lt;a&gt; &amp; &quot;b&quot;');
	});

	it('says on its cover of which issue it is', async () => {
		const project = demoWith(2, 2);
		const issue = { mark: 'B', name: 'Tender', author: 'A. Author', date: '2026-11-27' };
		const chunks: Uint8Array[] = [];
		const input = { project, model: await run(project), issue };
		await writeFormat('xlsx', input, {}, (chunk) => void chunks.push(chunk.slice()));
		const [cover] = await readExcelFile(Buffer.concat(chunks));
		expect(cover!.data.slice(0, 4).map((row) => row[0])).deep.equal([
			project.name,
			'Issue B Tender',
			'By A. Author',
			'2026-11-27'
		]);
	});

	it('keeps words that look like formulas, and all letters, as the words that they are', async () => {
		const project: Project = demoWith(2, 2);
		const name = '=HYPERLINK("http://a";"b"), "Größe"\u202b';
		project.kits.find((k) => k.id === 'framed-pane')!.name = name;
		const model = await run(project);
		const [, panels] = (await readExcelFile(Buffer.from(await fileOf(project, model, 'xlsx')))).map((s) => s.data);
		expect(panels![1]![2]).equal(name);
		// In a text file the same has an apostrophe before it.
		expect((await rowsOf(project, model, 'csv'))[0]!.Kit).equal(`'${name}`);
		expect(['+1', '-1', '@a', '=a', '\ta', 'a=b'].map(quote)).deep.equal(["'+1", "'-1", "'@a", "'=a", "'\ta", 'a=b']);
	});
});

describe('the cut list', () => {
	it('cuts every bar of the demo once from delivered ones, and says which is longer than any (csv-parse)', async () => {
		const { project, model } = await ranDemo();
		const all = await rowsOf(project, model, 'cutlist', { lengths: [6500, 4000] });
		const [rows, tooLong] = [all.filter((r) => r.Bar !== 'too long'), all.filter((r) => r.Bar === 'too long')];
		// Ribs and tubes along paths, which are put together.
		expect(tooLong.length).greaterThan(0);
		for (const row of tooLong) expect(Number(row['Length mm'])).greaterThan(6500 - 20);
		const parts = await rowsOf(project, model, 'parts');
		const lengths = new Map(parts.map((p) => [p.Mark, p]));
		expect(new Set(all.map((r) => r.Mark)).size).equal(all.length);
		const bars = new Map<string, Rows>();
		for (const row of rows) {
			expect(lengths.get(row.Mark!)).deep.include({ Kit: row.Kit, Type: row.Type, Material: row.Material });
			expect(Number(lengths.get(row.Mark!)!['Length mm'])).closeTo(Number(row['Length mm']), 0.06);
			bars.set(row.Bar!, [...(bars.get(row.Bar!) ?? []), row]);
		}
		for (const [bar, list] of bars) {
			const used = total(list, 'Length mm') + 4 * (list.length - 1) + 20;
			expect(Number(list[0]!['Delivered mm']) - used, bar).closeTo(
				Number(list[0]!['Rest mm']),
				0.1 * list.length + 0.2
			);
			expect(new Set(list.map((r) => `${r.Kit} ${r.Part} ${r.Material}`)).size).equal(1);
		}
	});
});
