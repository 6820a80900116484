import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { acos, asin, atan, atan2, cos, pow, sin, tan } from '../../src/core/elementary/index.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline, type Model } from '../../src/core/project/pipeline.ts';
import { readProject } from '../../src/core/project/read.ts';
import { FaceReadings, READINGS, type ReadingName } from '../../src/core/readings/faceReadings.ts';

const hashOf = (value: ArrayBufferView) =>
	bytesToHex(sha256(new Uint8Array(value.buffer, value.byteOffset, value.byteLength)));

/** The hash of a long run of values of each elementary function. */
export function hashesOfFunctions(): Record<string, string> {
	const values = Float64Array.from({ length: 200_000 }, (_, k) => ((k * 7919) % 200_003) / 1000 - 100);
	const of = (f: (x: number) => number) => hashOf(values.map((x) => f(x)).map((x) => (Number.isNaN(x) ? NaN : x)));
	return Object.fromEntries(
		Object.entries({
			sin,
			cos,
			tan,
			atan,
			asin: (x: number) => asin(x / 100),
			acos: (x: number) => acos(x / 100),
			atan2: (x: number) => atan2(x, 3 - x),
			pow: (x: number) => pow(Math.abs(x), x / 30)
		}).map(([name, f]) => [name, of(f)])
	);
}

/** The hash of every array that a project leads to. */
export const hashesOf = async (text: string): Promise<Record<string, string>> =>
	hashesOfModel(await runPipeline(readProject(text), { memo: new Memo(), now: () => 0 }));

/** The hash of every array of a model, by its way through it: nodes, cells, all readings, parts, schedule. */
export function hashesOfModel(
	{ faces, schedule }: Pick<Model, 'faces' | 'schedule'>,
	hash: (value: ArrayBufferView) => string = hashOf
): Record<string, string> {
	const found: Record<string, string> = {};
	const add = (path: string, value: unknown): void => {
		if (ArrayBuffer.isView(value))
			found[path] = hash(value instanceof Float64Array ? value.map((x) => (Number.isNaN(x) ? NaN : x)) : value);
		else if (value instanceof Map) for (const [key, v] of value) add(`${path}/${String(key)}`, v);
		else if (typeof value === 'object' && value !== null)
			for (const [key, v] of Object.entries(value)) if (key !== 'kit') add(`${path}/${key}`, v);
	};
	for (const face of faces) {
		const { key, surface, nodes, cells, readings, placements } = face;
		add(key, { nodes, cells, readings, placements });
		const measured = new FaceReadings({ surface, nodes, cells, readings });
		for (const name of Object.keys(READINGS)) add(`${key}/${name}`, measured.column(name as ReadingName));
	}
	add('schedule', schedule);
	return found;
}
