import type { z } from 'zod';
import type { Drawing } from '../drawing/drawing.ts';
import { ZygasterError } from '../errors.ts';
import { ONE_SIDED } from '../schedule/parts.ts';
import type { Sink } from './sink.ts';
import { writer, type Writer } from './writer.ts';
import type { WriterInput } from './writerInput.ts';
import { cutSheetOptions, drawingOptions, pdfOptions, svgOptions } from './writerOptions.ts';

/** The sheets that are asked for, in the project's order. */
function sheetsOf({ project }: WriterInput, { sheets }: z.output<typeof pdfOptions>) {
	const all = project.handover.sheets;
	const unknown = sheets?.find((id) => all.every((s) => s.id !== id));
	if (unknown !== undefined)
		throw new ZygasterError('options', `There is no sheet “${unknown}”; known: ${all.map((s) => s.id).join(', ')}.`);
	return all.filter((s) => !sheets || sheets.includes(s.id));
}

/** A writer of thin pieces as they are cut. */
const cutWriter = (
	write: (drawing: Drawing, sink: Sink) => Promise<void>,
	rest: Pick<Writer, 'label' | 'help' | 'extension' | 'media' | 'onAsking'>
): Writer =>
	writer(
		cutSheetOptions,
		async ({ project, model }, choice, sink) => {
			const { cutDrawing } = await import('../drawing/cutDrawing.ts');
			return write(cutDrawing(project, model, choice), sink);
		},
		{
			name: 'cuts',
			missing: ({ model }) =>
				model.faces.some((f) => f.placements.some((p) => p.parts.some((part) => ONE_SIDED.has(part.kind))))
					? undefined
					: 'There is nothing to be cut from sheets: no kit makes thin pieces.',
			...rest
		}
	);

/** A writer of a drawing: of the faces laid flat, or of a sheet. */
const drawingWriter = <Schema extends typeof drawingOptions>(
	options: Schema,
	write: (drawing: Drawing, options: z.output<Schema>, sink: Sink) => Promise<void>,
	rest: Pick<Writer, 'label' | 'help' | 'extension' | 'media'>
): Writer =>
	writer(
		options,
		async (input, given, sink) => {
			const { sheet: id } = given as z.output<typeof drawingOptions>;
			if (id === undefined) {
				const { developedDrawing } = await import('../drawing/developedDrawing.ts');
				return write(developedDrawing(input.project, input.model), given, sink);
			}
			const [sheet] = sheetsOf(input, { sheets: [id] });
			return write((await import('./paper/pagesOf.ts')).drawingOfSheet(input, sheet!), given, sink);
		},
		{
			name: 'developed',
			missing: ({ model }) => (model.faces.length ? undefined : 'There is nothing to be drawn: no face is divided.'),
			...rest
		}
	);

/** Drawings in the plane. */
export const DRAWING_WRITERS = {
	dxf: drawingWriter(
		drawingOptions,
		async (drawing, _, sink) => (await import('./dxf/writeDxf.ts')).writeDxf(drawing, sink),
		{
			label: 'Developed view as DXF',
			help: 'Faces laid flat side by side: grid, borders, openings, levels and marks on layers; mm',
			extension: 'dxf',
			media: 'image/vnd.dxf'
		}
	),
	svg: drawingWriter(
		svgOptions,
		async (drawing, { scale }, sink) => (await import('./svg/writeSvg.ts')).writeSvg(drawing, scale, sink),
		{
			label: 'Developed view as SVG',
			help: 'The same as a picture at a scale',
			extension: 'svg',
			media: 'image/svg+xml'
		}
	),
	cuts: cutWriter(async (drawing, sink) => (await import('./dxf/writeDxf.ts')).writeDxf(drawing, sink), {
		label: 'Cut sheets as DXF',
		help: 'Thin pieces laid flat one to one, one of each type: cuts, holes, lines to be bent along, marks; mm',
		extension: 'dxf',
		media: 'image/vnd.dxf'
	}),
	cutsvg: cutWriter(async (drawing, sink) => (await import('./svg/writeSvg.ts')).writeSvg(drawing, 1, sink), {
		label: 'Cut sheets as SVG',
		help: 'The same as a picture one to one',
		extension: 'svg',
		onAsking: true,
		media: 'image/svg+xml'
	}),
	pdf: writer(
		pdfOptions,
		async (input, options, sink) => {
			const [{ pagesOf }, { writePdf }] = await Promise.all([
				import('./paper/pagesOf.ts'),
				import('./paper/writePdf.ts')
			]);
			const { fonts } = input;
			if (!fonts) throw new Error('PDF needs the fonts of the application');
			await writePdf(input, pagesOf(input, sheetsOf(input, options)), fonts, sink);
		},
		{
			label: 'Sheets',
			help: 'The drawings of the project on paper, at their scales, with title blocks',
			name: 'sheets',
			extension: 'pdf',
			media: 'application/pdf',
			missing: ({ project }) =>
				project.handover.sheets.length ? undefined : 'There is no sheet yet; add one in Handover first.'
		}
	)
};
