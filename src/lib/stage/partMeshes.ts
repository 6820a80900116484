import {
	BufferAttribute,
	BufferGeometry,
	Color,
	DoubleSide,
	InstancedBufferAttribute,
	InstancedMesh,
	Mesh,
	MeshLambertMaterial
} from 'three';
import type { DrawnFace } from '../../core/project/modelBatches.ts';

/** How a material is shown. */
export interface MaterialLook {
	readonly id: string;
	readonly colour: string;
	readonly opacity: number;
}

/** Meshes of all parts: one a material, and one for each kind of equal bodies. */
export function partMeshes({ batches, instances }: DrawnFace, looks: readonly MaterialLook[]): Mesh[] {
	const lookOf = (material: string) => looks.find((l) => l.id === material);
	return [
		...batches.map(({ positions, indices, material }) =>
			meshOf(new Mesh(geometryOf(positions, indices), materialOf(lookOf(material))))
		),
		...instances.map(({ positions, indices, matrices, material }) => {
			const mesh = new InstancedMesh(
				geometryOf(positions, indices),
				materialOf(lookOf(material)),
				matrices.length / 16
			);
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

function materialOf(look: MaterialLook | undefined): MeshLambertMaterial {
	const opacity = look?.opacity ?? 1;
	return new MeshLambertMaterial({
		color: new Color(look?.colour ?? '#999999'),
		flatShading: true,
		side: DoubleSide,
		transparent: opacity < 1,
		opacity,
		// Lines on the same plane stay in front of the parts.
		polygonOffset: true,
		polygonOffsetFactor: 1,
		polygonOffsetUnits: 1
	});
}
