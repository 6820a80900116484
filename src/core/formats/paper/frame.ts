import { PAPERS, type Sheet } from '../../project/sheets.ts';
import type { LengthUnit } from '../../units/quantity.ts';
import { group } from '../../units/print.ts';
import { titleOf, type IssueTitle } from '../writerInput.ts';
import { boxPath, fitted, INK, SOFT, type Area, type PageItems } from './page.ts';

/** mm around the frame: wider at the left, where sheets are filed. Source: ISO 5457. */
const [FILED, AROUND] = [20, 10];
/** mm: the title block's width, as ISO 7200 has it, and its height here. */
const [BLOCK_WIDTH, BLOCK_HEIGHT] = [180, 32];
/** mm between the drawing, the frame and the title block. */
const GAP = 6;
const FRAME = { colour: INK, weight: 0.7 };
const RULE = { colour: INK, weight: 0.25 };

/** A sheet's paper as it lies, mm. */
export function paperOf({ paper, across }: Pick<Sheet, 'paper' | 'across'>): { width: number; height: number } {
	const [short, long] = PAPERS[paper];
	return across ? { width: long, height: short } : { width: short, height: long };
}

/** Within the frame of a sheet. */
function within(sheet: Pick<Sheet, 'paper' | 'across'>): Area {
	const { width, height } = paperOf(sheet);
	return { x: FILED, y: AROUND, width: width - FILED - AROUND, height: height - 2 * AROUND };
}

/** Where a sheet's drawing goes: within the frame, above the title block. */
export function drawingArea(sheet: Pick<Sheet, 'paper' | 'across'>): Area {
	const { x, y, width, height } = within(sheet);
	return {
		x: x + GAP,
		y: y + BLOCK_HEIGHT + GAP,
		width: width - 2 * GAP,
		height: height - BLOCK_HEIGHT - 2 * GAP
	};
}

/** What the title block says. */
export interface Title {
	readonly project: string;
	readonly sheet: string;
	/** What it shows, such as Elevation. */
	readonly view: string;
	/** 1 to so many; nothing of schedules. */
	readonly scale: number | undefined;
	/** Of the sheet, and behind a point of its page. */
	readonly number: string;
	readonly of: number;
	readonly issue: IssueTitle | undefined;
}

/** The frame and the title block, with the fields of ISO 7200 that are known here. */
export function addFrame(items: PageItems, sheet: Pick<Sheet, 'paper' | 'across'>, title: Title): void {
	const inner = within(sheet);
	items.paths.push(boxPath(inner, FRAME));
	const width = Math.min(BLOCK_WIDTH, inner.width);
	const [left, low] = [inner.x + inner.width - width, inner.y];
	items.paths.push(boxPath({ x: left, y: low, width, height: BLOCK_HEIGHT }, { ...FRAME, fill: '#ffffff' }));
	const row = BLOCK_HEIGHT / 3;
	const columns = [0, 0.5, 0.72, 0.86].map((share) => left + width * share);
	const line = (...points: number[]) => items.paths.push({ lines: [points], ...RULE });
	line(left, low + row, left + width, low + row);
	line(left, low + 2 * row, left + width, low + 2 * row);
	for (const x of columns.slice(1)) line(x, low, x, low + row);
	line(columns[1]!, low + row, columns[1]!, low + 2 * row);
	const field = (label: string, text: string, x: number, y: number, room: number, height = 2.5, bold = false) => {
		items.texts.push({ x: x + 2, y: y + row - 3.4, height: 1.3, text: label, colour: SOFT });
		items.texts.push({ x: x + 2, y: y + 2.2, height, text: fitted(text, height, room - 4), bold, colour: INK });
	};
	const { issue } = title;
	if (issue) addIssues(items, issue, inner);
	field('Project', title.project, left, low + 2 * row, width, 3.2, true);
	field('Sheet', title.sheet, left, low + row, width / 2, 2.5, true);
	field('Shows', title.view, columns[1]!, low + row, width / 2);
	field('Issue', issue ? titleOf(issue) : 'not issued', left, low, width * 0.5);
	field('Date, author', issue ? `${issue.date} ${issue.author}` : '–', columns[1]!, low, width * 0.22, 1.8);
	field(
		'Scale, paper',
		`${title.scale ? `1 : ${title.scale}` : '–'}, ${sheet.paper}`,
		columns[2]!,
		low,
		width * 0.14,
		1.8
	);
	field('Number', `${title.number} of ${title.of}`, columns[3]!, low, width * 0.14);
}

/** mm: of the table of issues beside the title block, of its rows, and the room that is left for the bar. */
const [ISSUES_WIDTH, ISSUE_ROW, BAR_ROOM] = [92, 4.5, 105];
const MOST_ISSUES = Math.floor(BLOCK_HEIGHT / ISSUE_ROW) - 1;

/** The last issues beside the title block, the newest lowest, where the paper has room for them. */
function addIssues(
	{ paths, texts }: PageItems,
	{ mark, name, author, date, earlier = [] }: IssueTitle,
	inner: Area
): void {
	const left = inner.x + inner.width - BLOCK_WIDTH - ISSUES_WIDTH;
	if (left < inner.x + BAR_ROOM) return;
	const rows = [...earlier, { mark, name, author, date }].slice(-MOST_ISSUES).reverse();
	const columns = [0, 10, 52, 72].map((x) => left + x);
	const write = (words: readonly string[], row: number, look: { readonly colour: string; readonly height: number }) =>
		words.forEach((word, c) => {
			const room = (columns[c + 1] ?? left + ISSUES_WIDTH) - columns[c]!;
			const text = fitted(word, look.height, room - 2);
			texts.push({ x: columns[c]! + 1, y: inner.y + row * ISSUE_ROW + 1.3, text, ...look });
		});
	rows.forEach((issue, k) => {
		const y = inner.y + (k + 1) * ISSUE_ROW;
		paths.push({ lines: [[left, y, left + ISSUES_WIDTH, y]], ...RULE });
		write([issue.mark, issue.name, issue.date, issue.author], k, { colour: INK, height: 1.6 });
	});
	write(['Issue', 'Name', 'Date', 'Author'], rows.length, { colour: SOFT, height: 1.3 });
}

/** Lengths that a bar for measuring may have: 1, 2 or 5 times a power of ten. */
const STEPS = [1, 2, 5];
/** mm on paper that it is to be long at most. */
const LONGEST_BAR = 80;

/** The longest bar for measuring that has room, mm of the building. */
export function barLength(scale: number): number {
	let best = 1;
	for (let power = 1; power * 1 <= LONGEST_BAR * scale; power *= 10)
		for (const step of STEPS) if (step * power <= LONGEST_BAR * scale) best = step * power;
	return best;
}

/** A bar for measuring at the lower left, in metres or feet. */
export function addScaleBar(
	items: PageItems,
	sheet: Pick<Sheet, 'paper' | 'across'>,
	scale: number,
	unit: LengthUnit
): void {
	const feet = unit === 'ft-in';
	const per = feet ? MM_A_FOOT : 1000;
	// In whole steps of the unit that is written.
	const length = (barLength((scale * 1000) / per) * per) / 1000;
	const { x, y } = within(sheet);
	const [left, low, high] = [x + GAP, y + GAP + 6, 1.6];
	const on = length / scale;
	const digits = length / per < 5 ? 2 : 1;
	for (const k of [0, 1])
		items.paths.push(
			boxPath(
				{ x: left + (k * on) / 2, y: low, width: on / 2, height: high },
				{ ...RULE, ...(k === 0 ? { fill: INK } : { fill: '#ffffff' }) }
			)
		);
	const label = (share: number) =>
		items.texts.push({
			x: left + share * on,
			y: low - 4,
			height: 2,
			text: `${group((length * share) / per, share === 0 ? 0 : digits)}${share === 1 ? (feet ? ' ft' : ' m') : ''}`,
			anchor: 'middle',
			colour: INK
		});
	for (const share of [0, 0.5, 1]) label(share);
}
const MM_A_FOOT = 304.8;
