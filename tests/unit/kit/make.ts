import Manifold from 'manifold-3d';
import { compileKit, type CompileOptions } from '../../../src/core/kit/compileKit.ts';
import { evaluateKit } from '../../../src/core/kit/evaluate.ts';
import type { Mesh } from '../../../src/core/kit/mesh.ts';
import type { KitResult, PartColumns } from '../../../src/core/kit/result.ts';
import { kitSchema, type Kit, type KitInput } from '../../../src/core/kit/schema.ts';
import { solidsLoader } from '../../../src/core/kit/solids.ts';
import { shapeOfTrial, trialColumns, type TrialHost, type TrialPoint } from '../../../src/core/kit/trialHosts.ts';
import { settleValues, type GivenValues } from '../../../src/core/kit/values.ts';
import { plateMesh } from '../../../src/core/kit/plates.ts';
import { transformed } from '../../../src/core/kit/unitBodies.ts';
import { fineLevel, joinedMesh } from '../../../src/core/placement/joined/joinedMesh.ts';

export const solids = solidsLoader(async () => ({ default: Manifold }));

/** A kit of these steps and parameters, for cells of any number of corners unless another host is named. */
export const kitOf = (
	steps: KitInput['steps'],
	parameters: KitInput['parameters'] = [],
	host: KitInput['host'] = { kind: 'cell', leastCorners: 3, greatestCorners: 64 }
): Kit => kitSchema.parse({ id: 'made', name: 'Made', host, parameters, steps });

/** A level cell, anticlockwise seen from above. */
export const level = (...xy: readonly (readonly [number, number, number?])[]): Pick<TrialHost, 'kind' | 'points'> => ({
	kind: 'cell',
	points: xy.map(([x, y, z = 0]): TrialPoint => [x, y, z])
});
export const rectangle = (width: number, height: number) => level([0, 0], [width, 0], [width, height], [0, height]);
export const regular = (n: number, radius: number) =>
	level(
		...Array.from(
			{ length: n },
			(_, k) => [radius * Math.cos((2 * Math.PI * k) / n), radius * Math.sin((2 * Math.PI * k) / n)] as const
		)
	);

/** Runs a kit on one host. */
export async function run(
	kit: Kit,
	host: Pick<TrialHost, 'kind' | 'points' | 'closed'>,
	given: GivenValues = {},
	options: CompileOptions = {}
): Promise<Made> {
	const settled = settleValues(kit, given);
	return new Made(
		evaluateKit(
			compileKit(kit, shapeOfTrial(host), { given: settled.given, ...options }),
			settled.values,
			trialColumns(host),
			{ solids: await solids() }
		)
	);
}

export class Made {
	readonly result: KitResult;
	constructor(result: KitResult) {
		this.result = result;
	}

	get failures(): string[] {
		return this.result.failures.map((f) => `${f.step}: ${f.reason}`);
	}

	/** Points of a line or point of the first host. */
	line(step: string): TrialPoint[] {
		const { program, points } = this.result;
		const line = program.lines.get(step)!;
		return Array.from(
			{ length: line.count },
			(_, k) => [...points.subarray((line.first + k) * 3, (line.first + k) * 3 + 3)] as unknown as TrialPoint
		);
	}

	/** A part, here or within. */
	part(step: string): PartColumns {
		const find = (r: KitResult): PartColumns | undefined =>
			r.parts.find((p) => p.step.name === step) ?? r.inner.map(find).find((p) => p);
		const found = find(this.result);
		if (!found) throw new Error(`no part ${step}`);
		return found;
	}

	/** Over all parts of the name, here and within. */
	total(step: string, column: 'area' | 'length' | 'volume' | 'pieces'): number {
		const of = (r: KitResult): number =>
			r.parts.reduce((sum, p) => (p.step.name === step ? sum + p[column].reduce((a, b) => a + b, 0) : sum), 0) +
			r.inner.reduce((sum, i) => sum + of(i), 0);
		return of(this.result);
	}

	value(name: string): number {
		return this.result.values.get(name)![0]!;
	}

	/** Every piece of a part as a mesh of its own. */
	meshes(step: string): Mesh[] {
		const { geometry } = this.part(step);
		switch (geometry.kind) {
			case 'pattern': {
				const stride = geometry.pointsPerHost * 3;
				return Array.from({ length: geometry.points.length / stride }, (_, h) => ({
					positions: geometry.points.slice(h * stride, (h + 1) * stride),
					triangles: Uint32Array.from(geometry.triangles)
				}));
			}
			case 'instances':
				return Array.from(geometry.rows, (_, k) => transformed(geometry.mesh, geometry.transforms, k * 12));
			case 'fitted':
				return geometry.sets.flatMap(({ positions, triangles, rows }) =>
					Array.from(rows, (_, k) => ({
						positions: positions.slice(
							(k * positions.length) / rows.length,
							((k + 1) * positions.length) / rows.length
						),
						triangles
					}))
				);
			case 'joined':
				return [joinedMesh(geometry, fineLevel(geometry))];
			case 'plates':
				return Array.from(geometry.rows, (_, k) => plateMesh(geometry, k));
			case 'loose':
				return Array.from(geometry.rows, (_, k) => ({
					positions: geometry.positions.slice(geometry.positionStart[k], geometry.positionStart[k + 1]),
					triangles: geometry.triangles.slice(geometry.triangleStart[k], geometry.triangleStart[k + 1])
				}));
		}
	}
}

export const far = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((x, k) => x - b[k]!));
