// Speed and memory of the pipeline with the framed pane: part of `npm run bench`.
import { settingOutOf } from '../../src/core/settingout/spacing.ts';
import { ArrayPool } from '../../src/core/arrays.ts';
import { writeFormat } from '../../src/core/formats/writers.ts';
import { vaultSurface } from '../../src/core/mass/vault.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline, type Model } from '../../src/core/project/pipeline.ts';
import { STAGES } from '../../src/core/project/run.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { demoProject, vaultOf } from '../unit/demo.ts';
import { verbSurface } from '../unit/oracle.ts';
import { straight, straightRoom } from './straight.ts';

const WARM_RUNS = 7;
/** Runs before those that count, until the engine has compiled all of it: small ones need more. */
const warming = (cells: number) => (cells > 100_000 ? 1 : cells > 10_000 ? 4 : 30);

/** The demo's canopy grown so that cells stay as large as they are, with `cells` of them. */
function grown(cells: number, run: number): Project {
	const project = demoProject();
	const mass = project.masses[0]!;
	const across = Math.round(Math.sqrt(cells / 2));
	const up = Math.round(cells / across);
	const scale = across / 24;
	// A little longer each run, so that nothing is remembered.
	const shape = vaultOf(project);
	shape.length = shape.length * scale + run;
	for (const s of shape.sections)
		for (const name of ['span', 'rise', 'lean', 'shift', 'startHeight', 'endHeight'] as const) s[name] *= scale;
	mass.faces[0]!.settingOut = settingOutOf({ kind: 'count', count: across }, { kind: 'count', count: up });
	return project;
}

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Runs `work` and answers its time in ms. */
async function timed<T>(work: () => T | Promise<T>): Promise<[number, T]> {
	const start = performance.now();
	const result = await work();
	return [performance.now() - start, result];
}

interface Times {
	total: number;
	csv: number;
	stages: Model['stageTimes'];
}

async function measure(cells: number) {
	const memo = new Memo(new ArrayPool());
	const times: Times[] = [];
	let bytes = 0;
	for (let run = 0; run < warming(cells) + WARM_RUNS; run++) {
		const project = grown(cells, run);
		const [total, model] = await timed(() => runPipeline(project, { memo, now: () => performance.now() }));
		const [csv] = await timed(() => writeFormat('csv', { project, model }, {}, () => undefined));
		times.push({ total, csv, stages: model.stageTimes });
		memo.recycle(model);
		bytes = bytesOf(model);
	}
	// Before what is compared takes memory of its own.
	const peak = process.resourceUsage().maxRSS / 1024;
	const copy = Array.from({ length: WARM_RUNS }, () => copyTime(bytes));
	const side = Math.round(Math.sqrt(cells));
	const room = straightRoom(side, Math.round(cells / side));
	const least: number[] = [];
	for (let run = 0; run < warming(cells) + WARM_RUNS; run++) least.push((await timed(() => straight(room)))[0]);
	const last = <T>(list: readonly T[]) => list.slice(-WARM_RUNS);
	return { cold: times[0]!, warm: last(times), bytes, copy: median(copy), least: median(last(least)), peak };
}

/** Bytes of all arrays of a model, each buffer's used part counted once. */
function bytesOf(model: Model): number {
	const seen = new Set<ArrayBufferLike>();
	let bytes = 0;
	const visit = (value: unknown): void => {
		if (ArrayBuffer.isView(value)) {
			if (!seen.has(value.buffer)) bytes += value.byteLength;
			seen.add(value.buffer);
		} else if (typeof value === 'object' && value !== null) Object.values(value).forEach(visit);
	};
	visit(model);
	return bytes;
}

let source = new Uint8Array(0);
let target = new Uint8Array(0);
/** Time of a plain copy of as many bytes between two buffers that have been touched. */
function copyTime(bytes: number): number {
	if (source.length < bytes) {
		source = new Uint8Array(bytes).fill(1);
		target = new Uint8Array(bytes).fill(1);
	}
	const start = performance.now();
	target.set(source.subarray(0, bytes));
	return performance.now() - start;
}

const ms = (x: number) => (x < 10 ? x.toFixed(2) : x.toFixed(0)).padStart(8);

/** Prints what each stage takes at several sizes. */
export async function benchStages(sizes: readonly number[]): Promise<void> {
	console.log(
		`ms, median of ${WARM_RUNS} warm runs (arrays reused); cold: first run, memory touched for the first time;\nstraight: the least that it takes, a program for this one case, right after it\n`
	);
	console.log(
		`cells      ${[...STAGES, 'csv', 'warm', 'straight', 'cold', 'copy'].map((s) => s.slice(0, 8).padStart(8)).join('')}  ratio  cells/s  B/cell  peak MB`
	);
	for (const cells of sizes) {
		const { cold, warm, bytes, copy, least, peak } = await measure(cells);
		const total = median(warm.map((t) => t.total + t.csv));
		const row = [
			...STAGES.map((s) => median(warm.map((t) => t.stages[s]))),
			median(warm.map((t) => t.csv)),
			total,
			least,
			cold.total + cold.csv,
			copy
		];
		const rate = Math.round((cells / total) * 1000);
		console.log(
			`${String(cells).padEnd(11)}${row.map(ms).join('')}  ${(total / least).toFixed(1).padStart(5)}  ${String(rate).padStart(7)}  ${String(Math.round(bytes / cells)).padStart(6)}  ${String(Math.round(peak)).padStart(7)}`
		);
	}

	const surface = vaultSurface(vaultOf(grown(10_000, 0)));
	const oracle = verbSurface(surface);
	const [verb] = await timed(() => {
		for (let j = 0; j < 100; j++)
			for (let i = 0; i < 100; i++) {
				oracle.point(i / 99, j / 99);
				oracle.normal(i / 99, j / 99);
			}
	});
	console.log(`\n10,000 points and normals of the same face one by one with verb-nurbs: ${verb.toFixed(0)} ms`);
}
