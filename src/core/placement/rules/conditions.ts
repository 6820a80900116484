import { FormulaError } from '../../kit/formula/parse.ts';
import { dimensionOf, type Dimension } from '../../kit/formula/dimension.ts';
import { slackOf } from '../../same.ts';
import { noiseAt } from '../fields/noise.ts';
import { randomColumn } from '../fields/evaluate.ts';
import type { CellTable } from '../../tiling/cells.ts';
import { bordersOf } from './borders.ts';
import { READINGS_OF_SET } from './ruleHosts.ts';
import type { Condition } from './schema.ts';
import type { RuleScope } from './scope.ts';
import { maskOf, spreadCells, touching, touchedCells } from './spread.ts';

/** What conditions look at beside the hosts themselves. */
export interface ConditionWorld {
	/** Address of the face. */
	readonly key: string;
	/** Fields of the face's grid in a zone, as runs along rows. */
	readonly zone: (id: string) => readonly (readonly [row: number, from: number, to: number])[];
	/** Cells that what an earlier rule has taken are, lie between or touch; nothing where it stands no earlier. */
	readonly taken: (rule: string) => Uint8Array | undefined;
}

/** Where a condition holds: 1 by host. Throws a FormulaError where it cannot be worked out. */
export function holds(condition: Condition, scope: RuleScope, world: ConditionWorld): Uint8Array {
	const { hosts } = scope;
	const { count, face } = hosts;
	const each = (of: (h: number) => boolean) => maskOf(count, of);
	switch (condition.kind) {
		case 'zone':
			return touching(hosts.cells, inRuns(face.cells, world.zone(condition.zone)));
		case 'face':
			return new Uint8Array(count).fill(condition.faces.includes(world.key) ? 1 : 0);
		case 'role': {
			const index = face.cells.roles?.indexOf(condition.role) ?? -1;
			const { role } = face.cells;
			const marked = Uint8Array.from({ length: face.cells.count }, (_, c) =>
				index >= 0 && (role?.[c] ?? 0) === index ? 1 : 0
			);
			return touching(hosts.cells, marked);
		}
		case 'border':
			return bordersOf(hosts, scope.world.openings, condition.state, condition.within);
		case 'lines': {
			const { from, to = Infinity, every } = condition;
			const line = hosts.lineOf(condition.of);
			return each((h) => line[h]! >= from && line[h]! <= to && (line[h]! - from) % every === 0);
		}
		case 'checker': {
			const [row, column] = [hosts.lineOf('row'), hosts.lineOf('column')];
			const odd = condition.odd ? 1 : 0;
			return each((h) => (row[h]! + column[h]!) % 2 === odd);
		}
		case 'reading': {
			const { values, dimension } = readingOf(condition.reading, scope);
			return each(between(values, dimension, condition.from, condition.to));
		}
		case 'rank': {
			const { values } = readingOf(condition.reading, scope);
			const sign = condition.most === 'least' ? 1 : -1;
			const order = [...values.keys()]
				.filter((h) => !Number.isNaN(values[h]!))
				.sort((a, b) => sign * (values[a]! - values[b]!) || a - b);
			const out = new Uint8Array(count);
			for (const h of order.slice(0, condition.count)) out[h] = 1;
			return out;
		}
		case 'share': {
			const { seed, clump, share } = condition;
			const { centres: p } = hosts;
			const chance =
				clump > 0
					? Float64Array.from({ length: count }, (_, h) =>
							noiseAt(seed, clump, p[h * 3]!, p[h * 3 + 1]!, p[h * 3 + 2]!)
						)
					: randomColumn(scope, seed);
			const out = new Uint8Array(count);
			const standing = [...chance.keys()].filter((h) => hosts.stands?.[h] !== 0);
			const order = standing.sort((a, b) => chance[a]! - chance[b]! || a - b);
			for (const h of order.slice(0, Math.round(share * order.length))) out[h] = 1;
			return out;
		}
		case 'beside': {
			const taken = world.taken(condition.rule);
			if (!taken) throw new FormulaError('it asks for the neighbours of a rule that does not stand before it');
			return touching(hosts.cells, spreadCells(face.cells, taken, condition.within));
		}
		case 'field': {
			const { values, dimension } = scope.field(condition.field);
			return each(between(values, dimension, condition.from, condition.to));
		}
		case 'path':
			return each((h) => hosts.kind === 'path' && condition.paths.includes(hosts.drawnBy(h) ?? ''));
		case 'formula': {
			const values = scope.formula(condition.formula, 'yesno');
			return each((h) => values[h] !== 0 && !Number.isNaN(values[h]!));
		}
		case 'any': {
			const all = condition.of.map((c) => holds(c, scope, world));
			return each((h) => all.some((mask) => mask[h] === 1));
		}
		case 'not':
			return holds(condition.of, scope, world).map((h) => 1 - h);
	}
}

/** Cells that what is marked touches, for `ConditionWorld.taken`. */
export const cellsTaken = ({ hosts }: RuleScope, marked: Uint8Array): Uint8Array =>
	touchedCells(hosts.cells, marked, hosts.face.cells.count);

function readingOf(
	name: string,
	{ hosts }: RuleScope
): { readonly values: Float64Array; readonly dimension: Dimension } {
	const values = hosts.reading(name);
	if (!values) throw new FormulaError(`it asks for “${name}”, which ${hosts.kind}s do not have`);
	return { values, dimension: dimensionOf(READINGS_OF_SET[hosts.kind][name]!.quantity) };
}

/** Between two values, both among them; what is the same within the tolerance of what it measures counts as equal. */
function between(values: Float64Array, dimension: Dimension, from = -Infinity, to = Infinity): (h: number) => boolean {
	const slack = slackOf(dimension);
	return (h) => {
		const v = values[h]!;
		return (from === -Infinity || v >= from - slack(v, from)) && (to === Infinity || v <= to + slack(v, to));
	};
}

/** Which cells stand on fields of the grid that are given as runs along rows: 1 by cell. O(cells + runs). */
export function inRuns(
	{ count, row, column }: Pick<CellTable, 'count' | 'row' | 'column'>,
	runs: readonly (readonly [number, number, number])[]
): Uint8Array {
	const byRow = new Map<number, (readonly [number, number, number])[]>();
	for (const run of runs) byRow.set(run[0], [...(byRow.get(run[0]) ?? []), run]);
	return Uint8Array.from({ length: count }, (_, c) => {
		const x = column[c]!;
		return byRow.get(row[c]!)?.some(([, from, to]) => x >= from && x <= to) ? 1 : 0;
	});
}
