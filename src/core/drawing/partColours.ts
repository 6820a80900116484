/** Colours that colour-blind people can tell apart. Source: Okabe & Ito, Color Universal Design, 2008 (memory). */
const COLOURS = ['#E69F00', '#56B4E9', '#009E73', '#F0E442', '#0072B2', '#D55E00', '#CC79A7', '#999999'];

/** Colour of a part by its number. */
export const partColour = (k: number): string => COLOURS[k % COLOURS.length]!;
