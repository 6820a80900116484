import { PlatformIO, Primitive, type GLTF, type JSONDocument, type Node } from '@gltf-transform/core';
import { base64, utf8 } from '@scure/base';
import { ZygasterError } from '../../errors.ts';
import type { FileContent, Piece } from '../../mesh/importMesh.ts';

/** Resources lie within the file; nothing is fetched. */
class MemoryIO extends PlatformIO {
	protected async readURI(uri: string): Promise<never> {
		throw new ZygasterError(
			'model-file',
			`This glTF file refers to “${uri}”; bring in a GLB file, which holds everything.`
		);
	}
	protected resolve(_: string, path: string): string {
		return path;
	}
	protected dirname(): string {
		return '';
	}
}

/** Meshes of a glTF 2.0 file where they stand: metres by the standard, its y up turned to z. */
export async function readGltf(bytes: Uint8Array, binary: boolean): Promise<FileContent> {
	const io = new MemoryIO();
	const document = await (binary ? io.readBinary(Uint8Array.from(bytes)) : io.readJSON(embedded(utf8.encode(bytes))));
	const pieces: Piece[] = [];
	for (const node of document.getRoot().listNodes())
		for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
			if (primitive.getMode() !== Primitive.Mode.TRIANGLES) continue;
			const piece = pieceOf(node, primitive);
			if (piece) pieces.push(piece);
		}
	return { mm: 1000, pieces };
}

/** A glTF text with its data addresses decoded. */
function embedded(text: string): JSONDocument {
	const json = JSON.parse(text) as GLTF.IGLTF;
	const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
	for (const { uri } of json.buffers ?? []) {
		const data = /^data:[^,]*;base64,(.*)$/s.exec(uri ?? '')?.[1];
		if (uri && data) resources[uri] = Uint8Array.from(base64.decode(data));
		else if (uri)
			throw new ZygasterError(
				'model-file',
				`This glTF file refers to “${uri}”; bring in a GLB file, which holds everything.`
			);
	}
	// Pictures do not matter here.
	return { json: { ...json, images: [], textures: [], materials: [] }, resources };
}

function pieceOf(node: Node, primitive: Primitive): Piece | undefined {
	const position = primitive.getAttribute('POSITION');
	if (!position) return undefined;
	const m = node.getWorldMatrix();
	const count = position.getCount();
	const positions = new Float64Array(count * 3);
	const p: number[] = [];
	for (let k = 0; k < count; k++) {
		position.getElement(k, p);
		const at = (row: number) => m[row]! * p[0]! + m[4 + row]! * p[1]! + m[8 + row]! * p[2]! + m[12 + row]!;
		positions.set([at(0), -at(2), at(1)], k * 3);
	}
	const indices = primitive.getIndices()?.getArray();
	const triangles = indices ? Uint32Array.from(indices) : Uint32Array.from({ length: count }, (_, k) => k);
	return { name: node.getName() || node.getMesh()?.getName() || '', mesh: { positions, triangles } };
}
