import type { Model } from '../../core/project/pipeline.ts';
import { cellsOfRow } from '../../core/schedule/cellsOfRow.ts';
import { partsOf } from '../../core/schedule/parts.ts';
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
