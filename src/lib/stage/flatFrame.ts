import type { FlatPoint } from './flatScene.ts';

/** Where the flat face is on the canvas: pixel = (x - left) * scale across, (top - y) * scale down. */
export interface FlatFrame {
	readonly left: number;
	readonly top: number;
	/** Pixels a mm. */
	readonly scale: number;
	/** Of the canvas, in pixels of the page. */
	readonly width: number;
	readonly height: number;
}

export interface FlatColours {
	readonly ink: string;
	readonly soft: string;
	readonly sheet: string;
	readonly patina: string;
	readonly wash: string;
	readonly rust: string;
	readonly ochre: string;
	readonly rule: string;
}

/** How lengths and figures are worded. */
export type PrintLength = (mm: number) => string;

export interface FlatZone {
	readonly name: string;
	readonly colour: string;
	/** Whether a field belongs to it. */
	readonly has: (row: number, column: number) => boolean;
}

export const toPixel = ({ left, top, scale }: FlatFrame, [x, y]: FlatPoint): FlatPoint => [
	(x - left) * scale,
	(top - y) * scale
];

export const toFlat = ({ left, top, scale }: FlatFrame, [px, py]: FlatPoint): FlatPoint => [
	left + px / scale,
	top - py / scale
];

/** Of all text on the flat face. */
export const FONT = '11px "IBM Plex Mono", monospace';
