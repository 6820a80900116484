import type { OwnColumn, OwnTable, Summary } from './schema.ts';

const column = (show: string, summary: Summary = 'none'): OwnColumn => ({ kind: 'value', show, summary });
const columns = (...shown: (string | readonly [string, Summary])[]): OwnColumn[] =>
	shown.map((c) => (typeof c === 'string' ? column(c) : column(...c)));

/** A schedule to begin with. */
export type ReadyTable = Omit<OwnTable, 'id'>;

const table = (name: string, of: OwnTable['of'], shown: OwnColumn[], more: Partial<ReadyTable> = {}): ReadyTable => ({
	name,
	of,
	where: [],
	columns: shown,
	groups: [],
	folded: false,
	sort: [],
	...more
});

const SUMS = [
	['barLength', 'sum'],
	['area', 'sum'],
	['weight', 'sum'],
	['cost', 'sum']
] as const;

/** What is on offer: a schedule of one's own starts from one of these. */
export const READY_TABLES: readonly ReadyTable[] = [
	table(
		'Panels',
		'panels',
		columns(
			'mark',
			'storey',
			'zone',
			'kit',
			'width',
			'height',
			['area', 'sum'],
			['warp', 'greatest'],
			['weight', 'sum']
		)
	),
	table(
		'Bars',
		'parts',
		columns('mark', 'role', 'material', 'type', ['length', 'sum'], ['weight', 'sum'], ['cost', 'sum']),
		{
			where: ['shape == "bar" or shape == "joined"'],
			groups: ['face']
		}
	),
	table(
		'Louvers',
		'parts',
		columns('mark', 'storey', 'material', 'type', ['length', 'sum'], ['weight', 'sum'], ['cost', 'sum']),
		{
			where: ['role == "louver"']
		}
	),
	table(
		'Connectors',
		'parts',
		columns('mark', 'face', 'part', 'material', 'type', 'towards', ['weight', 'sum'], ['cost', 'sum']),
		{
			where: ['role == "connector"']
		}
	),
	table(
		'Cut panels',
		'panels',
		columns('mark', 'kit', 'share', 'width', 'height', ['area', 'sum'], ['weight', 'sum']),
		{
			where: ['share < 1'],
			groups: ['face'],
			sort: [{ by: 'share', descending: false }]
		}
	),
	table(
		'Openings',
		'openings',
		columns('mark', 'storey', 'width', 'height', ['around', 'sum'], ['area', 'sum'], 'sill', 'head'),
		{ groups: ['face'] }
	),
	table('Nodes', 'nodes', columns('mark', 'face', 'kit', 'valence', 'elevation', ['weight', 'sum'])),
	table('Materials', 'parts', columns(...SUMS), { groups: ['material', 'role'], folded: true }),
	table('Types of pieces', 'parts', columns(['length', 'mean'], ['area', 'mean'], ['weight', 'sum'], ['cost', 'sum']), {
		groups: ['role', 'type'],
		folded: true
	}),
	table('Storeys', 'parts', columns(...SUMS), { groups: ['storey', 'role'], folded: true })
];
