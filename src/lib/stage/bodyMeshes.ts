import { BackSide, BufferAttribute, BufferGeometry, DoubleSide, FrontSide, Group, Mesh } from 'three';
import { bodyMaterial } from './materials.ts';

/** A surface drawn plain: mm less the model's origin, stride 3. */
export interface PlainSurface {
	readonly positions: Float32Array;
	readonly normals?: Float32Array;
	readonly indices: Uint32Array;
}

export interface BodyColours {
	readonly outside: string;
	readonly inside: string;
}

/** A face whose outside and inside have colours of their own. */
export function twoSidedBody(body: PlainSurface, { outside, inside }: BodyColours): Group {
	const geometry = geometryOf(body);
	const group = new Group();
	for (const [colour, side] of [
		[outside, FrontSide],
		[inside, BackSide]
	] as const) {
		const mesh = new Mesh(geometry, bodyMaterial(colour, side));
		mesh.frustumCulled = false;
		group.add(mesh);
	}
	return group;
}

/** A surface of one colour, lit by its facets where it has no normals. */
export function plainBody(body: PlainSurface, colour: string): Mesh {
	const mesh = new Mesh(geometryOf(body), bodyMaterial(colour, DoubleSide, !body.normals));
	mesh.frustumCulled = false;
	return mesh;
}

/** Its points, normals and triangles. */
function geometryOf({ positions, normals, indices }: PlainSurface): BufferGeometry {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(positions, 3));
	if (normals) geometry.setAttribute('normal', new BufferAttribute(normals, 3));
	geometry.setIndex(new BufferAttribute(indices, 1));
	return geometry;
}
