import { ZygasterError } from '../../errors.ts';
import { developedDrawing } from '../../drawing/developedDrawing.ts';
import type { Drawing, DrawnText, Layer } from '../../drawing/drawing.ts';
import { eyeOf } from '../../drawing/eye.ts';
import { middleOf, projectedDrawing } from '../../drawing/projectedDrawing.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { VIEW_WORDS, type Sheet, type SheetView } from '../../project/sheets.ts';
import { printFull } from '../../units/print.ts';
import { eachMesh } from '../eachMesh.ts';
import type { WriterInput } from '../writerInput.ts';
import { cellColours, type CellColours } from './cellColours.ts';
import { addFrame, addScaleBar, drawingArea, paperOf } from './frame.ts';
import { extentOf, layDrawing, scaleFor, type Beside } from './layDrawing.ts';
import { ACCENT, boxPath, fitted, INK, noItems, type Area, type Page, type PageItems } from './page.ts';
import { tablePages } from './tablePages.ts';
import { typePages } from './typePages.ts';

/** How levels beyond a picture are told from those that belong to it, mm. */
const LEVELS_BEYOND = 500;

/** The pages of some of a project's sheets: numbered by the sheet, and by the page where a sheet has several. */
export function pagesOf(input: WriterInput, sheets: readonly Sheet[]): Page[] {
	const { project, issue } = input;
	const all = project.handover.sheets;
	return sheets.flatMap((sheet) => {
		const contents = contentOf(input, sheet);
		const number = all.findIndex((s) => s.id === sheet.id) + 1;
		return contents.map(({ items, scale, view }, k): Page => {
			addFrame(items, sheet, {
				project: project.name,
				sheet: sheet.name,
				view,
				scale,
				number: contents.length > 1 ? `${number}.${k + 1}` : String(number),
				of: all.length,
				issue
			});
			const title = [sheet.name, `${sheet.paper} ${sheet.across ? 'across' : 'upright'}`, scale && `1 : ${scale}`];
			return { ...paperOf(sheet), title: title.filter(Boolean).join(' · '), scale, ...items };
		});
	});
}

interface Content {
	readonly items: PageItems;
	readonly scale: number | undefined;
	/** As the title block has it. */
	readonly view: string;
}

function contentOf({ project, model }: WriterInput, sheet: Sheet): Content[] {
	const { view } = sheet;
	const area = drawingArea(sheet);
	const word = VIEW_WORDS[view.kind];
	if (view.kind === 'types')
		return typePages(project, model, sheet, view, area).map((items) => ({ items, scale: undefined, view: word }));
	if (view.kind === 'schedule') {
		const table = project.tables.find((t) => t.id === view.table);
		if (table) return tablePages(project, model, table, area).map((items) => ({ items, scale: undefined, view: word }));
		const items = noItems();
		items.notes.push(`The schedule “${view.table}” is not there any more; choose another.`);
		return [{ items, scale: undefined, view: word }];
	}
	return [drawn(project, model, sheet, view, area)];
}

type DrawnView = Exclude<SheetView, { kind: 'types' | 'schedule' }>;

function drawn(project: Project, model: Model, sheet: Sheet, view: DrawnView, area: Area): Content {
	const items = noItems();
	const colours = coloursOf(project, model, view, sheet);
	const drawing = drawingOf(project, model, view, sheet, colours);
	const extent = extentOf(drawing);
	const words = { items, view: viewWords(view, project) };
	if (!extent) {
		items.notes.push('There is nothing to be seen here: no face is divided, or all of it lies before the cut.');
		return { ...words, scale: undefined };
	}
	const upright = view.kind === 'elevation' || view.kind === 'section';
	const beside: Beside = {
		sizes: sheet.sizes,
		marks: sheet.marks,
		levels:
			upright && sheet.levels
				? project.levels.filter((l) => l.height >= extent[1] - LEVELS_BEYOND && l.height <= extent[3] + LEVELS_BEYOND)
				: []
	};
	const room = colours ? addLegend(items, colours, area) : area;
	const { scale, note } = scaleFor(drawing, room, beside, sheet.scale);
	if (note) items.notes.push(note);
	layDrawing(items, drawing, room, scale, beside, project.units);
	addScaleBar(items, sheet, scale, project.units);
	if (view.kind === 'plan') addNorth(items, area);
	return { ...words, scale };
}

/** The drawing of a sheet without its paper, mm. Throws a ZygasterError with code `options` for a sheet of rows or pieces. */
export function drawingOfSheet({ project, model }: WriterInput, sheet: Sheet): Drawing {
	const { view } = sheet;
	if (view.kind === 'types' || view.kind === 'schedule')
		throw new ZygasterError(
			'options',
			`The sheet “${sheet.name}” is no drawing of the model; right would be one that is.`
		);
	return drawingOf(project, model, view, sheet, coloursOf(project, model, view, sheet));
}

function coloursOf(project: Project, { faces }: Model, view: DrawnView, { colour }: Sheet): CellColours | undefined {
	if (view.kind !== 'developed') return undefined;
	const shown = faces.filter((f) => view.faces.length === 0 || view.faces.includes(f.key));
	return cellColours(shown, colour, project.units);
}

function drawingOf(
	project: Project,
	model: Model,
	view: DrawnView,
	{ levels }: Sheet,
	colours: CellColours | undefined
): Drawing {
	if (view.kind === 'developed') {
		const drawing = developedDrawing(project, model, view.faces, colours?.fillOf);
		return levels ? drawing : { ...drawing, layers: drawing.layers.filter((l) => l.kind !== 'levels') };
	}
	const { eye, nearest } = eyeOf(view, middleOf(model));
	const drawing = projectedDrawing(project, model, { eye, nearest, faces: view.faces }, (visit) =>
		eachMesh(project, model, (_, mesh, _table, _row, f) => {
			if (view.faces.length === 0 || view.faces.includes(model.faces[f]!.key)) visit(mesh);
		})
	);
	if (view.kind !== 'plan' || view.height !== undefined) return drawing;
	return { ...drawing, layers: [...drawing.layers, namesFromAbove(model, view.faces)] };
}

/** What faces are called, where they are seen from above. */
function namesFromAbove({ faces }: Model, wanted: readonly string[]): Layer {
	const texts = faces
		.filter((f) => wanted.length === 0 || wanted.includes(f.key))
		.map(({ mark, nodes: { position } }): DrawnText => {
			const count = position.length / 3;
			let [x, y] = [0, 0];
			for (let n = 0; n < count; n++) [x, y] = [x + position[n * 3]! / count, y + position[n * 3 + 1]! / count];
			return { x, y, height: 0, text: mark };
		});
	return { name: 'names', kind: 'titles', lines: [], texts };
}

/** What a view shows, with its bearing or height. */
function viewWords(view: DrawnView, { units }: Project): string {
	const word = VIEW_WORDS[view.kind];
	const bearing = 'bearing' in view ? `${Math.round(((((view.bearing * 180) / Math.PI) % 360) + 360) % 360)}°` : '';
	switch (view.kind) {
		case 'elevation':
			return `${word} facing ${bearing}`;
		case 'section':
			return `${word} facing ${bearing}, ${printFull(view.at, 'length', units)} before the middle`;
		case 'plan':
			return view.height === undefined ? `${word} from above` : `${word} at ${printFull(view.height, 'length', units)}`;
		case 'developed':
			return word;
	}
}

/** An arrow to the north, which is along y. */
function addNorth({ paths, texts }: PageItems, { x, y, width, height }: Area): void {
	const [tip, top] = [x + width - 6, y + height - 2];
	paths.push({ lines: [[tip, top, tip - 2.5, top - 9, tip, top - 7]], closed: true, fill: INK });
	paths.push({ lines: [[tip, top, tip + 2.5, top - 9, tip, top - 7]], closed: true, colour: INK, weight: 0.18 });
	texts.push({ x: tip, y: top - 13, height: 2.2, text: 'N', anchor: 'middle', colour: ACCENT, bold: true });
}

/** mm: of a field of the legend, the room for its words, and between its rows. */
const [FIELD, WORDS, ROW] = [4, 42, 5.5];

/** What colours stand for, at the lower end of an area; answers what is left of it. */
function addLegend({ paths, texts }: PageItems, { title, legend }: CellColours, { x, y, width, height }: Area): Area {
	const columns = Math.max(1, Math.min(legend.length, Math.floor(width / (FIELD + WORDS))));
	const rows = Math.ceil(legend.length / columns);
	texts.push({ x, y: y + rows * ROW + 1, height: 2, text: title, bold: true, colour: INK });
	legend.forEach(({ colour, text }, k) => {
		const cx = x + (k % columns) * (FIELD + WORDS);
		const cy = y + (rows - 1 - Math.floor(k / columns)) * ROW;
		paths.push(boxPath({ x: cx, y: cy, width: FIELD, height: FIELD }, { fill: colour, colour: INK, weight: 0.13 }));
		texts.push({ x: cx + FIELD + 1.5, y: cy + 1.1, height: 1.7, text: fitted(text, 1.7, WORDS - 3), colour: INK });
	});
	const taken = rows * ROW + 6;
	return { x, y: y + taken, width, height: height - taken };
}
