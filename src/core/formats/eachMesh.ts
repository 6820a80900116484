import type { Mesh } from '../kit/mesh.ts';
import type { Model } from '../project/pipeline.ts';
import type { Project } from '../project/schema.ts';
import { allPartsOf, type PartTable } from '../schedule/parts.ts';
import { pieceMeshes, type MeshOf } from '../schedule/pieceMesh.ts';
import { eachPiece, type PieceWords } from './pieceRows.ts';

/** Goes through every piece that has a body of its own, in the order of the tables of parts: mm, in the project's coordinates. O(triangles). */
export function eachMesh(
	project: Project,
	model: Model,
	visit: (words: PieceWords, mesh: Mesh, table: PartTable, row: number, face: number) => void
): void {
	let own: { readonly face: number; readonly meshes: (MeshOf | undefined)[] } = { face: -1, meshes: [] };
	eachPiece(
		project,
		model,
		(words, table, r, face) => {
			if (own.face !== face) own = { face, meshes: [] };
			const p = table.part[r]!;
			const meshOf = (own.meshes[p] ??= pieceMeshes(table.parts[p]!.part));
			const mesh = meshOf(table.placed[r]!, table.element[r]!);
			if (mesh && mesh.triangles.length > 0) visit(words, mesh, table, r, face);
		},
		allPartsOf
	);
}
