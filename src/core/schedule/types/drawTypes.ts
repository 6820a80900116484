import type { Mesh } from '../../kit/mesh.ts';
import type { FaceWithKeys } from '../hostKeys.ts';
import { partsOf } from '../parts.ts';
import { drawPiece, type PieceDrawing } from '../pieceDrawing.ts';
import { pieceMeshes, type MeshOf } from '../pieceMesh.ts';
import { typesOf } from './pieceTypes.ts';
import type { TypeSettings } from './schema.ts';

/** The bodies of the pieces that types are measured by; nothing for one that is not there or has no body. O(triangles of their parts). */
export function typeMeshes(
	faces: readonly FaceWithKeys[],
	settings: TypeSettings,
	list: readonly number[]
): (Mesh | undefined)[] {
	const { types } = typesOf(faces, settings);
	const meshes = new Map<string, MeshOf>();
	return list.map((t) => {
		const type = types[t];
		if (!type) return undefined;
		const table = partsOf(faces[type.face]!);
		const p = table.part[type.row]!;
		const key = `${type.face} ${p}`;
		const meshOf = meshes.get(key) ?? pieceMeshes(table.parts[p]!.part);
		meshes.set(key, meshOf);
		return meshOf(table.placed[type.row]!, table.element[type.row]!);
	});
}

/** The same, drawn. */
export const drawTypes = (...of: Parameters<typeof typeMeshes>): (PieceDrawing | undefined)[] =>
	typeMeshes(...of).map((mesh) => mesh && drawPiece(mesh));
