import type { FaceWithKeys } from '../hostKeys.ts';
import { partsOf } from '../parts.ts';
import { drawPiece, type PieceDrawing } from '../pieceDrawing.ts';
import { pieceMeshes, type MeshOf } from '../pieceMesh.ts';
import { typesOf } from './pieceTypes.ts';
import type { TypeSettings } from './schema.ts';

/** The pieces that types are measured by, drawn; nothing for one that is not there or has no body. O(triangles of their parts). */
export function drawTypes(
	faces: readonly FaceWithKeys[],
	settings: TypeSettings,
	list: readonly number[]
): (PieceDrawing | undefined)[] {
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
		const mesh = meshOf(table.placed[type.row]!, table.element[type.row]!);
		return mesh && drawPiece(mesh);
	});
}
