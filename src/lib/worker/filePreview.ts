import { parse } from 'csv-parse/browser/esm/sync';
import { joined } from '../../core/formats/sink.ts';
import { optionsOf } from '../../core/formats/fileOptions.ts';
import type { Format } from '../../core/formats/format.ts';
import { readOptions, WRITERS } from '../../core/formats/writers.ts';
import type { WriterInput } from '../../core/formats/writerInput.ts';

/** How a file begins, or what it shows. */
export type FilePreview =
	| { readonly kind: 'rows'; readonly rows: readonly (readonly string[])[]; readonly more: boolean }
	| { readonly kind: 'text'; readonly text: string; readonly more: boolean }
	| { readonly kind: 'picture'; readonly svg: Uint8Array<ArrayBuffer>; readonly note: string | undefined }
	/** There is nothing for it, or it cannot be made. */
	| { readonly kind: 'nothing'; readonly reason: string };

/** Bytes of texts that are looked at. */
const ENOUGH = 48_000;
/** Bytes of pictures that a browser shows in a moment. */
const MOST_PICTURE = 8_000_000;

/** Pictures that stand for others which no browser shows. */
const PICTURES: Readonly<Partial<Record<Format, Format>>> = {
	dxf: 'svg',
	svg: 'svg',
	cuts: 'cutsvg',
	cutsvg: 'cutsvg'
};
/** The first table of a spreadsheet. */
const FIRST: Readonly<Partial<Record<Format, Format>>> = { xlsx: 'csv' };

/** Types of pieces that are shown of cut sheets. */
const CUT_TYPES = 24;
/** Lines are as wide as a pixel at least, however small all of it is shown. */
const SEEN = '<style>path{vector-effect:non-scaling-stroke;stroke-width:0.8px}</style>';
const seenFromAfar = (svg: Uint8Array): Uint8Array<ArrayBuffer> =>
	new TextEncoder().encode(new TextDecoder().decode(svg).replace('</title>', `</title>${SEEN}`));

class Enough extends Error {}

/** The first bytes of a file: writing ends once there are so many. */
async function begun(input: WriterInput, format: Format, options: unknown, most: number) {
	const chunks: Uint8Array<ArrayBuffer>[] = [];
	let size = 0;
	try {
		await WRITERS[format].write(input, options, (chunk) => {
			chunks.push(chunk.slice());
			size += chunk.length;
			if (size >= most) throw new Enough();
		});
	} catch (cause) {
		if (!(cause instanceof Enough)) throw cause;
		return { bytes: joined(chunks), more: true };
	}
	return { bytes: joined(chunks), more: false };
}

/** What a file of the handover will look like, with the options that the project has chosen. */
export async function filePreview(input: WriterInput, format: Format, table?: string): Promise<FilePreview> {
	const shown = PICTURES[format] ?? FIRST[format] ?? format;
	const reason = WRITERS[format].missing(input);
	if (reason !== undefined) return { kind: 'nothing', reason };
	const options = readOptions(shown, {
		...optionsOf(input.project, shown, table),
		...(shown === 'cutsvg' ? { most: CUT_TYPES } : {})
	});
	if (PICTURES[format]) {
		const { bytes, more } = await begun(input, shown, options, MOST_PICTURE);
		return more
			? { kind: 'nothing', reason: 'It is too large to be shown here; the file itself has all of it.' }
			: {
					kind: 'picture',
					svg: seenFromAfar(bytes),
					note: shown === 'cutsvg' ? `The first ${CUT_TYPES} types; the file has all.` : undefined
				};
	}
	const { bytes, more } = await begun(input, shown, options, ENOUGH);
	const text = new TextDecoder().decode(bytes);
	if (WRITERS[shown].extension !== 'csv') return { kind: 'text', text, more };
	// What was cut off in the middle of a line is left out.
	const whole = more ? text.slice(0, text.lastIndexOf('\n') + 1) : text;
	return { kind: 'rows', rows: parse(whole, { bom: true, relaxColumnCount: true }), more };
}
