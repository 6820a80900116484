/** A panel's mark: the face's own mark, then row and column counted from 1, such as `C1-07-13`. */
export function cellMark(faceMark: string, row: number, column: number): string {
	return `${faceMark}-${pad(row + 1)}-${pad(column + 1)}`;
}

const pad = (n: number) => (n < 10 ? `0${n}` : String(n));
