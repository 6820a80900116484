// Time from nodes to cells, edges and all readings, by tiling, and of recolouring: part of `npm run bench`.
import { ArrayPool } from '../../src/core/arrays.ts';
import { settingOutOf } from '../../src/core/settingout/spacing.ts';
import { setOut } from '../../src/core/settingout/nodes.ts';
import { chartFace } from '../../src/core/settingout/chartedFace.ts';
import { vaultSurface } from '../../src/core/mass/vault.ts';
import { FaceReadings, READINGS } from '../../src/core/readings/faceReadings.ts';
import { measureCells } from '../../src/core/readings/measureCells.ts';
import { tilingSchema, type TilingKind } from '../../src/core/tiling/schema.ts';
import { tileFace } from '../../src/core/tiling/tile.ts';
import { classesOf, colourScale } from '../../src/lib/editor/colourScale.ts';
import { demoProject, vaultOf } from '../unit/demo.ts';
import { count } from '../unit/divide.ts';

const KINDS: readonly TilingKind[] = ['rectangular', 'triangles', 'diamonds', 'hexagons'];
const GROUPS = ['shapes', 'centres', 'surroundings', 'curvatures', 'edges', 'nodes'] as const;
const RUNS = 7;
/** Runs before those that count, until the engine has compiled all of it. */
const WARMING = 20;
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Prints what tilings and readings of so many fields take, and Voronoi of so many seeds. */
export function benchTilings(sizes: readonly number[], seedCounts: readonly number[]): void {
	// As in a run: what a stage makes takes the place of what it made before.
	const pool = new ArrayPool();
	const face = chartFace(vaultSurface(vaultOf(demoProject())));
	console.log(
		'\nFrom nodes to cells and edges, and all readings of cells, edges and nodes, ms (curves on the face are extra)'
	);
	console.log(
		`${'tiling'.padEnd(14)}${['cells', 'tiling', 'main', ...GROUPS, 'sum', 'colour'].map((g) => g.slice(0, 9).padStart(10)).join('')}`
	);
	for (const fields of sizes)
		for (const kind of KINDS) {
			const across = 2 * Math.round(Math.sqrt(fields / 2) / 2);
			const laid = setOut(face, settingOutOf(count(across), count(2 * Math.round(fields / across / 2))));
			const times: Record<string, number[]> = {};
			const timed = <T>(name: string, work: () => T): T => {
				const start = performance.now();
				const result = work();
				(times[name] ??= []).push(performance.now() - start);
				return result;
			};
			let cellCount = 0;
			for (let run = 0; run < RUNS + WARMING; run++) {
				const lease = pool.lease();
				const { nodes = laid.nodes, cells } = timed('tiling', () =>
					tileFace(face, laid, tilingSchema.parse({ kind }), [], lease)
				);
				const readings = timed('main', () => measureCells(nodes, cells, lease));
				const all = new FaceReadings({ surface: face.surface, nodes, cells, readings });
				for (const group of GROUPS) timed(group, () => all.group(group));
				const area = all.column('cell.area');
				timed('colour', () => classesOf(area, colourScale(READINGS['cell.area'], 'even', 0, 2e6, 0)));
				cellCount = cells.count;
				pool.giveBack(lease.buffers);
			}
			const medians = ['tiling', 'main', ...GROUPS].map((name) => median(times[name]!.slice(WARMING)));
			const row = [...medians, medians.reduce((a, b) => a + b, 0), median(times.colour!.slice(WARMING))];
			console.log(
				`${kind.padEnd(14)}${String(cellCount).padStart(10)}${row.map((x) => x.toFixed(x < 10 ? 2 : 0).padStart(10)).join('')}`
			);
		}
	const laid = setOut(face, settingOutOf(count(50), count(100)));
	const area = 2626e6;
	for (const seeds of seedCounts) {
		const start = performance.now();
		const { cells } = tileFace(face, laid, tilingSchema.parse({ kind: 'voronoi', size: Math.sqrt(area / seeds) }), []);
		console.log(`Voronoi, two rounds: ${cells.count} cells in ${(performance.now() - start).toFixed(0)} ms`);
	}
}
