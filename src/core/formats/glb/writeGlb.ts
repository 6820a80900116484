import { Document, PlatformIO, type Material as GltfMaterial, type Primitive } from '@gltf-transform/core';
import { EXTMeshGPUInstancing, KHRMeshQuantization } from '@gltf-transform/extensions';
import { pow } from '../../elementary/index.ts';
import { quaternionOf, standingOf } from '../../geometry/transformParts.ts';
import type { InstanceGeometry } from '../../kit/result.ts';
import { batchByMaterial, type DrawnPart } from '../../placement/batches.ts';
import { numberedParts, originOf } from '../../project/modelBatches.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Material, Project } from '../../project/schema.ts';
import type { Sink } from '../sink.ts';

/** Vertex attribute that carries the number of what a part stands on; `extras.marks[number]` of the mesh is its mark. */
const PANEL_ATTRIBUTE = '_PANEL';

export interface GlbOptions {
	/** Equal bodies once, put up by `EXT_mesh_gpu_instancing`. */
	readonly instances: boolean;
	/** Positions in 16 bits (`KHR_mesh_quantization`): a fifth of the size, true to the 65 534th part of the model. */
	readonly quantised: boolean;
}

/**
 * The model as binary glTF 2.0 (Khronos): metres, y up, one mesh a material, panels, edges, nodes and
 * paths told apart by the attribute `_PANEL` and named in the mesh's `extras.marks`.
 */
export async function writeGlb(project: Project, model: Model, options: GlbOptions, sink: Sink): Promise<void> {
	const document = new Document();
	document.getRoot().getAsset().generator = 'Zygaster';
	const buffer = document.createBuffer();
	const scene = document.createScene(project.name);
	const origin = originOf(model);
	const { parts, marks } = numberedParts(model);
	const materials = new Map<string, GltfMaterial>();
	const isPutUp = ({ part: { geometry } }: DrawnPart) =>
		options.instances &&
		geometry.kind === 'instances' &&
		[...geometry.rows.keys()].every((k) => standingOf(geometry.transforms, k * 12));
	const spread = parts.filter((drawn) => !isPutUp(drawn));

	for (const { material, positions, indices, numbers } of batchByMaterial(spread, origin, true)) {
		const turned = metresYUp(positions);
		const { array, half, middle } = options.quantised ? quantised(turned) : { array: turned, half: 1, middle: ORIGIN };
		const primitive = bodyOf(material, array, indices).setAttribute(PANEL_ATTRIBUTE, accessor('SCALAR', numbers!));
		if (options.quantised) document.createExtension(KHRMeshQuantization).setRequired(true);
		const [x, y, z] = yUp(origin).map((v, k) => v / MM_PER_M + middle[k]!) as [number, number, number];
		addNode(material, primitive, marks).setTranslation([x, y, z]).setScale([half, half, half]);
	}
	for (const { part, numbers } of parts.filter(isPutUp)) {
		const { mesh, transforms, rows } = part.geometry as InstanceGeometry;
		if (rows.length === 0) continue;
		const [places, turns, scales] = [3, 4, 3].map((size) => new Float32Array(rows.length * size));
		rows.forEach((_, k) => {
			const standing = standingOf(transforms, k * 12)!;
			places!.set(
				yUp(standing.origin.map((v, c) => v - origin[c]!)).map((v) => v / MM_PER_M),
				k * 3
			);
			turns!.set(quaternionOf([yUp(standing.axes[0]), yUp(standing.axes[1]), yUp(standing.axes[2])]), k * 4);
			scales!.set(
				standing.scale.map((v) => v / MM_PER_M),
				k * 3
			);
		});
		const instanced = document
			.createExtension(EXTMeshGPUInstancing)
			.setRequired(true)
			.createInstancedMesh()
			.setAttribute('TRANSLATION', accessor('VEC3', places!))
			.setAttribute('ROTATION', accessor('VEC4', turns!))
			.setAttribute('SCALE', accessor('VEC3', scales!))
			.setAttribute(PANEL_ATTRIBUTE, accessor('SCALAR', Float32Array.from(rows.keys())));
		// All marks with each kind of body would be the larger part of the file.
		const own = Array.from(rows, (row) => marks[numbers![row]!] ?? '');
		addNode(part.material, bodyOf(part.material, Float32Array.from(mesh.positions), mesh.triangles.slice()), own)
			.setTranslation(yUp(origin).map((v) => v / MM_PER_M) as [number, number, number])
			.setExtension('EXT_mesh_gpu_instancing', instanced);
	}
	sink(
		(await new BinaryOnly()
			.registerExtensions([EXTMeshGPUInstancing, KHRMeshQuantization])
			.writeBinary(document)) as Uint8Array<ArrayBuffer>
	);

	function bodyOf(material: string, positions: Float32Array | Int16Array, indices: Uint32Array) {
		const known = materials.get(material) ?? gltfMaterial(document, materialOf(material));
		materials.set(material, known);
		return document
			.createPrimitive()
			.setMaterial(known)
			.setIndices(accessor('SCALAR', indices))
			.setAttribute('POSITION', accessor('VEC3', positions));
	}
	function addNode(material: string, primitive: Primitive, own: readonly string[]) {
		const { name } = materialOf(material);
		const node = document
			.createNode(name)
			.setMesh(document.createMesh(name).addPrimitive(primitive).setExtras({ marks: own }));
		scene.addChild(node);
		return node;
	}
	function materialOf(id: string): Material {
		return project.materials.find((m) => m.id === id)!;
	}
	function accessor(type: 'SCALAR' | 'VEC3' | 'VEC4', array: Float32Array | Uint32Array | Int16Array) {
		return document
			.createAccessor()
			.setType(type)
			.setArray(array as Float32Array<ArrayBuffer>)
			.setNormalized(array instanceof Int16Array)
			.setBuffer(buffer);
	}
}

const MM_PER_M = 1000;
const ORIGIN = [0, 0, 0] as const;
/** The largest number of 16 bits, which stands for 1. */
const WHOLE = 32_767;

/** Positions between -1 and 1 in 16 bits, with the scale and the middle that bring them back. */
function quantised(positions: Float32Array): { array: Int16Array; half: number; middle: readonly number[] } {
	const least = [Infinity, Infinity, Infinity];
	const most = [-Infinity, -Infinity, -Infinity];
	positions.forEach((v, k) => {
		least[k % 3] = Math.min(least[k % 3]!, v);
		most[k % 3] = Math.max(most[k % 3]!, v);
	});
	const middle = least.map((v, k) => (v + most[k]!) / 2);
	const half = Math.max(...least.map((v, k) => (most[k]! - v) / 2)) || 1;
	return {
		array: Int16Array.from(positions, (v, k) => Math.round(((v - middle[k % 3]!) / half) * WHOLE)),
		half,
		middle
	};
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

/** From z up to y up. */
const yUp = ([x, y, z]: readonly number[]): [number, number, number] => [x!, z!, -y!];

/** From mm with z up to metres with y up. */
function metresYUp(positions: Float32Array): Float32Array {
	const turned = new Float32Array(positions.length);
	for (let o = 0; o < positions.length; o += 3) {
		turned[o] = positions[o]! / MM_PER_M;
		turned[o + 1] = positions[o + 2]! / MM_PER_M;
		turned[o + 2] = -positions[o + 1]! / MM_PER_M;
	}
	return turned;
}

function gltfMaterial(document: Document, material: Material): GltfMaterial {
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
