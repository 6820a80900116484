// Time of kits on whole columns of hosts, warm: part of `npm run bench`.
import Manifold from 'manifold-3d';
import { ArrayPool } from '../../src/core/arrays.ts';
import { vaultSurface } from '../../src/core/mass/vault.ts';
import type { Kit } from '../../src/core/kit/schema.ts';
import { kitSchema } from '../../src/core/kit/schema.ts';
import { solidsLoader } from '../../src/core/kit/solids.ts';
import { STARTER_KITS } from '../../src/core/kit/starters/index.ts';
import { unitBall } from '../../src/core/kit/unitBodies.ts';
import { placeKit, type Placed } from '../../src/core/placement/place.ts';
import { measureCells } from '../../src/core/readings/measureCells.ts';
import { chartFace } from '../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../src/core/settingout/spacing.ts';
import { tileRectangular } from '../../src/core/tiling/rectangular.ts';
import { demoProject, vaultOf } from '../unit/demo.ts';
import { count } from '../unit/divide.ts';

/** Runs before those that count. */
const WARMING = 6;
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const starter = (id: string) => STARTER_KITS.find((k) => k.id === id)!;

/** A ball of 1,984 triangles fitted into each cell. */
const FITTED = kitSchema.parse({
	id: 'fitted',
	name: 'Fitted ball',
	host: { kind: 'cell', leastCorners: 4, greatestCorners: 4 },
	parameters: [],
	steps: [
		{ kind: 'outline', name: 'lower' },
		{ kind: 'lift', name: 'upper', of: 'lower', distance: 300 },
		{
			kind: 'module',
			name: 'balls',
			role: 'panel',
			material: 'aluminium',
			file: 'ball',
			lower: 'lower',
			upper: 'upper'
		}
	]
});
const ball = unitBall(45);
/** Frames that small cells have room for. */
const GIVEN: Readonly<Record<string, Record<string, number>>> = {
	'framed-pane': { frameWidth: 20 },
	cassette: { joint: 2, lip: 10 },
	'hollowed-block': { joint: 0 }
};
const MODULES = new Map([['ball', { positions: ball.positions.map((x) => (x + 1) / 2), triangles: ball.triangles }]]);

/** Prints what kits take, each the median of so many runs. */
export async function benchKits(runs: number): Promise<void> {
	const surface = vaultSurface(vaultOf(demoProject()));
	const face = chartFace(surface);
	const solids = await solidsLoader(async () => ({ default: Manifold }))();
	console.log('\nKits on cells and edges, geometry with all quantities, ms; per host in microseconds and bytes');
	for (const [kit, cells] of [
		[starter('framed-pane'), 10_000],
		[starter('framed-pane'), 100_000],
		[starter('flat-pane'), 100_000],
		[starter('cassette'), 100_000],
		[starter('mullion'), 50_000],
		[starter('louver-bank'), 5_000],
		[starter('perforated-screen'), 1_000],
		[starter('lattice'), 1_000],
		[FITTED, 1_000],
		[starter('hollowed-block'), 1_000]
	] as [Kit, number][]) {
		const across = Math.round(Math.sqrt(cells / 2));
		const { nodes } = setOut(face, settingOutOf(count(across), count(Math.round(cells / across))));
		const table = tileRectangular(nodes);
		const readings = measureCells(nodes, table);
		const pool = new ArrayPool();
		const times: number[] = [];
		let placed: Placed | undefined;
		for (let run = 0; run < runs + WARMING; run++) {
			const lease = pool.lease();
			const start = performance.now();
			placed = placeKit(
				kit,
				GIVEN[kit.id] ?? {},
				{ surface, nodes, cells: table, readings, layer: 0 },
				{ densities: {}, modules: MODULES, solids, arrays: lease }
			);
			times.push(performance.now() - start);
			pool.giveBack(lease.buffers);
		}
		const hosts = placed!.placements.reduce((n, p) => n + (p.inner ? 0 : p.hosts.length), 0);
		const ms = median(times.slice(WARMING));
		console.log(
			`${kit.name.padEnd(22)}${hosts.toLocaleString('en').padStart(9)}${ms.toFixed(1).padStart(9)} ms${((ms * 1000) / hosts).toFixed(2).padStart(10)} us${(bytesOf(placed!) / hosts).toFixed(0).padStart(9)} B`
		);
	}
}

/** What the arrays of all parts take, those that parts share once. */
function bytesOf({ placements }: Placed): number {
	const seen = new Set<ArrayBufferLike>();
	const visit = (value: unknown): void => {
		if (ArrayBuffer.isView(value)) seen.add(value.buffer);
		else if (value && typeof value === 'object' && !('steps' in value)) Object.values(value).forEach(visit);
	};
	placements.forEach((p) => p.parts.forEach((part) => visit(part)));
	return [...seen].reduce((n, b) => n + b.byteLength, 0);
}
