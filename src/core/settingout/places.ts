import type { NodeTable } from './nodes.ts';

/** Whether parameters stand by column and by row, not by place: a grid has two columns and two rows at least. */
export const isTensor = ({ us, vs, columns, rows }: Pick<NodeTable, 'us' | 'vs' | 'columns' | 'rows'>): boolean =>
	us.length === columns && vs.length === rows;
