import type { Kit } from '../../core/kit/schema.ts';
import type { Project } from '../../core/project/schema.ts';
import { quantityOf } from '../../core/schedule/own/kitValues.ts';
import { parseQuantity } from '../../core/units/parse.ts';
import { printFull } from '../../core/units/print.ts';
import type { RowPlacement } from '../worker/ownTables.ts';

const PLAIN = /^[-−]?[\d\s\u202f]*[.,]?\d+$/u;

/** Reads what was typed for a parameter in a row: a bare figure counts in the unit of the column, others say theirs. */
export function parseRowValue(
	text: string,
	parameter: Kit['parameters'][number],
	per: number,
	unit: Project['units']
): { value: number } | { error: string } {
	const quantity = quantityOf(parameter);
	if (!quantity) return { error: `${parameter.label} is no figure.` };
	const plain = text.trim();
	const read = PLAIN.test(plain)
		? {
				value:
					Number(
						plain
							.replace(/[\s\u202f]/gu, '')
							.replace('−', '-')
							.replace(',', '.')
					) * per
			}
		: parseQuantity(plain, quantity, unit);
	if ('error' in read) return read;
	const { least, greatest } = parameter as { least: number; greatest: number };
	if (read.value >= least && read.value <= greatest) return read;
	const [low, high] = [least, greatest].map((v) => printFull(v, quantity, unit));
	return { error: `${parameter.label} is from ${low} to ${high}; ${printFull(read.value, quantity, unit)} is not.` };
}

/** The set in which a kit stands on a host: that of its rule, or of what is set by hand there. */
export const setOfRow = ({ rules, overrides }: Pick<Project, 'rules' | 'overrides'>, { rule, kit }: RowPlacement) =>
	rules.find((r) => r.id === rule)?.set ?? overrides.findLast((o) => o.kit === kit)?.set;
