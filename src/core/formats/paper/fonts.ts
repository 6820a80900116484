import fontkit from '@pdf-lib/fontkit';
import type { PDFDocument, PDFFont } from 'pdf-lib';

/** Files of the application's font by the letters that each has, in the order in which they are tried. */
export const FONT_PARTS = ['latin', 'latin-ext', 'greek', 'cyrillic', 'cyrillic-ext', 'vietnamese'] as const;
export type FontPart = (typeof FONT_PARTS)[number];
export type FontWeight = 400 | 600;

/** Where fonts come from: WOFF, one for each part and weight. */
export type FontFiles = (part: FontPart, weight: FontWeight) => Promise<Uint8Array>;

interface Run {
	readonly font: PDFFont;
	readonly text: string;
}

/** A file with the letters that it has. */
interface FontFile {
	readonly bytes: Uint8Array;
	readonly letters: ReadonlySet<number>;
}

/** Stands for a letter that no font of the application has. */
const UNKNOWN = '\u25a1';
const PLAIN_UNKNOWN = '?';

/** The application's font in a document: a part is embedded when a letter of it is written. */
export class Fonts {
	private readonly document: PDFDocument;
	private readonly load: FontFiles;
	private readonly files = new Map<string, Promise<FontFile>>();
	private readonly embedded = new Map<FontFile, Promise<PDFFont>>();
	private readonly partOf = new Map<string, Run | undefined>();

	constructor(document: PDFDocument, load: FontFiles) {
		this.document = document;
		this.load = load;
	}

	/** A text in pieces, each with the font that has its letters. */
	async runsOf(text: string, bold: boolean): Promise<Run[]> {
		const runs: Run[] = [];
		for (const letter of text.normalize('NFC')) {
			const { font, text: shown } = await this.letter(letter, bold);
			const last = runs.at(-1);
			if (last?.font === font) runs[runs.length - 1] = { font, text: last.text + shown };
			else runs.push({ font, text: shown });
		}
		return runs;
	}

	private async letter(letter: string, bold: boolean): Promise<Run> {
		const key = `${bold} ${letter}`;
		const known = this.partOf.get(key);
		if (known) return known;
		const found =
			(await this.find(letter, bold)) ?? (await this.find(UNKNOWN, bold)) ?? (await this.find(PLAIN_UNKNOWN, bold))!;
		this.partOf.set(key, found);
		return found;
	}

	private async find(letter: string, bold: boolean): Promise<Run | undefined> {
		for (const part of FONT_PARTS) {
			const file = await this.file(part, bold ? 600 : 400);
			if (!file.letters.has(letter.codePointAt(0)!)) continue;
			const font = this.embedded.get(file) ?? this.document.embedFont(file.bytes, { subset: true });
			this.embedded.set(file, font);
			return { font: await font, text: letter };
		}
		return undefined;
	}

	private file(part: FontPart, weight: FontWeight): Promise<FontFile> {
		const key = `${part} ${weight}`;
		const there =
			this.files.get(key) ??
			this.load(part, weight).then((bytes) => ({ bytes, letters: new Set(fontkit.create(bytes).characterSet) }));
		this.files.set(key, there);
		return there;
	}
}
