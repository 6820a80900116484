import { newBlock } from './block.ts';
import { BLOCK } from './formula/compile.ts';
import { Grow } from './grow.ts';
import type { HostColumns } from './hosts.ts';
import { readingsOfPoints } from './hostReadings.ts';
import { finishPart, keepRows, keepStrided, newOutput, runPart } from './outputs.ts';
import type { Block, ChildPlan, HostSink, KitProgram, RunPorts } from './program.ts';
import type { Failure, KitResult } from './result.ts';
import { FRESH_ARRAYS } from '../arrays.ts';
import type { KitValues } from './values.ts';

type Run = ReturnType<typeof newBlock>;

/** Runs a kit for a whole column of hosts. O(hosts * steps). */
export function evaluateKit(
	program: KitProgram,
	values: KitValues,
	hosts: HostColumns,
	ports: RunPorts = {}
): KitResult {
	return runProgram(program, hosts, ports, (block) => {
		for (const [name, slot] of program.parameters) {
			const value = values[name];
			if (value instanceof Float64Array) block.columns[slot] = value.subarray(block.from, block.from + block.count);
			else
				block.columns[slot] = block.columns[slot]!.length
					? block.columns[slot]!
					: new Float64Array(BLOCK).fill(value ?? NaN);
		}
	});
}

/** Runs a program; `fill` puts what is given from outside into a block's columns. */
function runProgram(program: KitProgram, hosts: HostColumns, ports: RunPorts, fill: (block: Block) => void): KitResult {
	const arrays = ports.arrays ?? FRESH_ARRAYS;
	const total = hosts.ids.length;
	const points = arrays.float64(total * program.pointsPerHost * 3);
	const block = newBlock(program, hosts, total, ports.solids, points);
	const outputs = program.parts.map((plan) => newOutput(plan, total, arrays));
	const sinks = program.children.map(newSink);
	const readings = [...program.readings].map(([name, slot]) => ({
		slot,
		column: hosts.reading(name),
		out: new Float64Array(BLOCK)
	}));
	const values = new Map([...program.values.keys()].map((name) => [name, new Float64Array(total)]));
	for (block.from = 0; block.from < total; block.from += BLOCK) {
		block.count = Math.min(BLOCK, total - block.from);
		for (const { slot, column, out } of readings) {
			for (let h = 0; h < block.count; h++) out[h] = column ? column[hosts.ids[block.from + h]!]! : NaN;
			block.columns[slot] = out;
		}
		fill(block);
		for (const op of program.ops) op(block);
		for (const [name, slot] of program.values)
			values.get(name)!.set(block.columns[slot]!.subarray(0, block.count), block.from);
		program.parts.forEach((plan, k) => runPart(plan, block, outputs[k]!));
		program.children.forEach((child, k) => spawn(child, block, sinks[k]!));
	}
	const failures = failuresOf(program, hosts, block);
	const stands = failures.length ? Uint8Array.from(block.failed, (f) => (f === 0 ? 1 : 0)) : undefined;
	const inner = program.children.map((child, k) => runChild(child, sinks[k]!, hosts, ports, stands));
	const kept = keepRows(stands, total);
	const owners = hosts.owners ?? hosts.ids;
	const keptPoints = stands ? keepStrided(points, program.pointsPerHost * 3, stands, kept.count) : points;
	return {
		program,
		hosts: stands ? keepStrided(owners, 1, stands, kept.count) : owners,
		...(hosts.spokes ? { spokes: stands ? keepStrided(hosts.spokes, 1, stands, kept.count) : hosts.spokes } : {}),
		points: keptPoints,
		parts: outputs.map((output, k) => finishPart(program, program.parts[k]!, output, keptPoints, stands, kept)),
		inner,
		failures: [...failures, ...inner.flatMap((r) => r.failures)],
		clamped: new Map(
			[...block.clamped].flatMap(([name, told]) =>
				told.includes(1) ? [[name, told.reduce((n, t) => n + t, 0)] as const] : []
			)
		),
		values: new Map(
			[...values].map(([name, column]) => [name, stands ? keepStrided(column, 1, stands, kept.count) : column])
		)
	};
}

interface ChildSink extends HostSink {
	/** Numbers of the outer host, in the order of `captured`. */
	readonly captured: readonly Grow[];
}

const newSink = (child: ChildPlan): ChildSink => ({
	points: new Grow(),
	normals: new Grow(),
	rows: new Grow(),
	own: child.own.map(() => new Grow()),
	captured: child.captured.map(() => new Grow())
});

function spawn(child: ChildPlan, block: Run, sink: ChildSink): void {
	const before = sink.rows.length;
	child.spawn(block, sink);
	child.captured.forEach(([outer], k) => {
		const column = block.columns[outer]!;
		for (let r = before; r < sink.rows.length; r++) sink.captured[k]!.push(column[sink.rows.values[r]! - block.from]!);
	});
}

/** Runs the inner program on the pieces of all hosts that stand. */
function runChild(
	{ program, own, captured, step, spokes }: ChildPlan,
	sink: ChildSink,
	outer: HostColumns,
	ports: RunPorts,
	stands: Uint8Array | undefined
): KitResult {
	const perHost = program.shape.kind === 'node' ? program.shape.corners + 1 : program.shape.corners;
	const alive = sink.rows.uint32();
	const keep = stands ? alive.map((row) => stands[row]!) : undefined;
	const count = keep ? keep.reduce((n, k) => n + k, 0) : alive.length;
	const pick = (grow: Grow, stride: number) =>
		keep ? keepStrided(grow.float64(), stride, Uint8Array.from(keep), count) : grow.float64();
	const rows = keep ? keepStrided(alive, 1, Uint8Array.from(keep), count) : alive;
	const position = pick(sink.points, perHost * 3);
	const closed = program.shape.kind === 'cell' || program.shape.kind === 'box';
	const edges = spokes
		? Uint32Array.from(pick(sink.own[0]!, 1))
		: outer.spokes && rows.map((row) => outer.spokes![row]!);
	const hosts: HostColumns = {
		ids: Uint32Array.from({ length: count }, (_, h) => h),
		owners: rows.map((row) => (outer.owners ?? outer.ids)[row]!),
		cornerStart: Uint32Array.from({ length: count + 1 }, (_, h) => h * perHost),
		corners: Uint32Array.from({ length: count * perHost }, (_, k) => k),
		position,
		normal: pick(sink.normals, 3),
		reading: perHost === 1 ? () => undefined : readingsOfPoints(closed, perHost, position),
		...(outer.onFace ? { onFace: outer.onFace } : {}),
		...(edges ? { spokes: edges } : {})
	};
	const given = [
		...own.map((slot, k) => [slot, pick(sink.own[k]!, 1)] as const),
		...captured.map(([, slot], k) => [slot, pick(sink.captured[k]!, 1)] as const)
	];
	const preset = defaultsOf(program);
	const result = runProgram(program, hosts, ports, (block) => {
		for (const [slot, value] of preset) block.columns[slot] = value;
		for (const [slot, column] of given) block.columns[slot] = column.subarray(block.from, block.from + block.count);
	});
	return { ...result, failures: result.failures.map((f) => ({ ...f, step: `${step} › ${f.step}` })) };
}

/** Columns of an inner kit's parameters that nothing is given for. */
function defaultsOf({ kit, parameters }: KitProgram): (readonly [number, Float64Array])[] {
	return kit.parameters.flatMap((p) => {
		const slot = parameters.get(p.name);
		return slot === undefined || typeof p.default === 'string'
			? []
			: [[slot, new Float64Array(BLOCK).fill(p.default)] as const];
	});
}

function anyFailed(failed: Uint16Array): boolean {
	for (let row = 0; row < failed.length; row++) if (failed[row]! > 0) return true;
	return false;
}

function failuresOf({ faults }: KitProgram, hosts: HostColumns, { failed }: Block): Failure[] {
	const owners = hosts.owners ?? hosts.ids;
	if (!anyFailed(failed)) return [];
	return faults.flatMap(({ step, reason }, k) => {
		const lost = owners.filter((_, row) => failed[row] === k + 1);
		return lost.length ? [{ step, reason, hosts: Uint32Array.from(new Set(lost)) }] : [];
	});
}
