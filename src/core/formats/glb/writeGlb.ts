import { Document, PlatformIO } from '@gltf-transform/core';
import { pow } from '../../elementary/index.ts';
import { numberedBatches, originOf } from '../../project/modelBatches.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Material, Project } from '../../project/schema.ts';
import type { Sink } from '../sink.ts';

/** Vertex attribute that carries the number of what a part stands on; `extras.marks[number]` of the mesh is its mark. */
const PANEL_ATTRIBUTE = '_PANEL';

/**
 * The model as binary glTF 2.0 (Khronos): metres, y up, one mesh a material, panels, edges, nodes and
 * paths told apart by the vertex attribute `_PANEL` and named in the mesh's `extras.marks`.
 */
export async function writeGlb(project: Project, model: Model, sink: Sink): Promise<void> {
	const document = new Document();
	document.getRoot().getAsset().generator = 'Zygaster';
	const buffer = document.createBuffer();
	const scene = document.createScene(project.name);
	const origin = originOf(model);
	const { batches, marks } = numberedBatches(model, origin);
	for (const batch of batches) {
		const material = project.materials.find((m) => m.id === batch.material)!;
		const primitive = document
			.createPrimitive()
			.setMaterial(gltfMaterial(document, material))
			.setIndices(accessor('SCALAR', batch.indices))
			.setAttribute('POSITION', accessor('VEC3', metresYUp(batch.positions)))
			.setAttribute(PANEL_ATTRIBUTE, accessor('SCALAR', batch.numbers!));
		const mesh = document.createMesh(material.name).addPrimitive(primitive).setExtras({ marks });
		const [x, y, z] = origin;
		scene.addChild(
			document
				.createNode(material.name)
				.setMesh(mesh)
				.setTranslation([x / 1000, z / 1000, -y / 1000])
		);
	}
	sink((await new BinaryOnly().writeBinary(document)) as Uint8Array<ArrayBuffer>);

	function accessor(type: 'SCALAR' | 'VEC3', array: Float32Array | Uint32Array) {
		return document
			.createAccessor()
			.setType(type)
			.setArray(array as Float32Array<ArrayBuffer>)
			.setBuffer(buffer);
	}
}

/** The package's writer without a file system: a GLB holds everything itself. */
class BinaryOnly extends PlatformIO {
	protected override async readURI(): Promise<never> {
		throw new Error('A GLB refers to no other file.');
	}
	protected override resolve(base: string, path: string): string {
		return base + path;
	}
	protected override dirname(uri: string): string {
		return uri;
	}
}

/** From mm with z up to metres with y up. */
function metresYUp(positions: Float32Array): Float32Array {
	const turned = new Float32Array(positions.length);
	for (let o = 0; o < positions.length; o += 3) {
		turned[o] = positions[o]! / 1000;
		turned[o + 1] = positions[o + 2]! / 1000;
		turned[o + 2] = -positions[o + 1]! / 1000;
	}
	return turned;
}

function gltfMaterial(document: Document, material: Material) {
	const [r, g, b] = [1, 3, 5].map((k) => linear(parseInt(material.colour.slice(k, k + 2), 16)));
	return document
		.createMaterial(material.name)
		.setBaseColorFactor([r!, g!, b!, material.opacity])
		.setAlphaMode(material.opacity < 1 ? 'BLEND' : 'OPAQUE')
		.setMetallicFactor(0)
		.setRoughnessFactor(0.6)
		.setDoubleSided(true);
}

/** sRGB byte to linear light. Source: IEC 61966-2-1. */
function linear(byte: number): number {
	const c = byte / 255;
	return c <= 0.04045 ? c / 12.92 : pow((c + 0.055) / 1.055, 2.4);
}
