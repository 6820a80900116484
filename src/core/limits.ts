/** Cells that one project may have; beyond this a browser's memory is at risk. */
export const MOST_CELLS = 2_000_000;

/** Characters of a project's JSON at most. */
export const MOST_CHARACTERS = 500 * 1024 * 1024;
