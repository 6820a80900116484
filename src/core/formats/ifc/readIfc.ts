import { ZygasterError } from '../../errors.ts';
import type { FileContent, Piece } from '../../mesh/importMesh.ts';

/** What is used of the package `web-ifc`. */
export interface IfcPort {
	OpenModel(data: Uint8Array): number;
	CloseModel(model: number): void;
	StreamAllMeshes(model: number, each: (mesh: FlatMesh) => void): void;
	GetGeometry(
		model: number,
		id: number
	): {
		GetVertexData(): number;
		GetVertexDataSize(): number;
		GetIndexData(): number;
		GetIndexDataSize(): number;
		delete(): void;
	};
	GetVertexArray(pointer: number, size: number): Float32Array;
	GetIndexArray(pointer: number, size: number): Uint32Array;
	GetLine(model: number, id: number): { Name?: { value?: string } | null } | undefined;
	GetNameFromTypeCode(type: number): string;
	GetLineType(model: number, id: number): number;
}

interface FlatMesh {
	readonly expressID: number;
	readonly geometries: {
		size(): number;
		get(k: number): { readonly geometryExpressID: number; readonly flatTransformation: readonly number[] };
	};
}

/** Numbers at each vertex: position and normal. */
const STRIDE = 6;

/** Products of an IFC file (ISO 16739), each one piece; the package answers metres with y up. */
export function readIfc(ifc: IfcPort, bytes: Uint8Array): FileContent {
	const model = ifc.OpenModel(bytes);
	if (model < 0) throw new ZygasterError('model-file', 'This IFC file cannot be opened; it may be cut off or damaged.');
	const pieces: Piece[] = [];
	try {
		ifc.StreamAllMeshes(model, (mesh) => {
			const positions: number[] = [];
			const triangles: number[] = [];
			for (let k = 0; k < mesh.geometries.size(); k++) {
				const { geometryExpressID, flatTransformation: m } = mesh.geometries.get(k);
				const geometry = ifc.GetGeometry(model, geometryExpressID);
				const vertices = ifc.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
				const first = positions.length / 3;
				for (let o = 0; o < vertices.length; o += STRIDE) {
					const at = (row: number) =>
						m[row]! * vertices[o]! + m[4 + row]! * vertices[o + 1]! + m[8 + row]! * vertices[o + 2]! + m[12 + row]!;
					positions.push(at(0), -at(2), at(1));
				}
				for (const index of ifc.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize()))
					triangles.push(first + index);
				geometry.delete();
			}
			pieces.push({
				name: nameOf(ifc, model, mesh.expressID),
				mesh: { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
			});
		});
	} finally {
		ifc.CloseModel(model);
	}
	return { mm: 1000, pieces };
}

function nameOf(ifc: IfcPort, model: number, id: number): string {
	const kind = ifc.GetNameFromTypeCode(ifc.GetLineType(model, id)).replace(/^ifc/i, '');
	const name = ifc.GetLine(model, id)?.Name?.value;
	return name ? `${name} (${kind.toLowerCase()})` : `${kind.toLowerCase()} ${id}`;
}
