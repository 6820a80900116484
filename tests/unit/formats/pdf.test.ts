import { expect } from 'chai';
import { getDocument, OPS, type PDFDocumentProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { arcLine } from '../../../src/core/schedule/arcLine.ts';
import { holeWords } from '../../../src/core/formats/paper/typePattern.ts';
import { pagesOf } from '../../../src/core/formats/paper/pagesOf.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { PAPERS, SCALES, sheetSchema, type Sheet } from '../../../src/core/project/sheets.ts';
import { emptyProject } from '../../../src/core/project/starter.ts';
import { flatPattern } from '../../../src/core/schedule/flatPattern.ts';
import { typeMeshes } from '../../../src/core/schedule/types/drawTypes.ts';
import { typesOf } from '../../../src/core/schedule/types/pieceTypes.ts';
import { READY_TABLES } from '../../../src/core/schedule/own/ready.ts';
import { ownTableSchema } from '../../../src/core/schedule/own/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { demoWith, ranDemo, run, setRules } from '../demo.ts';
import { writeFormat } from '../../../src/core/formats/writers.ts';
import { fontFiles } from '../../../src/node/fontFiles.ts';
import { fileOf } from '../schedules.ts';

const MM = 72 / 25.4;
const sheet = (view: object, more: object = {}): Sheet => sheetSchema.parse({ id: 's', name: 'S', view, ...more });
const withSheets = (project: Project, ...sheets: Sheet[]): Project => ({
	...project,
	handover: { name: '', files: [], options: {}, sheets: sheets.map((s, k) => ({ ...s, id: `s${k + 1}` })) }
});

/** An independent reader: pdfjs-dist. */
const read = (bytes: Uint8Array): Promise<PDFDocumentProxy> =>
	getDocument({ data: bytes.slice(), useSystemFonts: false, verbosity: 0 }).promise;
async function wordsOn(document: PDFDocumentProxy, page = 1) {
	const { items } = await (await document.getPage(page)).getTextContent();
	return items.flatMap((item) =>
		'str' in item && item.str.trim() ? [{ text: item.str, x: item.transform[4]! / MM, y: item.transform[5]! / MM }] : []
	);
}
/** Lines of a page, each a list of points in mm. */
async function linesOn(document: PDFDocumentProxy, page = 1): Promise<number[][]> {
	const { fnArray, argsArray } = await (await document.getPage(page)).getOperatorList();
	return fnArray.flatMap((fn, k) => {
		if (fn !== OPS.constructPath) return [];
		const [steps, coordinates] = argsArray[k] as [number[], number[]];
		const lines: number[][] = [];
		let at = 0;
		for (const step of steps) {
			if (step === OPS.moveTo) lines.push([]);
			if (step === OPS.closePath) continue;
			lines.at(-1)!.push(coordinates[at]! / MM, coordinates[at + 1]! / MM);
			at += 2;
		}
		return lines;
	});
}

/** An upright wall 12 m high along a line, with panes. */
async function wall() {
	const project = emptyProject('Wall');
	project.levels = [{ id: 'deck', name: 'Deck', height: 4000 }];
	project.masses = [
		newMass({ ...structuredClone(PRESETS.extrusion), leanY: 0 }, project.levels, { id: 'm', name: 'Hall', marks: [] })
	];
	return { project, model: await run(project) };
}

describe('sheets as PDF', () => {
	it('are pages of their paper, with the fonts of the application inside (pdfjs-dist)', async () => {
		const { project, model } = await ranDemo();
		const document = await read(await fileOf(project, model, 'pdf'));
		const pages = pagesOf({ project, model }, project.handover.sheets);
		expect(document.numPages).equal(pages.length).greaterThan(8);
		for (let n = 1; n <= document.numPages; n++) {
			const page = await document.getPage(n);
			const [, , width, height] = page.view;
			expect([width! / MM, height! / MM].map(Math.round)).deep.equal([pages[n - 1]!.width, pages[n - 1]!.height]);
			await page.getOperatorList();
			const fonts = new Set((await page.getTextContent()).items.flatMap((i) => ('fontName' in i ? [i.fontName] : [])));
			expect(fonts.size).greaterThan(0);
			for (const name of fonts) {
				const font = page.commonObjs.get(name) as { missingFile?: boolean; name: string };
				expect(font.missingFile, font.name).not.equal(true);
				expect(font.name).match(/IBMPlexSans/);
			}
			const said = (await wordsOn(document, n)).map((w) => w.text);
			expect(said).include('Sallow Reach ferry terminal');
		}
	});

	it('are at the scale that they say: bar, sizes and edges measured', async () => {
		const { project, model } = await wall();
		const drawn = withSheets(project, sheet({ kind: 'elevation', bearing: Math.PI }, { scale: 250, marks: false }));
		const document = await read(await fileOf(drawn, model, 'pdf'));
		const words = await wordsOn(document);
		expect(words.map((w) => w.text)).include('1 : 250, A3');
		const lines = await linesOn(document);
		// The line for measuring the height: as long on paper as 12 m are at 1 : 250, and its middle has the words.
		const { position } = model.faces[0]!.nodes;
		const range = (c: number) => {
			const all = Array.from({ length: position.length / 3 }, (_, n) => position[n * 3 + c]!);
			return Math.max(...all) - Math.min(...all);
		};
		const [across, up] = [range(0), range(2)];
		expect(up).closeTo(12_000, 0.001);
		const text = (mm: number) => `${Math.round(mm).toLocaleString('en').replace(',', ' ')} mm`;
		expect(words.map((w) => w.text)).include.members([text(across), text(up)]);
		const points = lines.flat();
		const near = (length: number) =>
			lines.some((l) => l.length === 4 && Math.abs(Math.hypot(l[2]! - l[0]!, l[3]! - l[1]!) - length) < 0.01);
		expect(near(up / 250 + 3), 'height with what it reaches over').equal(true);
		expect(near(across / 250 + 3), 'width with what it reaches over').equal(true);
		expect(points.every(Number.isFinite)).equal(true);
		// The bar: two fields; the words below its ends say how long both are.
		const [zero, end] = ['0', '20.0 m'].map((t) => words.find((w) => w.text === t)!);
		const fields = lines.filter((l) => l.length === 8 && Math.abs(l[5]! - l[1]! - 1.6) < 0.01);
		expect(fields.length).equal(2);
		const xs = fields.flat().filter((_, k) => k % 2 === 0);
		expect(Math.max(...xs) - Math.min(...xs)).closeTo(20_000 / 250, 0.01);
		expect(zero!.x).lessThan(end!.x);
		// Cells' edges on paper are as long as they are, for those that lie straight across the eye: the upright ones.
		const upright = lines.filter((l) => l.length === 4 && Math.abs(l[0]! - l[2]!) < 1e-3);
		const { edgeNodes, edgeCount } = model.faces[0]!.cells;
		const lengths = Array.from({ length: edgeCount }, (_, e) => {
			const [a, b] = [edgeNodes[e * 2]! * 3, edgeNodes[e * 2 + 1]! * 3];
			return Math.hypot(position[a]! - position[b]!, position[a + 1]! - position[b + 1]!) < 1e-3
				? Math.abs(position[a + 2]! - position[b + 2]!)
				: NaN;
		}).filter((l) => !Number.isNaN(l));
		const least = Math.min(...lengths);
		expect(upright.filter((l) => Math.abs(Math.abs(l[3]! - l[1]!) - least / 250) < 0.01).length).greaterThan(10);
	});

	it('that do not fit at a scale take the next that does, and say so', async () => {
		const { project, model } = await wall();
		for (const paper of Object.keys(PAPERS)) {
			const [page] = pagesOf(
				{ project, model },
				withSheets(project, sheet({ kind: 'elevation' }, { scale: 1, paper })).handover.sheets
			);
			expect(SCALES).include(page!.scale);
			expect(page!.notes.join()).match(/At 1 : 1 it takes .* it is drawn at 1 : \d+, which fits/);
			for (const { lines } of page!.paths)
				for (const points of lines)
					points.forEach((v, k) => expect(v).within(0, (k % 2 ? page!.height : page!.width) + 0.001));
		}
	});

	it('have every script that the font has, and a box for what it has not', async () => {
		const { project, model } = await wall();
		const names = ['Übergang Łódź', 'Καλημέρα', 'Площадь', '漢字 (x)'];
		const drawn = withSheets(project, ...names.map((name) => ({ ...sheet({ kind: 'plan' }), name })));
		const bytes = await fileOf(drawn, model, 'pdf');
		expect(Buffer.compare(bytes, await fileOf(drawn, model, 'pdf')), 'the same bytes each time').equal(0);
		const document = await read(bytes);
		for (const [k, name] of names.entries()) {
			const text = (await wordsOn(document, k + 1)).map((w) => w.text).join('');
			// Spaces between fonts are none of the reader's words.
			expect(text).contains(k < 3 ? name.replace(' ', '') : '(x)');
		}
	});

	it('of schedules have all rows, page by page, and of types the pieces with their counts', async () => {
		const project = demoWith(12, 9);
		project.tables = [ownTableSchema.parse({ id: 'panels', ...READY_TABLES.find((t) => t.name === 'Panels')! })];
		const model = await run(project);
		const drawn = withSheets(
			project,
			sheet({ kind: 'schedule', table: 'panels' }, { paper: 'A4' }),
			sheet({ kind: 'types', role: 'pane', most: 5, perPage: 4 }),
			sheet({ kind: 'schedule', table: 'gone' })
		);
		const pages = pagesOf({ project: drawn, model }, drawn.handover.sheets);
		expect(pages.at(-1)!.notes.join()).contains('“gone” is not there any more');
		const document = await read(await fileOf(drawn, model, 'pdf'));
		const words = (
			await Promise.all(pages.map(async (_, k) => (await wordsOn(document, k + 1)).map((w) => w.text)))
		).flat();
		const marks = words.filter((t) => /^C1-\d\d-\d\d$/.test(t));
		expect(new Set(marks).size).equal(108);
		expect(words).include('2.2 of 3');
		expect(words.filter((t) => /^G-\d{3}$/.test(t)).length).equal(5);
		expect(pages.some((p) => p.notes.some((n) => /more types are not on these pages/.test(n)))).equal(true);
	});

	it('of types show thin pieces laid flat beside them: lengths, bends with their angles, holes with their sizes', async () => {
		// Cells between parallel lines of a wall that bends one way are flat, and so are their frames.
		const { project } = await wall();
		project.kits = [STARTER_KITS.find((k) => k.id === 'framed-pane')!];
		const face = `m/${project.masses[0]!.faces[0]!.id}`;
		setRules(project, [{ id: 'r', face, kit: 'framed-pane', values: {} }]);
		const model = await run(project);
		const drawn = withSheets(
			project,
			sheet({ kind: 'types', role: 'reveal', most: 1, perPage: 1 }),
			sheet({ kind: 'types', role: 'frame', most: 1, perPage: 1 }),
			sheet({ kind: 'types', role: 'reveal', most: 1, perPage: 12 })
		);
		const [reveal, frame, small] = pagesOf({ project: drawn, model }, drawn.handover.sheets);
		const { types } = typesOf(model.faces, project.types);
		const pattern = flatPattern(
			typeMeshes(model.faces, project.types, [types.findIndex((t) => t.role === 'reveal')])[0]!,
			// An open sheet: all of it is one side.
			NaN
		)!;
		// A strip around four corners, cut open at one of them.
		expect(pattern.bends.length).equal(3);
		const said = (page: typeof reveal) => page!.texts.map((t) => t.text);
		const title = said(reveal).find((t) => t.startsWith('Laid flat'))!;
		const scale = Number(/1 : (\d+)/.exec(title)![1]);
		const dashed = reveal!.paths.filter((p) => p.dash?.join() === '2,1').flatMap((p) => p.lines);
		const lengthsOf = (lines: readonly (readonly number[])[]) =>
			lines.map(([x, y, nx, ny]) => Math.hypot(nx! - x!, ny! - y!) * scale).sort((a, b) => a - b);
		const wanted = pattern.bends
			.map(({ from, to }) => Math.hypot(to[0] - from[0], to[1] - from[1]))
			.sort((a, b) => a - b);
		lengthsOf(dashed).forEach((length, k) => expect(length).closeTo(wanted[k]!, 1e-6));
		expect(dashed.length).equal(3);
		// Lengths of its long sides are written as they are.
		const [outline] = pattern.cuts;
		const sides = outline!.map(([x, y], k) => {
			const [nx, ny] = outline![(k + 1) % outline!.length]!;
			return Math.hypot(nx - x, ny - y);
		});
		const written = said(reveal).map((t) => parseFloat(t.replace(/[^\d.]/g, '')));
		expect(written.some((value) => Math.abs(value - Math.max(...sides)) < 0.6)).equal(true);
		expect(said(frame).some((t) => / × .* mm$/.test(t))).equal(true);
		expect(said(small).some((t) => t.startsWith('Laid flat'))).equal(false);
		// By hand: a ring of 16 corners 25 from its middle that stands for a circle, and one that does not; one that is none.
		const ring = (n: number, rx: number, ry: number) =>
			Array.from({ length: n }, (_, k): [number, number] => [
				100 + rx * Math.cos((2 * Math.PI * k) / n),
				50 + ry * Math.sin((2 * Math.PI * k) / n)
			]);
		expect(holeWords(ring(16, 25, 25), arcLine(ring(16, 25, 25)), 'mm')).equal('Ø 50 mm');
		expect(holeWords(ring(16, 25, 25), undefined, 'mm')).equal('50 mm × 50 mm');
		expect(holeWords(ring(8, 25, 20), arcLine(ring(8, 25, 20)), 'mm')).equal('50 mm × 40 mm');
	});

	it('of a section show nothing of what lies before the cut, and cut what it goes through', async () => {
		const { project, model } = await ranDemo();
		const at = (view: object) =>
			pagesOf({ project, model }, withSheets(project, sheet(view, { marks: false })).handover.sheets)[0]!;
		const whole = at({ kind: 'plan' });
		const cut = at({ kind: 'plan', height: 8400 });
		const below = at({ kind: 'plan', height: -1000 });
		const heavy = (page: typeof whole) =>
			page.paths.filter((p) => p.weight === 0.5 && !p.closed).reduce((n, p) => n + p.lines.length, 0);
		expect(heavy(cut)).greaterThan(heavy(whole));
		expect(below.notes.join()).contains('nothing to be seen');
	});

	it('ask for sheets that are there', async () => {
		const { project, model } = await wall();
		const drawn = withSheets(project, sheet({ kind: 'plan' }));
		const fault = await fileOf(drawn, model, 'pdf', { sheets: ['other'] }).catch((e: Error) => e.message);
		expect(fault).equal('There is no sheet “other”; known: s1.');
		const none = await fileOf(project, model, 'pdf').catch((e: Error) => e.message);
		expect(none).contains('There is no sheet yet');
	});

	it('of an issue say which, and list those before it where there is room', async () => {
		const { project, model } = await wall();
		const title = (mark: string, day: number) => ({
			mark,
			name: `Issue ${mark}`,
			author: 'A. Author',
			date: `2026-11-0${day}`
		});
		const issue = { ...title('C', 3), earlier: [title('A', 1), title('B', 2)] };
		const drawn = withSheets(project, sheet({ kind: 'plan' }), sheet({ kind: 'plan' }, { paper: 'A4' }));
		const chunks: Uint8Array[] = [];
		const input = { project: drawn, model, issue, fonts: fontFiles };
		await writeFormat('pdf', input, {}, (chunk) => void chunks.push(chunk.slice()));
		const document = await read(Uint8Array.from(Buffer.concat(chunks)));
		const [wide, narrow] = await Promise.all([1, 2].map(async (n) => (await wordsOn(document, n)).map((w) => w.text)));
		expect(wide).include.members(['C Issue C', '2026-11-03 A. Author', 'A', 'Issue A', '2026-11-01', 'B', 'Issue B']);
		expect(narrow).include('C Issue C').and.not.include('Issue A');
		const { info } = (await document.getMetadata()) as { info: { Author?: string; Subject?: string } };
		expect([info.Author, info.Subject]).deep.equal(['A. Author', 'C Issue C']);
	});
});
