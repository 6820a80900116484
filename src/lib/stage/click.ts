/** A pointer that moved less than this many pixels has clicked, not dragged. */
export const CLICK_PIXELS = 4;
