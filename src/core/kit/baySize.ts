import { z } from 'zod';

const fields = z.int().min(1).max(24);

/** How many fields of the grid a bay has side by side and one over the other; one alone is a cell. */
export const baySize = { across: fields, up: fields };

export interface BaySize {
	readonly across: number;
	readonly up: number;
}

/** How many points a bay has. */
export const bayPoints = ({ across, up }: BaySize) => (across + 1) * (up + 1);

/** The points around a bay, anticlockwise from outside, as numbers of its points row by row from the lower left. */
export function bayBorder({ across, up }: BaySize): number[] {
	const at = (i: number, j: number) => j * (across + 1) + i;
	return [
		...Array.from({ length: across }, (_, k) => at(k, 0)),
		...Array.from({ length: up }, (_, k) => at(across, k)),
		...Array.from({ length: across }, (_, k) => at(across - k, up)),
		...Array.from({ length: up }, (_, k) => at(0, up - k))
	];
}
