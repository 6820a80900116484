import type { PartTable } from '../schedule/parts.ts';
import { copyOf } from './buffers.ts';

/** The table of parts of a face as it crosses: what parts look like is left out; materials stand by their ids. */
export type PartView = Pick<PartTable, 'count' | 'hostTable' | 'host' | 'words' | 'columns'>;

/** Copies, so that they can be transferred. O(pieces). */
export const viewParts = ({ count, hostTable, host, words, columns }: PartTable): PartView =>
	copyOf({ count, hostTable, host, words, columns });
