import { BLOCK } from './formula/compile.ts';
import { markFailed } from './sound.ts';
import { Grow } from './grow.ts';
import type { Mesh } from './mesh.ts';
import {
	ALWAYS,
	type Block,
	type FittedSink,
	type InstanceSink,
	type JoinedSink,
	type KitProgram,
	type LooseSink,
	type PartPlan,
	type PlateSink,
	type Quantities
} from './program.ts';
import { finishPlates, newPlates, rangeOf } from './plates.ts';
import type { LooseGeometry, PartColumns, PartGeometry } from './result.ts';

/** What a part of the program has made so far. */
export interface Output extends Quantities {
	readonly present: Uint8Array | undefined;
	readonly loose: LooseSink | undefined;
	readonly plates: PlateSink | undefined;
	readonly instances: InstanceSink | undefined;
	mesh: Mesh | undefined;
	readonly fitted: Map<Mesh, FittedSink> | undefined;
	readonly joined: JoinedSink | undefined;
}

/** Room for what a part makes on `total` rows: quantities all 0 in mm, mm2 and mm3. O(rows). */
export function newOutput(
	{ mask, eachOf, geometry: { kind } }: PartPlan,
	total: number,
	arrays: { float64(n: number): Float64Array }
): Output {
	// Taken from the pool, whose contents are not defined; plans that do not measure every host need zeros.
	const column = () => arrays.float64(total).fill(0);
	return {
		area: column(),
		length: column(),
		volume: column(),
		pieces: column(),
		...(eachOf
			? {
					each: {
						count: eachOf,
						length: arrays.float64(total * eachOf).fill(0),
						share: arrays.float64(total * eachOf).fill(0)
					}
				}
			: {}),
		present: mask === ALWAYS ? undefined : new Uint8Array(total),
		loose: kind === 'loose' ? newLoose() : undefined,
		plates: kind === 'plates' ? newPlates() : undefined,
		instances: kind === 'instances' ? { transforms: new Grow(12 * BLOCK), rows: new Grow() } : undefined,
		mesh: undefined,
		fitted: kind === 'fitted' ? new Map() : undefined,
		joined:
			kind === 'joined'
				? { ends: new Grow(), radius: new Grow(), rows: new Grow(), softness: 0, deviation: 0 }
				: undefined
	};
}

/** Room for bodies of their own. */
export const newLoose = (): LooseSink => ({
	positions: new Grow(),
	triangles: new Grow(),
	rows: new Grow(),
	positionStart: new Grow(),
	triangleStart: new Grow()
});

/** Measures and makes a part on the hosts of a block; those on which it has numbers that are none fail. */
export function runPart(plan: PartPlan, block: Block, output: Output): void {
	const { mask, measure } = plan;
	measure?.(block, output);
	const { present } = output;
	if (present) {
		const there = block.masks[mask]!;
		for (let h = 0; h < block.count; h++) {
			present[block.from + h] = there[h]!;
			if (there[h] === 0 && measure)
				for (const column of [output.area, output.length, output.volume, output.pieces]) column[block.from + h] = 0;
		}
	}
	generate(plan, block, output);
	failBroken(plan, block, output);
}

function generate({ geometry }: PartPlan, block: Block, output: Output): void {
	switch (geometry.kind) {
		case 'pattern':
			return;
		case 'instances':
			output.mesh ??= geometry.mesh(block.columns);
			return geometry.generate(block, output.instances!);
		case 'loose':
			return geometry.generate(block, output.loose!, output);
		case 'plates':
			return geometry.generate(block, output.plates!, output);
		case 'fitted':
			return geometry.generate(block, (mesh) => fittedSink(output.fitted!, mesh), output);
		case 'joined':
			return geometry.generate(block, output.joined!);
	}
}

/** No picture and no file may take a number that is none. The corners of patterns show in what is measured of them. */
function failBroken(
	{ mask, broken }: PartPlan,
	block: Block,
	{ area, length, volume, pieces, loose, plates, instances, fitted, joined }: Output
): void {
	if (broken === undefined) return;
	for (let row = block.from; row < block.from + block.count; row++)
		if (!Number.isFinite(area[row]! + length[row]! + volume[row]! + pieces[row]!))
			markFailed(block, row - block.from, mask, broken);
	const check = (numbers: Float64Array, from: number, to: number, row: number) => {
		let sum = 0;
		for (let k = from; k < to; k++) sum += numbers[k]!;
		if (!Number.isFinite(sum)) markFailed(block, row - block.from, mask, broken);
	};
	/** Pieces of this block, which were added last. */
	const last = (rows: Grow, visit: (piece: number) => void) => {
		for (let k = rows.length - 1; k >= 0 && rows.values[k]! >= block.from; k--) visit(k);
	};
	if (instances)
		last(instances.rows, (k) => check(instances.transforms.values, k * 12, k * 12 + 12, instances.rows.values[k]!));
	if (loose)
		last(loose.rows, (k) =>
			check(
				loose.positions.values,
				loose.positionStart.values[k]!,
				k + 1 < loose.rows.length ? loose.positionStart.values[k + 1]! : loose.positions.length,
				loose.rows.values[k]!
			)
		);
	if (plates)
		last(plates.rows, (k) => {
			const [first, end] = rangeOf(plates, k);
			check(plates.places.values, first, end, plates.rows.values[k]!);
			check(plates.back.values, k * 3, k * 3 + 3, plates.rows.values[k]!);
		});
	if (joined) last(joined.rows, (k) => check(joined.ends.values, k * 6, k * 6 + 6, joined.rows.values[k]!));
	for (const [mesh, { positions, rows }] of fitted ?? [])
		last(rows, (k) =>
			check(positions.values, k * mesh.positions.length, (k + 1) * mesh.positions.length, rows.values[k]!)
		);
}

function fittedSink(sinks: Map<Mesh, FittedSink>, mesh: Mesh): FittedSink {
	const known = sinks.get(mesh) ?? { positions: new Grow(mesh.positions.length), rows: new Grow() };
	sinks.set(mesh, known);
	return known;
}

export interface Kept {
	readonly count: number;
	/** By row of the run: row of the result, where it stands. */
	readonly rowOf: Uint32Array | undefined;
}

/** How many rows stand, and where each of them comes to stand; all where `stands` is left out. O(rows). */
export function keepRows(stands: Uint8Array | undefined, total: number): Kept {
	if (!stands) return { count: total, rowOf: undefined };
	const rowOf = new Uint32Array(total);
	let count = 0;
	for (let row = 0; row < total; row++) {
		rowOf[row] = count;
		count += stands[row]!;
	}
	return { count, rowOf };
}

/** The rows that stand. */
export function keepStrided<A extends Float64Array | Uint32Array | Uint8Array>(
	from: A,
	stride: number,
	stands: Uint8Array,
	count: number
): A {
	const out = new (from.constructor as new (n: number) => A)(count * stride);
	let o = 0;
	for (let row = 0; row < stands.length; row++)
		if (stands[row] === 1) {
			out.set(from.subarray(row * stride, (row + 1) * stride) as never, o);
			o += stride;
		}
	return out;
}

/** The part on the hosts that stand. */
export function finishPart(
	program: KitProgram,
	plan: PartPlan,
	output: Output,
	points: Float64Array,
	stands: Uint8Array | undefined,
	kept: Kept
): PartColumns {
	const column = (values: Float64Array) => (stands ? keepStrided(values, 1, stands, kept.count) : values);
	const { each } = output;
	const eachColumn = (values: Float64Array, n: number) =>
		stands ? keepStrided(values, n, stands, kept.count) : values;
	return {
		step: plan.step,
		area: column(output.area),
		length: column(output.length),
		volume: column(output.volume),
		pieces: column(output.pieces),
		...(each
			? { each: { ...each, length: eachColumn(each.length, each.count), share: eachColumn(each.share, each.count) } }
			: {}),
		geometry: geometryOf(program, plan, output, points, stands, kept)
	};
}

function geometryOf(
	program: KitProgram,
	{ geometry }: PartPlan,
	output: Output,
	points: Float64Array,
	stands: Uint8Array | undefined,
	{ count, rowOf }: Kept
): PartGeometry {
	const rowsOf = (rows: Grow) => (rowOf ? Uint32Array.from(rows.uint32(), (row) => rowOf[row]!) : rows.uint32());
	const alive = (rows: Grow) => (stands ? Uint8Array.from(rows.uint32(), (row) => stands[row]!) : undefined);
	switch (geometry.kind) {
		case 'pattern': {
			const present = output.present && (stands ? keepStrided(output.present, 1, stands, count) : output.present);
			return {
				kind: 'pattern',
				triangles: geometry.triangles,
				points,
				pointsPerHost: program.pointsPerHost,
				...(present ? { present } : {})
			};
		}
		case 'instances': {
			const { transforms, rows } = output.instances!;
			const keep = alive(rows);
			const pieces = keep?.reduce((n, k) => n + k, 0) ?? rows.length;
			const pick = <A extends Float64Array | Uint32Array>(from: A, stride: number): A =>
				keep ? keepStrided(from, stride, keep, pieces) : from;
			return {
				kind: 'instances',
				mesh: output.mesh ?? NO_MESH,
				transforms: pick(transforms.float64(), 12),
				rows: pick(rowsOf(rows), 1)
			};
		}
		case 'fitted':
			return {
				kind: 'fitted',
				sets: [...output.fitted!].map(([mesh, { positions, rows }]) => {
					const keep = alive(rows);
					const pieces = keep?.reduce((n, k) => n + k, 0) ?? rows.length;
					return {
						triangles: mesh.triangles,
						positions: keep
							? keepStrided(positions.float64(), mesh.positions.length, keep, pieces)
							: positions.float64(),
						rows: keep ? keepStrided(rowsOf(rows), 1, keep, pieces) : rowsOf(rows)
					};
				})
			};
		case 'joined': {
			const { ends, radius, rows, softness, deviation } = output.joined!;
			const keep = alive(rows);
			const bars = keep?.reduce((n, k) => n + k, 0) ?? rows.length;
			const pick = <A extends Float64Array | Uint32Array>(from: A, stride: number): A =>
				keep ? keepStrided(from, stride, keep, bars) : from;
			return {
				kind: 'joined',
				ends: pick(ends.float64(), 6),
				radius: pick(radius.float64(), 1),
				rows: pick(rowsOf(rows), 1),
				softness,
				deviation
			};
		}
		case 'loose':
			return finishLoose(output.loose!, rowsOf(output.loose!.rows), alive(output.loose!.rows));
		case 'plates': {
			const { rows } = output.plates!;
			return finishPlates(output.plates!, rowsOf(rows), alive(rows));
		}
	}
}

const NO_MESH: Mesh = { positions: new Float64Array(), triangles: new Uint32Array() };

export function finishLoose(
	{ positions, triangles, rows, positionStart, triangleStart }: LooseSink,
	rowOf: Uint32Array,
	keep: Uint8Array | undefined
): LooseGeometry {
	const starts = (grow: Grow, end: number) => {
		const out = new Uint32Array(rows.length + 1);
		out.set(grow.uint32());
		out[rows.length] = end;
		return out;
	};
	const whole: LooseGeometry = {
		kind: 'loose',
		positions: positions.float64(),
		triangles: triangles.uint32(),
		positionStart: starts(positionStart, positions.length),
		triangleStart: starts(triangleStart, triangles.length),
		rows: rowOf
	};
	if (!keep || !keep.includes(0)) return whole;
	const pieces = [...keep.keys()].filter((k) => keep[k] === 1);
	const [p, t] = [new Grow(), new Grow()];
	const [ps, ts] = [[0], [0]];
	for (const k of pieces) {
		for (let o = whole.positionStart[k]!; o < whole.positionStart[k + 1]!; o++) p.push(whole.positions[o]!);
		for (let o = whole.triangleStart[k]!; o < whole.triangleStart[k + 1]!; o++) t.push(whole.triangles[o]!);
		ps.push(p.length);
		ts.push(t.length);
	}
	return {
		kind: 'loose',
		positions: p.float64(),
		triangles: t.uint32(),
		positionStart: Uint32Array.from(ps),
		triangleStart: Uint32Array.from(ts),
		rows: Uint32Array.from(pieces, (k) => rowOf[k]!)
	};
}
