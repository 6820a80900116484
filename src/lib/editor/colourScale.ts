import { interpolatePuOr, interpolateRainbow, interpolateViridis } from 'd3-scale-chromatic';
import type { ReadingDefinition } from '../../core/readings/definition.ts';
import { classOf } from '../../core/readings/spread.ts';
import { partColour } from '../../core/drawing/partColours.ts';

/** Even from dark to light; or away from a neutral middle to both sides. */
export type ColourLook = 'even' | 'diverging';

/** How values become colours: so many classes between two limits, each with its colour. */
export interface ColourScale {
	readonly from: number;
	readonly to: number;
	/** `#rrggbb`, by class. */
	readonly palette: readonly string[];
	/** Words for the classes of a reading that tells kinds apart. */
	readonly kinds?: readonly string[];
}

/** Classes of a scale without steps: more than the eye tells apart. */
const SMOOTH = 128;
/** Class of a host without a value. */
export const NO_CLASS = 255;

const LOOKS: Readonly<Record<ColourLook | 'cyclic', (t: number) => string>> = {
	even: interpolateViridis,
	diverging: interpolatePuOr,
	cyclic: interpolateRainbow
};

/** A scale between two limits in so many steps, smooth for 0. Kinds have a colour each. */
export function colourScale(
	reading: Pick<ReadingDefinition, 'cyclic'>,
	look: ColourLook,
	from: number,
	to: number,
	steps: number,
	kinds?: readonly string[]
): ColourScale {
	if (kinds) return { from: -0.5, to: kinds.length - 0.5, palette: kinds.map((_, k) => partColour(k)), kinds };
	const classes = steps || SMOOTH;
	const colour = LOOKS[reading.cyclic ? 'cyclic' : look];
	// The middle of each class; of two or more steps the first and last have the ends of the scale.
	const share = (k: number) => (steps > 1 ? k / (steps - 1) : (k + 0.5) / classes);
	return { from, to, palette: Array.from({ length: classes }, (_, k) => hex(colour(share(k)))) };
}

/** The class of each value, by host; NO_CLASS for none. O(n). */
export function classesOf(values: ArrayLike<number>, { from, to, palette }: ColourScale): Uint8Array {
	const classes = new Uint8Array(values.length);
	for (let k = 0; k < values.length; k++) {
		const at = classOf(values[k]!, from, to, palette.length);
		classes[k] = at < 0 ? NO_CLASS : at;
	}
	return classes;
}

/** `rgb(r, g, b)` or `#rrggbb` as `#rrggbb`. */
function hex(colour: string): string {
	const parts = /^rgb\((\d+), (\d+), (\d+)\)$/.exec(colour);
	return parts
		? `#${parts
				.slice(1)
				.map((p) => Number(p).toString(16).padStart(2, '0'))
				.join('')}`
		: colour;
}
