import { ZygasterError } from '../../errors.ts';
import type { MouldedBody } from '../builderWorld.ts';
import { eachSound } from '../sound.ts';
import type { Builder } from '../builder.ts';
import { flag, moduleRef, partFields, ref, refOrNone, value, whole } from '../fields.ts';
import { meshArea } from '../../mesh/triangleMesh.ts';
import { meshVolume, turnedMesh, type Mesh } from '../mesh.ts';
import type { Block } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { group } from '../../units/print.ts';
import { compileMould } from '../mould.ts';
import { closedLine } from './sheets.ts';

/** Triangles that one kit may put up on a face at most; beyond this a browser's memory is at risk. */
const MOST_TRIANGLES = 30_000_000;

/** A box in which bodies are made once. */
export const mould = stepKind({
	kind: 'mould',
	group: 'pieces',
	makes: 'mould',
	label: 'Mould',
	help: 'A box of its own in which bodies are made once for each set of values, to be fitted into the hosts by a module; steps “on” it see its eight corners, 1 to 4 below',
	fields: {
		width: value('length', 'Width', 'Across', 1000),
		height: value('length', 'Height', 'Up', 1000),
		depth: value('length', 'Depth', 'Outwards', 500)
	},
	compile({ width, height, depth }, b) {
		const sizes = [
			b.slot(width, 'length', 'Width'),
			b.slot(height, 'length', 'Height'),
			b.slot(depth, 'length', 'Depth')
		] as const;
		compileMould(b, sizes);
	}
});

/** A mesh fitted into the host's box. */
export const module = stepKind({
	kind: 'module',
	group: 'parts',
	makes: 'part',
	label: 'Module',
	help: 'A body of a mould, or a mesh from a file, fitted into the box between two lines of four corners',
	fields: {
		...partFields,
		mould: refOrNone(['mould'], 'Mould', 'Where its body is made'),
		body: refOrNone(['body'], 'Body', 'A body on the mould'),
		file: moduleRef('Mesh', 'A mesh from a file, instead of a body'),
		lower: ref(['line'], 'Lower line', 'Four corners, inside'),
		upper: ref(['line'], 'Upper line', 'Four corners, outside'),
		turns: whole(0, 3, 0, 'Quarter turns', 'Anticlockwise seen from outside'),
		mirror: flag(false, 'Mirrored', 'Left and right'),
		flip: flag(false, 'Flipped', 'Inside and outside')
	},
	compile(step, b) {
		const [lower, upper] = [closedLine(b, step.lower), closedLine(b, step.upper)];
		for (const [name, line] of [
			[step.lower, lower],
			[step.upper, upper]
		] as const)
			if (line.count !== 4)
				throw b.fail(`a module is fitted between lines of four corners; “${name}” has ${line.count}`);
		const meshOf = sourceOf(b, step);
		const { mask } = b;
		let made = 0;
		b.parts.push({
			step,
			mask,
			geometry: {
				kind: 'fitted',
				generate(block, sinkFor, { area, length, volume, pieces }) {
					if (block.from === 0) made = 0;
					eachSound(block, mask, (h) => {
						const source = meshOf(block, h);
						if (!source) return;
						made += source.mesh.triangles.length / 3;
						if (made > MOST_TRIANGLES)
							throw new ZygasterError(
								'kit',
								`“${step.name}” of kit “${b.kit.name}” would make more than ${group(MOST_TRIANGLES, 0)} triangles; right would be a simpler mesh or fewer hosts.`
							);
						const row = block.from + h;
						const base = row * block.stride;
						const fitted = { positions: source.fitted, triangles: source.mesh.triangles };
						fitInPlace(source, block.points, base + lower.first * 3, base + upper.first * 3);
						const size = meshVolume(fitted);
						const sink = sinkFor(size < 0 ? source.turned : source.mesh);
						const at = sink.positions.take(source.fitted.length);
						sink.positions.values.set(source.fitted, at);
						sink.rows.push(row);
						area[row] = meshArea(fitted) * source.area;
						volume[row] = Math.abs(size) * source.volume;
						length[row] = 0;
						pieces[row] = 1;
					});
				}
			}
		});
	}
});

/** A mesh in a box from 0 to 1, with the weight of each of the box's corners for each of its points. */
interface Source extends MouldedBody {
	/** The mesh for boxes that turn it inside out, as those whose upper line lies inside of the lower one. */
	readonly turned: Mesh;
	/** Its points on the host that is being made. */
	readonly fitted: Float64Array;
	/** Eight a point: lower corners 1 to 4, upper corners 1 to 4. */
	readonly weights: Float64Array;
}

type ModuleStep = Parameters<(typeof module)['compile']>[0];

function sourceOf(b: Builder, step: ModuleStep): (block: Block, h: number) => Source | undefined {
	const ready = new WeakMap<Mesh, Source>();
	const prepare = (body: MouldedBody): Source => {
		const known = ready.get(body.mesh) ?? prepared(body, step);
		ready.set(body.mesh, known);
		return known;
	};
	if (step.file !== undefined) {
		const mesh = b.world.modules.get(step.file);
		if (!mesh)
			throw b.fail(
				`there is no mesh “${step.file}” in this project; known: ${[...b.world.modules.keys()].join(', ') || 'none'}`
			);
		const source = prepare({ mesh, area: 1, volume: 1 });
		return () => source;
	}
	const mouldOf = step.mould === undefined ? undefined : b.moulds.get(step.mould);
	if (!mouldOf || step.body === undefined)
		throw b.fail('it needs a mould and one of its bodies, or a mesh from a file');
	const body = step.body;
	b.later(() => {
		if (!mouldOf.bodies().includes(body))
			throw b.fail(
				`there is no body “${body}” on the mould “${step.mould}”; known there: ${mouldOf.bodies().join(', ') || 'none'}`
			);
	});
	return (block, h) => {
		const moulded = mouldOf.mesh(block, h, body);
		return moulded && prepare(moulded);
	};
}

function prepared(
	{ mesh, ...more }: MouldedBody,
	{ turns, mirror, flip }: Pick<ModuleStep, 'turns' | 'mirror' | 'flip'>
): Source {
	const n = mesh.positions.length / 3;
	const weights = new Float64Array(n * 8);
	for (let k = 0; k < n; k++) {
		let [x, y, z] = [mesh.positions[k * 3]!, mesh.positions[k * 3 + 1]!, mesh.positions[k * 3 + 2]!];
		for (let t = 0; t < turns; t++) [x, y] = [1 - y, x];
		if (mirror) x = 1 - x;
		if (flip) z = 1 - z;
		const flat = [(1 - x) * (1 - y), x * (1 - y), x * y, (1 - x) * y];
		flat.forEach((w, c) => {
			weights[k * 8 + c] = w * (1 - z);
			weights[k * 8 + 4 + c] = w * z;
		});
	}
	const other = turnedMesh(mesh);
	// A mirrored or flipped body would be inside out.
	return {
		...more,
		weights,
		fitted: new Float64Array(n * 3),
		...(mirror !== flip ? { mesh: other, turned: { ...mesh } } : { mesh: { ...mesh }, turned: other })
	};
}

/** The trilinear map of a box: every point is the mean of the box's eight corners by its weights. */
function fitInPlace({ weights, fitted: out }: Source, points: Float64Array, lower: number, upper: number): void {
	for (let axis = 0; axis < 3; axis++) {
		const p = lower + axis;
		const q = upper + axis;
		const [a, b, c, d] = [points[p]!, points[p + 3]!, points[p + 6]!, points[p + 9]!];
		const [e, f, g, h] = [points[q]!, points[q + 3]!, points[q + 6]!, points[q + 9]!];
		for (let w = 0, o = axis; w < weights.length; w += 8, o += 3)
			out[o] =
				weights[w]! * a +
				weights[w + 1]! * b +
				weights[w + 2]! * c +
				weights[w + 3]! * d +
				weights[w + 4]! * e +
				weights[w + 5]! * f +
				weights[w + 6]! * g +
				weights[w + 7]! * h;
	}
}
