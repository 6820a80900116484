import fontkit from '@pdf-lib/fontkit';
import {
	beginText,
	closePath,
	endText,
	fill,
	fillAndStroke,
	lineTo,
	moveTo,
	PDFDocument,
	PDFName,
	PDFString,
	setDashPattern,
	setFillingRgbColor,
	setFontAndSize,
	setLineCap,
	setLineJoin,
	setLineWidth,
	setStrokingRgbColor,
	setTextMatrix,
	showText,
	stroke,
	type PDFFont,
	type PDFOperator,
	type PDFPage
} from 'pdf-lib';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { cos, sin } from '../../elementary/index.ts';
import type { Sink } from '../sink.ts';
import type { WriterInput } from '../writerInput.ts';
import { Fonts, type FontFiles } from './fonts.ts';
import { CAPITALS, INK, type Page, type PagePath, type PageText } from './page.ts';

/** Points a mm: 72 an inch. */
const POINTS = 72 / 25.4;
const ROUND = 1;

/** Pages as PDF (ISO 32000-1), with the application's own fonts embedded, only the letters that are used. The same pages, the same bytes. */
export async function writePdf(
	{ project, issue }: WriterInput,
	pages: readonly Page[],
	files: FontFiles,
	sink: Sink
): Promise<void> {
	const document = await PDFDocument.create({ updateMetadata: false });
	document.registerFontkit(fontkit);
	document.setTitle(project.name);
	document.setProducer('Zygaster');
	document.setCreator('Zygaster');
	if (issue) {
		document.setAuthor(issue.author);
		document.setSubject(`${issue.mark} ${issue.name}`);
		document.setCreationDate(new Date(`${issue.date}T00:00:00Z`));
	}
	const fonts = new Fonts(document, files);
	for (const page of pages) await addPage(document, page, fonts);
	document.context.trailerInfo.ID = document.context.obj([fileId(project.uid ?? project.name), fileId(project.name)]);
	const bytes = await document.save({ useObjectStreams: true, addDefaultPage: false });
	sink(bytes as Uint8Array<ArrayBuffer>);
}

/** What a file is told by, without the clock. */
const fileId = (name: string) => PDFString.of(bytesToHex(sha256(utf8ToBytes(name))).slice(0, 16));

async function addPage(document: PDFDocument, { width, height, paths, texts }: Page, fonts: Fonts): Promise<void> {
	const page = document.addPage([width * POINTS, height * POINTS]);
	page.pushOperators(setLineCap(ROUND), setLineJoin(ROUND));
	for (const path of paths) {
		const operators = pathOperators(path);
		for (let from = 0; from < operators.length; from += AT_ONCE)
			page.pushOperators(...operators.slice(from, from + AT_ONCE));
	}
	for (const text of texts) page.pushOperators(...(await textOperators(page, text, fonts)));
}

/** Operators go to the package as arguments, of which an engine takes so many. */
const AT_ONCE = 5000;

function colourOf(colour: string): [number, number, number] {
	return [1, 3, 5].map((k) => parseInt(colour.slice(k, k + 2), 16) / 255) as [number, number, number];
}

function pathOperators({ lines, closed, colour, weight = 0.18, dash, fill: inside }: PagePath): PDFOperator[] {
	const out: PDFOperator[] = [];
	if (inside) out.push(setFillingRgbColor(...colourOf(inside)));
	if (colour)
		out.push(
			setStrokingRgbColor(...colourOf(colour)),
			setLineWidth(weight * POINTS),
			setDashPattern(
				(dash ?? []).map((d) => d * POINTS),
				0
			)
		);
	for (const points of lines) {
		out.push(moveTo(points[0]! * POINTS, points[1]! * POINTS));
		for (let k = 2; k < points.length; k += 2) out.push(lineTo(points[k]! * POINTS, points[k + 1]! * POINTS));
		if (closed) out.push(closePath());
	}
	out.push(inside && colour ? fillAndStroke() : inside ? fill() : stroke());
	return out;
}

/** Fonts of a page by their names in it. */
const named = new WeakMap<PDFPage, Map<PDFFont, PDFName>>();
function nameOf(page: PDFPage, font: PDFFont): PDFName {
	const names = named.get(page) ?? new Map<PDFFont, PDFName>();
	named.set(page, names);
	const name = names.get(font) ?? PDFName.of(`F${names.size + 1}`);
	if (!names.has(font)) page.node.setFontDictionary(name, font.ref);
	names.set(font, name);
	return name;
}

async function textOperators(
	page: PDFPage,
	{ x, y, height, text, anchor = 'start', bold = false, colour = INK, turn = 0 }: PageText,
	fonts: Fonts
): Promise<PDFOperator[]> {
	const size = (height / CAPITALS) * POINTS;
	const runs = await fonts.runsOf(text, bold);
	const widths = runs.map(({ font, text }) => font.widthOfTextAtSize(text, size));
	const width = widths.reduce((sum, w) => sum + w, 0);
	let along = anchor === 'start' ? 0 : anchor === 'middle' ? -width / 2 : -width;
	const [cosine, sine] = [cos(turn), sin(turn)];
	const out: PDFOperator[] = [setFillingRgbColor(...colourOf(colour))];
	runs.forEach(({ font, text }, k) => {
		out.push(
			beginText(),
			setFontAndSize(nameOf(page, font), size),
			setTextMatrix(cosine, sine, -sine, cosine, x * POINTS + along * cosine, y * POINTS + along * sine),
			showText(font.encodeText(text)),
			endText()
		);
		along += widths[k]!;
	});
	return out;
}
