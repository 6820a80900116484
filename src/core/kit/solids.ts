import type { Mesh } from './mesh.ts';

export type SolidOperation = 'union' | 'difference' | 'intersection';

/** What is used of a package for solids. */
export interface SolidPort {
	/** Joins bodies, takes all others from the first, or keeps what is in all; nothing when nothing is left. Throws an Error where one is no closed body. */
	combine(operation: SolidOperation, meshes: readonly Mesh[]): Mesh | undefined;
}

/** What is used of the package `manifold-3d`, so that core hangs on no way of loading it. */
export interface ManifoldModule {
	readonly Manifold: {
		new (mesh: ManifoldMesh): ManifoldBody;
		union(bodies: ManifoldBody[]): ManifoldBody;
		difference(bodies: ManifoldBody[]): ManifoldBody;
		intersection(bodies: ManifoldBody[]): ManifoldBody;
	};
	readonly Mesh: new (options: {
		numProp: number;
		vertProperties: Float32Array;
		triVerts: Uint32Array;
	}) => ManifoldMesh;
}

interface ManifoldMesh {
	readonly numProp: number;
	readonly vertProperties: Float32Array;
	readonly triVerts: Uint32Array;
	merge(): boolean;
}

interface ManifoldBody {
	getMesh(): ManifoldMesh;
	isEmpty(): boolean;
	status(): string;
	delete(): void;
}

/** The package behind the port. It computes in single precision, so bodies are moved to the origin and back. */
export function manifoldSolids({ Manifold, Mesh }: ManifoldModule): SolidPort {
	return {
		combine(operation, meshes) {
			const first = meshes[0]!.positions;
			const origin = [first[0]!, first[1]!, first[2]!] as const;
			const made: ManifoldBody[] = [];
			const keep = (body: ManifoldBody) => {
				made.push(body);
				return body;
			};
			try {
				const bodies = meshes.map(({ positions, triangles }) => {
					const mesh = new Mesh({
						numProp: 3,
						vertProperties: Float32Array.from(positions, (x, k) => x - origin[k % 3]!),
						triVerts: triangles
					});
					mesh.merge();
					return keep(new Manifold(mesh));
				});
				const result = keep(Manifold[operation](bodies));
				if (result.isEmpty()) return undefined;
				const { vertProperties, triVerts, numProp } = result.getMesh();
				const positions = new Float64Array((vertProperties.length / numProp) * 3);
				for (let k = 0; k < positions.length; k++)
					positions[k] = vertProperties[Math.floor(k / 3) * numProp + (k % 3)]! + origin[k % 3]!;
				return { positions, triangles: triVerts.slice() };
			} finally {
				for (const body of made) body.delete();
			}
		}
	};
}

/** Loads the package by whatever way its host has, once. */
export function solidsLoader(
	load: () => Promise<{ default: (options?: { locateFile: () => string }) => Promise<unknown> }>,
	wasm?: string
): () => Promise<SolidPort> {
	let loading: Promise<SolidPort> | undefined;
	return () =>
		(loading ??= load().then(async ({ default: start }) => {
			const module = (await start(wasm === undefined ? undefined : { locateFile: () => wasm })) as ManifoldModule & {
				setup(): void;
			};
			module.setup();
			return manifoldSolids(module);
		}));
}
