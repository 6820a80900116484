import { acos, cos, hypot, sin } from '../../elementary/index.ts';
import type { Point } from '../../geometry/curve.ts';
import { ANGLE, dimensionOf, LENGTH, PLAIN, type Dimension } from '../../kit/formula/dimension.ts';
import { FormulaError } from '../../kit/formula/parse.ts';
import { randomAt } from '../../tiling/random.ts';
import { developmentOf } from '../../settingout/development.ts';
import { KEY_SIZE, READINGS_OF_SET } from '../rules/ruleHosts.ts';
import type { RuleScope } from '../rules/scope.ts';
import { distanceTo, measureLine, smoothLeast, tracePoints } from './distance.ts';
import { rangeOfValues, shareOf } from './ease.ts';
import { messageOf } from '../../errors.ts';
import { flattener } from './flatten.ts';
import { noiseAt } from './noise.ts';
import { paintedColumn } from './painted.ts';
import { pictureReader, type Picture } from './picture.ts';
import type { FieldHosts } from './facePoints.ts';
import type { Field } from './schema.ts';

type FieldScope = RuleScope<FieldHosts>;

/** A field on hosts. */
export interface FieldColumn {
	/** By host: mm, radians or plain numbers. */
	readonly values: Float64Array;
	/** By host: what its value counts as, from 0 to 1. */
	readonly shares: Float64Array;
	readonly dimension: Dimension;
	/** Values that count as 0 and 1. */
	readonly range: readonly [number, number];
}

/** A field on hosts of a face, at the middle of each. Throws a FormulaError where it cannot be worked out. O(hosts x points of lines). */
export function fieldColumn(field: Field, scope: FieldScope): FieldColumn {
	const { values, dimension } = sourceValues(field, scope);
	const range = field.range ?? rangeOfValues(values);
	return { values, dimension, range, shares: values.map(shareOf(field, range)) };
}

function sourceValues({ source, name }: Field, scope: FieldScope): Pick<FieldColumn, 'values' | 'dimension'> {
	const { hosts } = scope;
	const { count } = hosts;
	const each = (of: (h: number) => number) => Float64Array.from({ length: count }, (_, h) => of(h));
	switch (source.kind) {
		case 'distance':
			return { values: distances(source, scope), dimension: LENGTH };
		case 'height':
			return { values: each((h) => hosts.centres[h * 3 + 2]!), dimension: LENGTH };
		case 'along': {
			const c = source.way === 'across' ? 0 : 1;
			return { values: each((h) => hosts.flat[h * 2 + c]!), dimension: LENGTH };
		}
		case 'direction': {
			const size = hypot(source.x, source.y, source.z);
			const { normals: n } = hosts;
			return {
				values: each((h) => {
					const dot = (n[h * 3]! * source.x + n[h * 3 + 1]! * source.y + n[h * 3 + 2]! * source.z) / size;
					return acos(Math.min(1, Math.max(-1, dot)));
				}),
				dimension: ANGLE
			};
		}
		case 'reading': {
			const values = hosts.reading(source.reading);
			if (!hosts.onCells)
				throw new FormulaError(
					`the field “${name}” is a reading of cells, which the face has none of before it is divided`
				);
			if (!values)
				throw new FormulaError(`the field “${name}” asks for “${source.reading}”, which ${hosts.kind}s do not have`);
			return { values, dimension: dimensionOf(READINGS_OF_SET[hosts.kind][source.reading]!.quantity) };
		}
		case 'random':
			return { values: randomColumn(scope, source.seed), dimension: PLAIN };
		case 'noise': {
			const { centres: p } = hosts;
			const { seed, size } = source;
			return { values: each((h) => noiseAt(seed, size, p[h * 3]!, p[h * 3 + 1]!, p[h * 3 + 2]!)), dimension: PLAIN };
		}
		case 'picture':
			return { values: pictureColumn(source, name, scope), dimension: PLAIN };
		case 'painted':
			if (!hosts.onCells)
				throw new FormulaError(
					`the field “${name}” is painted on cells, which the face has none of before it is divided`
				);
			return { values: paintedColumn(source, scope.world.key, hosts.onCells), dimension: PLAIN };
		case 'formula':
			return scope.term(source.formula);
	}
}

function pictureColumn(picture: Picture, name: string, { hosts }: FieldScope): Float64Array {
	const { flat } = hosts;
	const { bounds } = developmentOf(hosts.face.charted);
	let read: ReturnType<typeof pictureReader>;
	try {
		read = pictureReader(picture);
	} catch (cause) {
		throw new FormulaError(`the picture of the field “${name}” cannot be read: ${messageOf(cause)}`);
	}
	const [x0, y0, x1, y1] = bounds;
	const fits = picture.lay === 'fit';
	const [width, height] = fits ? [x1 - x0, y1 - y0] : [picture.size, (picture.size * picture.height) / picture.width];
	const [px, py] = fits ? [(x0 + x1) / 2, (y0 + y1) / 2] : [x0, y0];
	const [c, s] = [cos(picture.turn), sin(picture.turn)];
	const out = new Float64Array(hosts.count);
	for (let h = 0; h < out.length; h++) {
		const x = flat[h * 2]! - px;
		const y = flat[h * 2 + 1]! - py;
		const [across, up] = [x * c + y * s, y * c - x * s];
		out[h] = read(across / width + (fits ? 0.5 : 0), up / height + (fits ? 0.5 : 0));
	}
	return out;
}

/** A random number from 0 to 1 for each host, by its key, so that it stays when others come and go. */
export function randomColumn({ hosts, world }: Pick<FieldScope, 'hosts' | 'world'>, seed: number): Float64Array {
	const { keys } = hosts;
	const own = seed ^ hashOfText(world.key);
	return Float64Array.from({ length: hosts.count }, (_, h) => {
		const o = h * KEY_SIZE;
		return randomAt(own, keys[o]!, keys[o + 1]!, keys[o + 2]!, keys[o + 3]!);
	});
}

/** 32 bits of a text. Source: FNV-1a, Fowler, Noll and Vo. */
function hashOfText(text: string): number {
	let hash = 0x811c9dc5;
	for (let k = 0; k < text.length; k++) hash = Math.imul(hash ^ text.charCodeAt(k), 0x01000193);
	return hash >>> 0;
}

function distances(source: Extract<Field['source'], { kind: 'distance' }>, { hosts }: FieldScope): Float64Array {
	const lines = source.to.flatMap(({ kind, points, closed }): Point[][] =>
		kind === 'points' ? points.map((p) => [p]) : [tracePoints(kind, points, closed)]
	);
	const combined = (all: readonly number[]) => {
		if (source.combine === 'sum') return all.reduce((a, b) => a + b, 0);
		return source.combine === 'least' ? Math.min(...all) : smoothLeast(all, source.blend);
	};
	const flat = source.along === 'face';
	const measured = (flat ? lines.map(flattener(hosts.face.charted)) : lines).map((line) =>
		distanceTo(measureLine(line))
	);
	const [at, size] = flat ? [hosts.flat, 2] : [hosts.centres, 3];
	const out = new Float64Array(hosts.count);
	for (let h = 0; h < out.length; h++) {
		const x = at[h * size]!;
		const y = at[h * size + 1]!;
		const z = flat ? 0 : at[h * size + 2]!;
		out[h] = measured.length === 1 ? measured[0]!(x, y, z) : combined(measured.map((distance) => distance(x, y, z)));
	}
	return out;
}
