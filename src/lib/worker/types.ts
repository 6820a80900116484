import type { Model } from '../../core/project/pipeline.ts';
import { cellsOfRow } from '../../core/schedule/cellsOfRow.ts';
import { partsOf } from '../../core/schedule/parts.ts';
import { drawPiece, type PieceDrawing } from '../../core/schedule/pieceDrawing.ts';
import { pieceMeshes, type MeshOf } from '../../core/schedule/pieceMesh.ts';
import { typesOf, type PieceType } from '../../core/schedule/types/pieceTypes.ts';
import type { TypeSettings } from '../../core/schedule/types/schema.ts';

/** Types as the drawer shows them: mm, mm2 and kg of the piece that each is measured by. */
export interface TypesView {
	readonly types: readonly (PieceType & { readonly length: number; readonly area: number; readonly weight: number })[];
	/** By face of the model and row of its table of parts. */
	readonly typeOf: readonly Int32Array[];
}

/** The types of all pieces, with what the piece that each is measured by comes to. */
export function viewTypes({ faces }: Model, settings: TypeSettings): TypesView {
	const { types, typeOf } = typesOf(faces, settings);
	return {
		types: types.map((type) => {
			const { columns } = partsOf(faces[type.face]!);
			const of = (name: string) => columns[name]![type.row]!;
			return { ...type, length: of('length'), area: of('area'), weight: of('weight') };
		}),
		typeOf: typeOf.map((list) => list.slice())
	};
}

/** The pieces that types are measured by, drawn; nothing for one that is not there or has no body. O(triangles of their parts). */
export function drawTypes(
	{ faces }: Model,
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

/** The cells that the pieces of a type are at: face and cell. */
export function cellsOfType({ faces }: Model, settings: TypeSettings, type: number) {
	const { typeOf } = typesOf(faces, settings);
	return faces.flatMap((model, face) => {
		const cells = new Set<number>();
		typeOf[face]!.forEach((t, row) => {
			if (t === type) for (const cell of cellsOfRow(model, 'parts', row)) cells.add(cell);
		});
		return [...cells].map((cell) => ({ face, cell }));
	});
}
