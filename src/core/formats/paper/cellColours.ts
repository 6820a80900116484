import { interpolateViridis } from 'd3-scale-chromatic';
import type { CellFill } from '../../drawing/developedDrawing.ts';
import { partColour } from '../../drawing/partColours.ts';
import type { Model } from '../../project/pipeline.ts';
import type { LengthUnit } from '../../units/quantity.ts';
import { READINGS, readingsOf, type ReadingName } from '../../readings/faceReadings.ts';
import { classOf, spreadOf } from '../../readings/spread.ts';
import { NO_ROW } from '../../schedule/faceTable.ts';
import { printFull } from '../../units/print.ts';

/** How cells are coloured, and what the colours stand for. */
export interface CellColours {
	readonly fillOf: CellFill;
	readonly title: string;
	readonly legend: readonly { readonly colour: string; readonly text: string }[];
}

const CLASSES = 8;
/** Towards white, so that lines and marks are read on it. */
const LIGHTER = 0.55;

/** The colours of cells of some faces by a sheet's setting: `none`, `kit`, or a reading of cells; nothing where there is no such reading. */
export function cellColours(faces: Model['faces'], colour: string, unit: LengthUnit): CellColours | undefined {
	if (colour === 'none') return undefined;
	if (colour === 'kit') return byKit(faces);
	const reading = READINGS[`cell.${colour}` as ReadingName];
	if (!Object.hasOwn(READINGS, `cell.${colour}`)) return undefined;
	const columns = faces.map((face) => readingsOf(face).column(`cell.${colour}` as ReadingName));
	const { count, least, greatest } = spreadOf(columns);
	if (count === 0) return undefined;
	const palette = Array.from({ length: CLASSES }, (_, k) => lighter(rgb(interpolateViridis(k / (CLASSES - 1)))));
	const at = (k: number) => printFull(least + ((greatest - least) * k) / CLASSES, reading.quantity, unit);
	const byFace = new Map(faces.map((face, f) => [face, columns[f]!]));
	return {
		fillOf: (face, cell) => palette[classOf(byFace.get(face)?.[cell] ?? NaN, least, greatest, CLASSES)],
		title: reading.label,
		legend: palette.map((colour, k) => ({ colour, text: `${at(k)} to ${at(k + 1)}` }))
	};
}

function byKit(faces: Model['faces']): CellColours {
	const names = [...new Set(faces.flatMap(({ schedule }) => schedule.tables.panels.words.kit!.words))].sort();
	const colours = new Map(names.map((name, k) => [name, lighter(hexToRgb(partColour(k)))]));
	return {
		fillOf: ({ schedule: { tables } }, cell) => {
			const { rowOf, words } = tables.panels;
			const row = rowOf[cell]!;
			return row === NO_ROW ? undefined : colours.get(words.kit!.words[words.kit!.index[row]!]!);
		},
		title: 'Kit',
		legend: names.map((text) => ({ colour: colours.get(text)!, text }))
	};
}

type Rgb = readonly number[];
const rgb = (colour: string): Rgb =>
	colour.startsWith('#') ? hexToRgb(colour) : (colour.match(/\d+/g) ?? []).slice(0, 3).map(Number);
const hexToRgb = (hex: string): Rgb => [1, 3, 5].map((k) => parseInt(hex.slice(k, k + 2), 16));
const lighter = (colour: Rgb): string =>
	`#${colour
		.map((v) =>
			Math.round(v + (255 - v) * LIGHTER)
				.toString(16)
				.padStart(2, '0')
		)
		.join('')}`;
