/** A line on paper, or an area: mm from the lower left corner, y upwards. */
export interface PagePath {
	/** Stride 2. */
	readonly lines: readonly (readonly number[])[];
	readonly closed?: boolean;
	readonly colour?: string;
	/** mm */
	readonly weight?: number;
	/** Lengths of dashes and gaps, mm. */
	readonly dash?: readonly number[];
	readonly fill?: string;
}

/** A text on paper. */
export interface PageText {
	/** On its base line, mm. */
	readonly x: number;
	readonly y: number;
	/** Of capitals, mm. */
	readonly height: number;
	readonly text: string;
	readonly anchor?: 'start' | 'middle' | 'end';
	readonly bold?: boolean;
	readonly colour?: string;
	/** Radians anticlockwise. */
	readonly turn?: number;
}

/** A page of a sheet as it is printed. */
export interface Page {
	/** mm */
	readonly width: number;
	readonly height: number;
	/** What it is called, with its scale. */
	readonly title: string;
	/** 1 to so many; nothing where it has none. */
	readonly scale: number | undefined;
	readonly paths: readonly PagePath[];
	readonly texts: readonly PageText[];
	/** What its reader should know: of scales that do not fit, of what is missing. */
	readonly notes: readonly string[];
}

/** A rectangle on paper, mm. */
export interface Area {
	readonly x: number;
	readonly y: number;
	readonly width: number;
	readonly height: number;
}

/** What is put on a page. */
export interface PageItems {
	readonly paths: PagePath[];
	readonly texts: PageText[];
	readonly notes: string[];
}
export const noItems = (): PageItems => ({ paths: [], texts: [], notes: [] });

export const INK = '#1c2b2d';
export const SOFT = '#5d6b6d';
export const ACCENT = '#2b7a73';

/** A rectangle as a path. */
export const boxPath = ({ x, y, width, height }: Area, look: Omit<PagePath, 'lines' | 'closed'>): PagePath => ({
	lines: [[x, y, x + width, y, x + width, y + height, x, y + height]],
	closed: true,
	...look
});

/** A text no longer than a width, mm: what does not fit is left out, and dots say so. */
export function fitted(text: string, height: number, width: number): string {
	const most = Math.floor(width / (height * LETTER));
	const letters = [...text];
	return letters.length <= most
		? text
		: `${letters
				.slice(0, Math.max(0, most - 1))
				.join('')
				.trimEnd()}…`;
}

/** Height of capitals over the size of letters, as the application's font has it. */
export const CAPITALS = 0.698;

/** Width of a letter over the height of capitals, about, as the application's own font has it. */
const LETTER = 0.82;
export const textWidth = (text: string, height: number): number => [...text].length * height * LETTER;
