// Types, own schedules, comparisons and spreadsheets: part of `npm run bench`.
import { comparePieces, piecesByKey } from '../../src/core/formats/changes/comparePieces.ts';
import { writeFormat } from '../../src/core/formats/writers.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline } from '../../src/core/project/pipeline.ts';
import { rowWorld } from '../../src/core/project/rowWorld.ts';
import { READY_TABLES } from '../../src/core/schedule/own/ready.ts';
import { Rows } from '../../src/core/schedule/own/rows.ts';
import { runTable } from '../../src/core/schedule/own/runTable.ts';
import { cluster } from '../../src/core/schedule/types/cluster.ts';
import { pieceTypes } from '../../src/core/schedule/types/pieceTypes.ts';
import { mediumTolerance } from '../../src/core/schedule/types/tolerance.ts';
import { PAIRS, QUAD } from '../unit/schedule/quads.ts';
import { vaults } from './spine.ts';

const RUNS = 5;
const now = () => performance.now();
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const timeOf = (work: () => unknown) =>
	median(
		Array.from({ length: RUNS }, () => {
			const start = now();
			work();
			return now() - start;
		})
	);
const row = (what: string, ms: number) =>
	console.log(`${what.padEnd(64)}${ms.toFixed(ms < 10 ? 2 : 0).padStart(8)} ms`);

/** Six distances of quads that are all of other sizes, from a generator of its own. */
function unlikeQuads(count: number): Float64Array {
	let seed = 11;
	const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
	const values = new Float64Array(count * 6);
	for (let q = 0; q < count; q++) {
		const [w, h, skew] = [600 + 900 * random(), 800 + 1200 * random(), 100 * random()];
		const corners = [
			[0, 0],
			[w, skew * random()],
			[w + skew * random(), h],
			[skew * random(), h + skew * random()]
		] as const;
		PAIRS.forEach(([a, b], d) => {
			const [p, r] = [corners[a]!, corners[b]!];
			values[q * 6 + d] = Math.hypot(p[0] - r[0], p[1] - r[1]);
		});
	}
	return values;
}
/** Prints what schedules of large projects take. */
export async function benchSchedules(): Promise<void> {
	console.log('\nSchedules, median of 5');
	const values = unlikeQuads(100_000);
	let types = 0;
	const sorting = timeOf(
		() => (types = cluster({ values, dims: 6, turns: QUAD, tolerance: mediumTolerance }).counts.length)
	);
	row(`types of 100,000 quads of all sizes (${types} types)`, sorting);
	// Frame, reveal and pane on each cell.
	const project = vaults(1, 260, 130);
	const model = await runPipeline(project, { memo: new Memo(), now });
	const rows = new Rows(model.faces, 'parts', rowWorld(project));
	let sorted = 0;
	row(
		'types of the pieces of 33,800 framed panes',
		timeOf(() => (sorted = pieceTypes(model.faces).types.length))
	);
	const ready = READY_TABLES.find((t) => t.name === 'Types of pieces')!;
	const table = { ...ready, id: 't', sort: [{ by: 'area', descending: true }] };
	row(
		`own schedule of ${rows.count} pieces of ${sorted} types: grouped, summed, sorted`,
		timeOf(() => runTable(rows, table, []))
	);
	const pieces = piecesByKey(project, model);
	row(
		`comparison of ${pieces.size} pieces with themselves`,
		timeOf(() => comparePieces(pieces, new Map(pieces)))
	);
	const small = vaults(1, 180, 93);
	const other = await runPipeline(small, { memo: new Memo(), now });
	const start = now();
	let bytes = 0;
	await writeFormat('xlsx', { project: small, model: other }, {}, (chunk) => void (bytes += chunk.length));
	const memory = Math.round(process.resourceUsage().maxRSS / 1024);
	row(`spreadsheet of 50,220 pieces, ${(bytes / 1e6).toFixed(1)} MB (peak of the process ${memory} MB)`, now() - start);
}
