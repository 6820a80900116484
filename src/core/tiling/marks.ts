/**
 * A panel's mark: the face's own mark, then row and column counted from 1, such as `C1-07-13`; pieces of one
 * cell have a letter behind, such as `C1-07-13b`.
 */
export function cellMark(faceMark: string, row: number, column: number, piece = 0): string {
	return `${faceMark}-${pad(row + 1)}-${pad(column + 1)}${pieceLetter(piece)}`;
}

/** The letter of a piece counted from 1; nothing for the only one. */
export const pieceLetter = (piece: number) => (piece === 0 ? '' : String.fromCharCode(96 + piece));

const pad = (n: number) => (n < 10 ? `0${n}` : String(n));
