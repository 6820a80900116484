import type { KitHost } from './schema.ts';

/** The greatest number of corners that a kit can name; one that does takes any, as cells have many along round openings. */
export const MOST_CORNERS = 64;

type WithCorners = Pick<Extract<KitHost, { leastCorners: number }>, 'leastCorners' | 'greatestCorners'>;

/** Whether a kit is made for hosts of so many corners; those that are no cells have none to count. */
export const takesCorners = (host: KitHost, corners: number): boolean =>
	!('leastCorners' in host) ||
	(corners >= host.leastCorners && (corners <= host.greatestCorners || host.greatestCorners >= MOST_CORNERS));

/** How many corners a kit is made for, in words. */
export function cornersInWords({ leastCorners: least, greatestCorners: greatest }: WithCorners): string {
	if (least === greatest) return `${least} corners`;
	return greatest >= MOST_CORNERS ? `${least} corners or more` : `${least} to ${greatest} corners`;
}
