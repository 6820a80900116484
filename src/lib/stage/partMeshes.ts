import { BufferAttribute, BufferGeometry, InstancedBufferAttribute, InstancedMesh, Mesh, type Material } from 'three';
import type { DrawnFace } from '../../core/project/modelBatches.ts';
import { partMaterial, type MaterialLook } from './materials.ts';

/** Meshes of all parts in the looks of their materials. */
export const partMeshes = (drawn: DrawnFace, looks: readonly MaterialLook[]): Mesh[] =>
	meshesOf(drawn, (material) => partMaterial(looks.find((l) => l.id === material)));

/** Meshes of all parts: one a material, and one for each kind of equal bodies. */
export function meshesOf({ batches, instances }: DrawnFace, lookOf: (material: string) => Material): Mesh[] {
	return [
		...batches.map(({ positions, indices, material }) =>
			meshOf(new Mesh(geometryOf(positions, indices), lookOf(material)))
		),
		...instances.map(({ positions, indices, matrices, material }) => {
			const mesh = new InstancedMesh(geometryOf(positions, indices), lookOf(material), matrices.length / 16);
			mesh.instanceMatrix = new InstancedBufferAttribute(matrices, 16);
			return meshOf(mesh);
		})
	];
}

function meshOf<M extends Mesh>(mesh: M): M {
	mesh.frustumCulled = false;
	return mesh;
}

function geometryOf(positions: Float32Array, indices: Uint32Array): BufferGeometry {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(positions, 3));
	geometry.setIndex(new BufferAttribute(indices, 1));
	return geometry;
}
